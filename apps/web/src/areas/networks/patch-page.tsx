/** Hosts down, networks across: what is carried how and by which ports; gaps, single paths and faults are seen at a glance. */
import { useUrlState } from '../../client/url-state.js';
import { useRead } from '../../client/read.js';
import { Table, Alike, SHORT } from './patch-table.js';
import { NamedSelect } from '../../components/named-select.js';

const WINDOW = 100;
export function PatchPage() {
  const [search, set] = useUrlState();
  const siteId = search.get('site') ?? '';
  const from = Number(search.get('from') ?? 0);
  const sites = useRead('sites').data ?? [];
  const table = useRead('patchTable', { from, take: WINDOW, siteId }, { keep: true });
  if (table.error) return <p className="p-6 text-signal">{table.error.message}</p>;
  if (!table.data) return null;
  const { networks, rows, total } = table.data;
  return (
    <div className="h-full overflow-auto px-6 py-3">
      <div className="flex flex-wrap items-center gap-x-4">
        <h1>Patch table</h1>
        <label className="flex items-center gap-1">
          Site{' '}
          <NamedSelect
            aria-label="Site"
            value={siteId}
            onChange={(event) => set({ site: event.target.value, from: '' })}
            rows={sites}
            none="all"
          />
        </label>
        <span className="text-[13px] text-faint">
          {Object.entries(SHORT)
            .map(([mode, short]) => `${short} ${mode}`)
            .join(' · ')}{' '}
          · <span className="text-amber">◆</span> one path only ·{' '}
          <span className="text-signal">■</span> frames do not pass
        </span>
        {total > WINDOW && (
          <span className="ml-auto">
            {from > 0 && (
              <button
                type="button"
                className="act"
                onClick={() => set({ from: String(Math.max(0, from - WINDOW)) })}
              >
                Earlier
              </button>
            )}{' '}
            {from + 1}–{Math.min(total, from + WINDOW)} of {total}{' '}
            {from + WINDOW < total && (
              <button
                type="button"
                className="act"
                onClick={() => set({ from: String(from + WINDOW) })}
              >
                Later
              </button>
            )}
          </span>
        )}
      </div>
      {rows.length === 0 ? (
        <p className="py-4 text-faint">
          No host yet. The patch table shows which host carries which network.
        </p>
      ) : (
        <Table networks={networks} rows={rows} />
      )}
      {siteId && rows.length > 1 && <Alike rows={rows} />}
    </div>
  );
}
