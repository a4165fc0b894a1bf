import { checkInput, type GuestListRow, type Preview } from '@insel/contract';
import { readPattern, SPREAD_RULES, type SpreadRule } from '@insel/core';
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
import { CloneTable, type Cells } from './clone-table.js';

const EMPTY = {
  originId: '',
  count: '3',
  pattern: '',
  start: '1',
  copy: 'full',
  taking: 'run',
  spread: 'beside' as SpreadRule,
  cells: {} as Cells,
  reason: '',
  override: '',
};
type Draft = typeof EMPTY;

const SPREAD_WORDS: Record<SpreadRule, string> = {
  beside: 'beside the origin',
  room: 'evenly, by room left',
  'one a host': 'one a host, in turns',
  fill: 'one host after the other',
};

export function MakeClonesPage() {
  const go = useNavigate();
  const [search] = useSearchParams();
  const [draft, set, forget] = useDraft<Draft>(`clones:${search.get('of') ?? ''}`, () => EMPTY);
  const originId = draft.originId || search.get('of') || '';
  const origin = useRead('guest', originId !== '' ? { id: originId } : null).data?.guest;
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const count = Math.max(0, Math.min(200, Number(draft.count) || 0));
  const pattern = draft.pattern || (origin ? `${origin.name}-{n}` : '');
  const read = readPattern(pattern);
  const input = {
    originId,
    copy: draft.copy,
    pattern,
    start: Number(draft.start),
    taking: draft.taking,
    spread: draft.spread,
    clones: Array.from({ length: count }, (_, i) => draft.cells[i] ?? {}),
  };
  const result = checkInput('clone.make', input);
  const preview = usePreview('clone.make', result.ok ? result.value : null);
  const made = useLastMade(preview);
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
  const error: Errors = { ...objected(preview), ...errorsOf(problem), ...errors };
  const text = (field: keyof Draft) => ({
    value: draft[field] as string,
    onChange: (event: { target: { value: string } }) => set({ [field]: event.target.value }),
  });
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
            <Field
              label="Names"
              error={error.pattern ?? (read.ok ? undefined : read.sentence)}
              hint="{01..12}, {a..d}, {n} counts, {host}, {site}"
            >
              <input value={pattern} onChange={(event) => set({ pattern: event.target.value })} />
            </Field>
            <Field
              label="First number"
              error={error.start}
              hint={read.ok && read.ends !== null ? 'the range says it' : undefined}
            >
              <input
                className="mono"
                inputMode="numeric"
                disabled={read.ok && read.ends !== null}
                {...text('start')}
              />
            </Field>
            <Field label="Hosts" error={error.spread}>
              <select {...text('spread')}>
                {SPREAD_RULES.map((rule) => (
                  <option key={rule} value={rule}>
                    {SPREAD_WORDS[rule]}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="Addresses" error={error.taking}>
              <select {...text('taking')}>
                <option value="run">consecutive</option>
                <option value="single">the lowest free ones</option>
              </select>
            </Field>
          </div>
          {originId !== '' && count > 0 && (
            <CloneTable
              count={count}
              made={made}
              cells={draft.cells}
              onCells={(cells) => set({ cells })}
              faults={error}
            />
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

/** What was made last: it stays in sight while a cell is wrong, so that the cell can be mended. */
function useLastMade(preview: Preview | undefined): Preview['made'] {
  const [held, setHeld] = useState<Preview['made']>([]);
  const made = preview?.made;
  if (made && made.length > 0 && made !== held) setHeld(made);
  return held;
}

/** Objections by the field they stand at. */
const objected = (preview: Preview | undefined): Errors =>
  Object.fromEntries(
    (preview?.objections ?? []).flatMap(({ field, sentence }) =>
      field ? [[field, sentence]] : [],
    ),
  );
