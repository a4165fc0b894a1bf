/** The next hosts like this one: names and addresses go on, the rest is kept; every cell can be altered before they are planned. */
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useUrlState } from '../../frame/url-state.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Consequences, usePreview } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { Field } from '../../components/field.js';
import { useRead } from '../../frame/read.js';

type Cells = Record<number, { name?: string; ip?: string; unit?: string; serial?: string }>;

export function AlikePage() {
  const { id = '' } = useParams();
  const go = useNavigate();
  const [search, set] = useUrlState();
  const count = Math.max(1, Math.min(100, Number(search.get('count')) || 1));
  const sheet = useRead('host', { id }).data;
  const alike = useRead('hostsAlike', { id, count }).data;
  const [cells, setCells] = useState<Cells>({});
  const [said, setSaid] = useState({ reason: '', override: '' });
  const { make, busy, problem } = useChange();
  const hosts = (alike ?? []).map((one, i) => {
    const cell = cells[i] ?? {};
    const { body } = one;
    const name = cell.name?.trim() || one.name;
    return {
      ...body,
      name,
      pools: body.pools?.map((pool) => ({ ...pool, name: pool.name.replace(one.name, name) })),
      ...(cell.serial ? { serial: cell.serial } : {}),
      ...(cell.unit ? { rackUnit: Number(cell.unit) } : {}),
      ...(body.management
        ? { management: { ...body.management, ...(cell.ip ? { ip: cell.ip.trim() } : {}) } }
        : {}),
    };
  });
  const preview = usePreview('host.record-many', hosts.length ? { hosts } : null);
  const alter = (i: number, field: keyof Cells[number], value: string) =>
    setCells({ ...cells, [i]: { ...cells[i], [field]: value } });
  const send = async () => {
    const written = await make('host.record-many', { hosts }, said);
    if (written)
      void go(
        written.subjects.length === 1
          ? `/hosts/${written.subjects[0]!.id}/build-sheet`
          : '/hosts?state=planned',
      );
  };
  return (
    <Making
      title={`Next like ${sheet?.host.name ?? '…'}`}
      consequences={<Consequences preview={preview} planning />}
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
                      aria-label={`Name of host ${i + 1}`}
                      className="w-[170px]"
                      placeholder={one.name}
                      value={cells[i]?.name ?? ''}
                      onChange={(event) => alter(i, 'name', event.target.value)}
                    />
                  </td>
                  <td>
                    <input
                      aria-label={`Address of host ${i + 1}`}
                      className="mono w-[160px]"
                      placeholder={one.ip ?? 'none free'}
                      value={cells[i]?.ip ?? ''}
                      onChange={(event) => alter(i, 'ip', event.target.value)}
                    />
                  </td>
                  <td>
                    <input
                      aria-label={`Unit of host ${i + 1}`}
                      className="mono w-[60px]"
                      placeholder={one.rackUnit === null ? '–' : String(one.rackUnit)}
                      value={cells[i]?.unit ?? ''}
                      onChange={(event) => alter(i, 'unit', event.target.value)}
                    />
                  </td>
                  <td>
                    <input
                      aria-label={`Serial of host ${i + 1}`}
                      className="mono w-[140px]"
                      value={cells[i]?.serial ?? ''}
                      onChange={(event) => alter(i, 'serial', event.target.value)}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Sending
            label={`Plan ${count} ${count === 1 ? 'host' : 'hosts'}`}
            busy={busy}
            problem={problem}
            preview={preview}
            said={said}
            set={(more) => setSaid({ ...said, ...more })}
            onSend={() => send()}
          />
        </form>
      }
    />
  );
}
