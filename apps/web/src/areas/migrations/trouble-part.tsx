/** When it does not come up: what somebody sees, and what this record makes likely, in that order. */
import type { MigrationSheet } from '@insel/contract';
import { SIGNS, type Sign } from '@insel/core';
import { Part } from '../../components/sheet.js';
import { useRead } from '../../frame/read.js';
import { useUrlState } from '../../frame/url-state.js';

export function TroublePart({ sheet: { migration } }: { sheet: MigrationSheet }) {
  const [search, set] = useUrlState();
  const sign = SIGNS.find((one) => one === search.get('sign')) ?? null;
  const causes = useRead('trouble', sign ? { id: migration.id, sign } : null).data;
  if (migration.state === 'accepted') return null;
  return (
    <Part title="In trouble">
      <label className="flex flex-col text-xs font-bold text-faint">
        It does not come up, or the copy does not run: what is seen
        <select
          className="max-w-[360px]"
          value={sign ?? ''}
          onChange={(event) => set({ sign: event.target.value as Sign })}
        >
          <option value="">choose the sign</option>
          {SIGNS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </label>
      {causes?.length === 0 && (
        <p>
          Nothing that is common: both sides are alike. Look at what was altered last, in the log.
        </p>
      )}
      {causes && causes.length > 0 && (
        <ol className="mt-1 list-decimal pl-5">
          {causes.map((cause) => (
            <li key={cause.key} className="border-b border-rule py-1">
              <b>{cause.title}.</b>{' '}
              {cause.because ? (
                <span className="text-amber">◆ {cause.because}</span>
              ) : (
                <span className="text-faint">Nothing in the record speaks for it.</span>
              )}
              <p className="text-[13px]">
                <span className="text-faint">Look:</span> {cause.test}{' '}
                <span className="text-faint">Then:</span> {cause.mend}
              </p>
            </li>
          ))}
        </ol>
      )}
    </Part>
  );
}
