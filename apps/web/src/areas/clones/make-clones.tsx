import { checkInput, type GuestListRow, type Preview } from '@insel/contract';
import { MOST_CLONES, parseMemory, readPattern, SPREAD_RULES, type SpreadRule } from '@insel/core';
import { useState, type KeyboardEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useDraft } from '../../frame/draft.js';
import { useChange } from '../../frame/change.js';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { Consequences, usePreview } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { errorsOf, Field, type Errors } from '../../components/field.js';
import { useRead } from '../../frame/read.js';
import { BatchTime } from './batch-time.js';
import { BatchTolerance } from './batch-tolerance.js';
import { CloneTable } from './clone-table.js';
import { type CloneCells, type Cells } from './clone-cell.js';

const EMPTY = {
  originId: '',
  count: '3',
  pattern: '',
  start: '1',
  copy: 'full',
  taking: 'run',
  addressUse: 'static',
  spread: 'beside' as SpreadRule,
  vcpu: '',
  memory: '',
  groupId: '',
  serviceId: '',
  owner: '',
  endDate: '',
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
  const lineName = useRead('templates').data?.find(({ versions }) =>
    versions.some(({ guestId }) => guestId === originId),
  )?.name;
  const groups = useRead('guestGroups').data ?? [];
  const services = useRead('services').data ?? [];
  const { make, busy, problem } = useChange();
  const [errors, setErrors] = useState<Errors>({});
  const count = Math.max(0, Math.min(MOST_CLONES, Number(draft.count) || 0));
  const pattern = draft.pattern || (origin ? `${lineName ?? origin.name}-{n}` : '');
  const read = readPattern(pattern);
  const input = {
    originId,
    copy: draft.copy,
    pattern,
    start: Number(draft.start),
    taking: draft.taking,
    addressUse: draft.addressUse,
    spread: draft.spread,
    ...sizeOf(draft),
    ...given({
      groupId: draft.groupId,
      serviceId: draft.serviceId,
      owner: draft.owner,
      endDate: draft.endDate,
    }),
    clones: Array.from({ length: count }, (_, i) => asked(draft.cells[i] ?? {})),
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
    const written = await make('clone.make', result.value, draft);
    if (!written) return;
    forget();
    const ids = written.created.filter(({ kind }) => kind === 'guest').map(({ id }) => id);
    // A longer address than this some browsers and servers cut off.
    void go(ids.length <= 40 ? `/clones/batch?ids=${ids.join(',')}` : '/clones');
  };
  const error: Errors = { ...objected(preview), ...errorsOf(problem), ...errors };
  const text = (field: keyof Draft) => ({
    value: draft[field] as string,
    onChange: (event: { target: { value: string } }) => set({ [field]: event.target.value }),
  });
  return (
    <Making
      title="Make clones"
      consequences={
        <>
          <BatchTime time={preview?.time ?? null} />
          <BatchTolerance tolerance={preview?.tolerance ?? null} />
          <Consequences preview={preview} planning />
        </>
      }
      form={
        <form onSubmit={(event) => event.preventDefault()} onKeyDown={toTheButton}>
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
              <input
                className="mono"
                inputMode="numeric"
                autoFocus={search.has('of')}
                onFocus={(event) => event.target.select()}
                {...text('count')}
              />
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
                <option value="by hand">disks copied by hand, guests around them</option>
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
                <option value="none">none but those written below</option>
              </select>
            </Field>
            <Field label="They are" error={error.addressUse}>
              <select {...text('addressUse')}>
                <option value="static">set inside each</option>
                <option value="reservation">reserved at the DHCP server</option>
              </select>
            </Field>
          </div>
          <details className="mt-2 max-w-[760px]" open={somethingMore(draft)}>
            <summary className="min-h-6 cursor-pointer text-[13px] font-bold">
              What differs from the origin
            </summary>
            <div className="grid grid-cols-3 gap-3">
              <Field label="vCPU" error={error.vcpu} hint="empty: as the origin">
                <input className="mono" inputMode="numeric" {...text('vcpu')} />
              </Field>
              <Field label="Memory" error={error.memoryMiB} hint="such as 2 GiB">
                <input className="mono" {...text('memory')} />
              </Field>
              <Field label="Owner" error={error.owner}>
                <input {...text('owner')} />
              </Field>
              <Field label="Group" error={error.groupId}>
                <select {...text('groupId')}>
                  <option value="">as the origin</option>
                  {groups.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </Field>
              <Field label="Service they provide" error={error.serviceId}>
                <select {...text('serviceId')}>
                  <option value="">none</option>
                  {services.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </Field>
              <Field label="Wanted until" error={error.endDate}>
                <input className="mono" placeholder="2027-06-30" {...text('endDate')} />
              </Field>
            </div>
          </details>
          <div></div>
          {originId !== '' && count > 0 && (
            <CloneTable
              count={count}
              made={made}
              cells={draft.cells}
              onCells={(cells) => set({ cells })}
              faults={error}
            />
          )}
          <Sending
            label={`Plan ${count} ${count === 1 ? 'clone' : 'clones'}`}
            busy={busy}
            problem={problem}
            preview={preview}
            said={draft}
            set={set}
            onSend={() => send()}
          />
        </form>
      }
    />
  );
}

/** Enter in a field goes to the button: one look, and Enter once more plans them. */
function toTheButton(event: KeyboardEvent<HTMLFormElement>) {
  const { target, key, defaultPrevented } = event;
  if (key !== 'Enter' || defaultPrevented || !(target instanceof HTMLInputElement)) return;
  event.preventDefault();
  event.currentTarget.querySelector<HTMLElement>('button.press')?.focus();
}

/** What is not empty. */
const given = <T extends Record<string, string>>(fields: T): Partial<T> =>
  Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== '')) as Partial<T>;

/** As typed; what cannot be read is sent as it is, so that the check says what is wrong with it. */
function sizeOf({ vcpu, memory }: { vcpu?: string; memory?: string }) {
  const size = parseMemory(memory ?? '');
  return {
    ...(vcpu ? { vcpu: Number(vcpu) } : {}),
    ...(memory ? { memoryMiB: size.ok ? size.value : Number.NaN } : {}),
  };
}

const asked = ({ vcpu, memory, ...cells }: CloneCells) => ({
  ...cells,
  ...sizeOf({ vcpu, memory }),
});

const somethingMore = (draft: Draft): boolean =>
  [draft.vcpu, draft.memory, draft.groupId, draft.serviceId, draft.owner, draft.endDate].some(
    (value) => value !== '',
  );

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
