/** When it does not come up: what somebody sees, and what this record makes likely, in that order. */
import type { MigrationSheet } from '@insel/contract';
import { counted, SIGNS, type Cause, type Sign } from '@insel/core';
import { ProblemNote } from '../../components/problem.js';
import { Part } from '../../components/sheet.js';
import { useChange } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';

export function TroublePart({ sheet: { migration } }: { sheet: MigrationSheet }) {
  const [search, set] = useUrlState();
  const sign = SIGNS.find((one) => one === search.get('sign')) ?? null;
  const { make, makeThis, anyway, problem } = useChange();
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
            <CauseLine
              key={cause.key}
              cause={cause}
              found={(was) =>
                void make('migration.answer', {
                  migrationId: migration.id,
                  sign: sign!,
                  cause: cause.key,
                  was,
                })
              }
              mend={() => void makeThis(cause.change!.change)}
            />
          ))}
        </ol>
      )}
      <ProblemNote problem={problem} anyway={anyway} />
    </Part>
  );
}

function CauseLine({
  cause,
  found,
  mend,
}: {
  cause: Cause;
  found: (was: boolean) => void;
  mend: () => void;
}) {
  const { title, because, test, answered, change, was, wasNot } = cause;
  const mayPlan = useMayPlan();
  return (
    <li className={`border-b border-rule py-1 ${answered === 'it was not' ? 'text-faint' : ''}`}>
      <b className={answered === 'it was not' ? 'line-through' : ''}>{title}.</b>{' '}
      {answered && <b>{answered === 'it was' ? 'It was this.' : 'It was not this.'}</b>}{' '}
      {because ? (
        <span className="text-amber">◆ {because}</span>
      ) : (
        <span className="text-faint">Nothing in the record speaks for it.</span>
      )}
      {was + wasNot > 0 && (
        <span className="text-faint">
          {' '}
          At other moves with this sign it was this {was} of {counted(was + wasNot, 'time')}.
        </span>
      )}
      <p className="text-[13px]">
        <span className="text-faint">Look:</span> {test} <span className="text-faint">Then:</span>{' '}
        {cause.mend}
      </p>
      {mayPlan && (
        <p className="flex flex-wrap gap-3 text-[13px]">
          {answered !== 'it was' && (
            <button
              type="button"
              className="act"
              aria-label={`It was this: ${title}`}
              onClick={() => found(true)}
            >
              It was this
            </button>
          )}
          {answered === null && (
            <button
              type="button"
              className="act"
              aria-label={`It was not this: ${title}`}
              onClick={() => found(false)}
            >
              It was not
            </button>
          )}
          {change && (
            <button type="button" className="act" onClick={mend}>
              {change.label}
            </button>
          )}
        </p>
      )}
    </li>
  );
}
