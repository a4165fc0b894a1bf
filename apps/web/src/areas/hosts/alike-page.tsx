/** The next hosts like this one: names and addresses go on, the rest is kept; every cell can be altered before they are planned. */
import type { AlikeView } from '@insel/contract';
import { useNavigate, useParams } from 'react-router';
import { useUrlState } from '../../client/url-state.js';
import { Making } from '../../components/area.js';
import { useChangeForm } from '../../components/change-form.js';
import { Consequences } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { useKeptForm } from '../../components/kept-form.js';
import { Field } from '../../components/field.js';
import { useRead } from '../../client/read.js';

interface Cell {
  name?: string;
  ip?: string;
  unit?: string;
  serial?: string;
}
interface Draft {
  /** What is typed instead of what goes on by itself. */
  cells: Record<number, Cell>;
  reason: string;
  override: string;
}

function hostOf({ name, body }: AlikeView, cell: Cell): object {
  const own = cell.name?.trim() || name;
  return {
    ...body,
    name: own,
    pools: body.pools?.map((pool) => ({ ...pool, name: pool.name.replace(name, own) })),
    ...(cell.serial ? { serial: cell.serial } : {}),
    ...(cell.unit ? { rackUnit: Number(cell.unit) } : {}),
    ...(body.management
      ? { management: { ...body.management, ...(cell.ip ? { ip: cell.ip.trim() } : {}) } }
      : {}),
  };
}

/** Cells of so many hosts, by what is sent of them. */
const typedIn = (count: number): Record<string, `cells.${string}`> =>
  Object.assign(
    {},
    ...Array.from({ length: count }, (_, i) => ({
      [`hosts.${i}.name`]: `cells.${i}.name`,
      [`hosts.${i}.serial`]: `cells.${i}.serial`,
      [`hosts.${i}.rackUnit`]: `cells.${i}.unit`,
      [`hosts.${i}.management.ip`]: `cells.${i}.ip`,
    })),
  ) as Record<string, `cells.${string}`>;

export function AlikePage() {
  const { id = '' } = useParams();
  const go = useNavigate();
  const [search, set] = useUrlState();
  const count = Math.max(1, Math.min(100, Number(search.get('count')) || 1));
  const sheet = useRead('host', { id }).data;
  const alike = useRead('hostsAlike', { id, count }).data;
  const kept = useKeptForm<Draft>(`alike:${id}`, () => ({ cells: {}, reason: '', override: '' }));
  const form = useChangeForm(kept, {
    type: 'host.record-many',
    read: ({ cells }) => [{ hosts: (alike ?? []).map((one, i) => hostOf(one, cells[i] ?? {})) }],
    typedIn: typedIn(count),
    previews: () => (alike ?? []).length > 0,
    sent: ({ subjects }) =>
      void go(
        subjects.length === 1 ? `/hosts/${subjects[0]!.id}/build-sheet` : '/hosts?state=planned',
      ),
  });
  const cell = (i: number, field: keyof Cell, label: string) => ({
    'aria-label': `${label} of host ${i + 1}`,
    ...kept.control(`cells.${i}.${field}`),
  });
  return (
    <Making
      title={`Next like ${sheet?.host.name ?? '…'}`}
      consequences={<Consequences preview={form.preview} planning />}
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <p className="max-w-[700px] text-faint">
            Kept: platform, group, place, processors, memory, disks and arrays, ports, networks
            carried, time zone, licence. Left out, since it is each machine’s own: serial numbers,
            MACs, fingerprint, what the system sees.
          </p>
          <div className="my-2 w-[120px]">
            <Field label="How many">
              <input
                autoFocus
                className="mono"
                inputMode="numeric"
                value={search.get('count') ?? '1'}
                onChange={(event) => set({ count: event.target.value })}
              />
            </Field>
          </div>
          <table className="w-full max-w-[760px] text-left text-[13px]">
            <caption className="text-left text-xs font-bold text-pencil">
              What will be planned; every cell can be altered
            </caption>
            <thead className="text-xs text-faint">
              <tr>
                <th>Name</th>
                <th>Address</th>
                <th>Unit</th>
                <th>Serial</th>
              </tr>
            </thead>
            <tbody>
              {(alike ?? []).map((one, i) => (
                <tr key={i} className="border-b border-dashed border-pencil">
                  <td>
                    <input
                      className="w-[170px]"
                      placeholder={one.name}
                      {...cell(i, 'name', 'Name')}
                    />
                  </td>
                  <td>
                    <input
                      className="mono w-[160px]"
                      placeholder={one.ip ?? 'none free'}
                      {...cell(i, 'ip', 'Address')}
                    />
                  </td>
                  <td>
                    <input
                      className="mono w-[60px]"
                      placeholder={one.rackUnit === null ? '–' : String(one.rackUnit)}
                      {...cell(i, 'unit', 'Unit')}
                    />
                  </td>
                  <td>
                    <input className="mono w-[140px]" {...cell(i, 'serial', 'Serial')} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Sending label={`Plan ${count} ${count === 1 ? 'host' : 'hosts'}`} form={form} />
        </form>
      }
    />
  );
}
