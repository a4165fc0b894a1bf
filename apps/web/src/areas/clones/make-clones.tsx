import { checkInput, type GuestListRow, type HostListRow } from '@insel/contract';
import { formatMemory } from '@insel/core';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { Consequences, Sending, usePreview } from '../../components/consequences.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { ProblemNote } from '../../components/problem.js';
import { useRead } from '../../frame/read.js';

const EMPTY = {
  originId: '',
  count: '3',
  pattern: '',
  start: '1',
  copy: 'full',
  taking: 'run',
  cells: {} as Record<string, { name?: string; ip?: string; hostId?: string }>,
  reason: '',
  override: '',
};
type Draft = typeof EMPTY;

export function MakeClonesPage() {
  const go = useNavigate();
  const [search] = useSearchParams();
  const [draft, set, forget] = useDraft<Draft>(`clones:${search.get('of') ?? ''}`, () => EMPTY);
  const originId = draft.originId || search.get('of') || '';
  const origin = useRead('guest', originId !== '' ? { id: originId } : null).data?.guest;
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const count = Math.max(0, Math.min(200, Number(draft.count) || 0));
  const pattern = draft.pattern || (origin ? `${origin.name}-#` : '');
  const input = {
    originId,
    copy: draft.copy,
    pattern,
    start: Number(draft.start),
    taking: draft.taking,
    clones: Array.from({ length: count }, (_, i) => clean(draft.cells[i])),
  };
  const result = checkInput('clone.make', input);
  const preview = usePreview('clone.make', result.ok ? result.value : null);
  const send = async () => {
    const found: Errors = result.ok
      ? {}
      : Object.fromEntries(result.complaints.map(({ field, sentence }) => [field, sentence]));
    if (!originId) found.originId = 'Choose the guest to copy.';
    setErrors(found);
    if (!result.ok || Object.keys(found).length) return;
    if (!(await make('clone.make', result.value, draft))) return;
    forget();
    void go('/clones');
  };
  const error = { ...errorsOf(problem), ...errors };
  const text = (field: keyof Draft) => ({
    value: draft[field] as string,
    onChange: (event: { target: { value: string } }) => set({ [field]: event.target.value }),
  });
  const cell = (i: number, field: 'name' | 'ip' | 'hostId', value: string) =>
    set({ cells: { ...draft.cells, [i]: { ...draft.cells[i], [field]: value } } });
  return (
    <Making
      title="Make clones"
      consequences={<Consequences preview={preview} planning />}
      form={
        <form onSubmit={(event) => event.preventDefault()}>
          <div className="grid max-w-[760px] grid-cols-3 gap-3">
            <Field label="Copy of" error={error.originId}>
              <Choose<GuestListRow>
                list="guests"
                value={originId}
                onChange={(id) => set({ originId: id })}
                detail={(row) => `${row.template ? 'template, ' : ''}${row.state}`}
              />
            </Field>
            <Field label="How many">
              <input className="mono" inputMode="numeric" {...text('count')} />
            </Field>
            <Field
              label="Kind"
              hint={
                draft.copy === 'dependent'
                  ? 'its base may never be altered or removed'
                  : 'costs its full size'
              }
            >
              <select {...text('copy')}>
                <option value="full">full copies</option>
                <option value="dependent">dependent on the base</option>
              </select>
            </Field>
            <Field label="Name pattern" error={error.pattern} hint="# stands for the number">
              <input value={pattern} onChange={(event) => set({ pattern: event.target.value })} />
            </Field>
            <Field label="First number" error={error.start}>
              <input className="mono" inputMode="numeric" {...text('start')} />
            </Field>
            <Field label="Addresses" error={error.taking}>
              <select {...text('taking')}>
                <option value="run">consecutive</option>
                <option value="single">the lowest free ones</option>
              </select>
            </Field>
          </div>
          {preview && preview.made.length > 0 && (
            <table className="mt-4 w-full max-w-[760px] text-left text-[13px]">
              <caption className="text-left text-xs font-bold text-pencil">
                What will be made; every cell can be altered
              </caption>
              <thead className="text-xs text-faint">
                <tr>
                  <th>Name</th>
                  <th>Host</th>
                  <th>Address</th>
                  <th>MAC</th>
                </tr>
              </thead>
              <tbody>
                {preview.made.map((made, i) => (
                  <tr key={i} className="border-b border-dashed border-pencil">
                    <td>
                      <input
                        aria-label={`Name of clone ${i + 1}`}
                        className="w-[150px]"
                        value={draft.cells[i]?.name ?? ''}
                        placeholder={made.name}
                        onChange={(event) => cell(i, 'name', event.target.value)}
                      />
                    </td>
                    <td>
                      <Choose<HostListRow>
                        list="hosts"
                        label={`Host of clone ${i + 1}`}
                        placeholder={made.host}
                        value={draft.cells[i]?.hostId ?? ''}
                        onChange={(id) => cell(i, 'hostId', id)}
                        detail={(row) => `${formatMemory(row.memoryLeftMiB, 'down')} left`}
                      />
                    </td>
                    <td>
                      <input
                        aria-label={`Address of clone ${i + 1}`}
                        className="mono w-[150px]"
                        value={draft.cells[i]?.ip ?? ''}
                        placeholder={made.ip}
                        onChange={(event) => cell(i, 'ip', event.target.value)}
                      />
                    </td>
                    <td className="text-faint">generated</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <ProblemNote problem={problem} />
          <Sending
            label={`Plan ${count} ${count === 1 ? 'clone' : 'clones'}`}
            busy={busy}
            blocked={Boolean(
              problem?.overridable || preview?.objections.some((found) => found.overridable),
            )}
            reason={draft.reason}
            override={draft.override}
            onReason={(reason) => set({ reason })}
            onOverride={(override) => set({ override })}
            onSend={() => void send()}
          />
        </form>
      }
    />
  );
}

const clean = (cell: object | undefined): object =>
  Object.fromEntries(Object.entries(cell ?? {}).filter(([, value]) => value !== ''));
