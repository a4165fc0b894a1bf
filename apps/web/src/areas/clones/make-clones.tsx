import type { GuestListRow, Preview } from '@insel/contract';
import { readPattern, SPREAD_RULES, type SpreadRule } from '@insel/core';
import { useState, type KeyboardEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { Making } from '../../components/area.js';
import { Choose } from '../../components/choose.js';
import { useChangeForm } from '../../components/change-form.js';
import { Consequences } from '../../components/consequences.js';
import { Sending } from '../../components/sending.js';
import { useKeptForm } from '../../components/kept-form.js';
import { NamedSelect } from '../../components/named-select.js';
import { Field, type Errors } from '../../components/field.js';
import { useRead } from '../../client/read.js';
import { BatchTime } from './batch-time.js';
import { BatchTolerance } from './batch-tolerance.js';
import { CloneTable } from './clone-table.js';
import { type Draft, EMPTY, countOf, inputOf, somethingMore } from './clones-input.js';

const SPREAD_WORDS: Record<SpreadRule, string> = {
  beside: 'beside the origin',
  room: 'evenly, by room left',
  'one a host': 'one a host, in turns',
  fill: 'one host after the other',
};

export function MakeClonesPage() {
  const go = useNavigate();
  const [search] = useSearchParams();
  const kept = useKeptForm<Draft>(`clones:${search.get('of') ?? ''}`, () => EMPTY);
  const { values: draft, set, held } = kept;
  const originId = draft.originId || search.get('of') || '';
  const origin = useRead('guest', originId !== '' ? { id: originId } : null).data?.guest;
  const lineName = useRead('templates').data?.find(({ versions }) =>
    versions.some(({ guestId }) => guestId === originId),
  )?.name;
  const groups = useRead('guestGroups').data ?? [];
  const services = useRead('services').data ?? [];
  const count = countOf(draft);
  const pattern = draft.pattern || (origin ? `${lineName ?? origin.name}-{n}` : '');
  const names = readPattern(pattern);
  const form = useChangeForm(kept, {
    type: 'clone.make',
    read: (typed) => inputOf(typed, originId, typed.pattern || pattern),
    typedIn: { memoryMiB: 'memory' },
    previews: () => true,
    sent: ({ created }) => {
      const ids = created.filter(({ kind }) => kind === 'guest').map(({ id }) => id);
      // A longer address than this some browsers and servers cut off.
      void go(ids.length <= 40 ? `/clones/batch?ids=${ids.join(',')}` : '/clones');
    },
  });
  const { preview } = form;
  const made = useLastMade(preview);
  const errors: Errors = { ...objected(preview), ...form.errors };
  const at = (name: keyof Draft) => ({ ...held(name), error: errors[name] });
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
            <Field label="Copy of" error={errors.originId}>
              <Choose<GuestListRow>
                list="guests"
                value={originId}
                onChange={(id) => set({ originId: id })}
                detail={(row) => `${row.template ? 'template, ' : ''}${row.state}`}
              />
            </Field>
            <Field label="How many" of={held('count')}>
              <input
                className="mono"
                inputMode="numeric"
                autoFocus={search.has('of')}
                onFocus={(event) => event.target.select()}
              />
            </Field>
            <Field
              label="Kind"
              of={held('copy')}
              hint={
                draft.copy === 'dependent'
                  ? 'its base may never be altered or removed'
                  : 'costs its full size'
              }
            >
              <select>
                <option value="full">full copies</option>
                <option value="by hand">disks copied by hand, guests around them</option>
                <option value="dependent">dependent on the base</option>
              </select>
            </Field>
            <Field
              label="Names"
              error={errors.pattern ?? (names.ok ? undefined : names.sentence)}
              hint="{01..12}, {a..d}, {n} counts, {host}, {site}"
            >
              <input value={pattern} onChange={(event) => set({ pattern: event.target.value })} />
            </Field>
            <Field
              label="First number"
              of={at('start')}
              hint={names.ok && names.ends !== null ? 'the range says it' : undefined}
            >
              <input
                className="mono"
                inputMode="numeric"
                disabled={names.ok && names.ends !== null}
              />
            </Field>
            <Field label="Hosts" of={at('spread')}>
              <select>
                {SPREAD_RULES.map((rule) => (
                  <option key={rule} value={rule}>
                    {SPREAD_WORDS[rule]}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="Addresses" of={at('taking')}>
              <select>
                <option value="run">consecutive</option>
                <option value="single">the lowest free ones</option>
                <option value="none">none but those written below</option>
              </select>
            </Field>
            <Field label="They are" of={at('addressUse')}>
              <select>
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
              <Field label="vCPU" of={at('vcpu')} hint="empty: as the origin">
                <input className="mono" inputMode="numeric" />
              </Field>
              <Field label="Memory" of={at('memory')} hint="such as 2 GiB">
                <input className="mono" />
              </Field>
              <Field label="Owner" of={at('owner')}>
                <input />
              </Field>
              <Field label="Group" of={at('groupId')}>
                <NamedSelect rows={groups} none="as the origin" />
              </Field>
              <Field label="Service they provide" of={at('serviceId')}>
                <NamedSelect rows={services} none="none" />
              </Field>
              <Field label="Wanted until" of={at('endDate')}>
                <input className="mono" placeholder="2027-06-30" />
              </Field>
            </div>
          </details>
          {originId !== '' && count > 0 && (
            <CloneTable
              count={count}
              made={made}
              cells={draft.cells}
              onCells={(cells) => set({ cells })}
              faults={errors}
            />
          )}
          <Sending
            label={`Plan ${count} ${count === 1 ? 'clone' : 'clones'}`}
            form={form}
            placed={/^clones\./}
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
