/** What licences allow and how much of each is used, by arithmetic that stands here and can be altered. */
import type { EntitlementView } from '@insel/contract';
import { ENTITLEMENT_UNITS, FAMILIES } from '@insel/core';
import { Editable, asText } from '../../components/editable.js';
import { useChangeForm } from '../../components/change-form.js';
import { useShortForm } from '../../components/kept-form.js';
import { Field } from '../../components/field.js';
import { Gauge } from '../../components/gauge.js';
import { SheetFindings } from '../../components/finding-line.js';
import { NamedRow, NumberFact } from '../../components/named-row.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact, Facts } from '../../components/sheet.js';
import { OneOf, TextEdit } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { editing } from '../../client/change.js';
import { useRead } from '../../client/read.js';
import { useMayPlan } from '../../client/session.js';
import { useUrlState } from '../../client/url-state.js';

export function LicencesPage() {
  const licences = useRead('entitlements');
  const [search] = useUrlState();
  return (
    <div className="h-full overflow-y-auto px-6 py-3">
      <h1>Licences</h1>
      <p className="max-w-[760px] text-[13px] text-faint">
        Arithmetic only: what is counted, and of which guests. What a contract allows beyond that,
        such as moving guests between hosts, stands in the contract. No key is kept here.
      </p>
      {licences.error && <p className="text-signal">{licences.error.message}</p>}
      <div className="max-w-[860px]">
        {licences.data?.map((row) => (
          <div key={row.id} className={search.get('open') === row.id ? 'bg-water px-1' : ''}>
            <Licence row={row} />
          </div>
        ))}
      </div>
      <AddLicence />
    </div>
  );
}

function Licence({ row }: { row: EntitlementView }) {
  const profiles = useRead('profiles').data ?? [];
  const at = editing('entitlement.edit', row);
  const used = row.used.value ?? 0;
  return (
    <NamedRow kept="entitlement" row={row}>
      <p className="flex items-center gap-3">
        <span>
          <Figure figure={row.used} /> of {row.count.toLocaleString('en-GB')} used, counted by{' '}
          {row.unit}
        </span>
        <span className="w-40">
          <Gauge label={`used of ${row.name}`} percent={(used / row.count) * 100} />
        </span>
      </p>
      <SheetFindings findings={row.findings} />
      <Facts>
        <NumberFact at={at('count')} name="Allowed" value={row.count} />
        <Fact name="Counted by">
          <OneOf at={at('unit')} name="Counted by" value={row.unit} choices={ENTITLEMENT_UNITS} />
        </Fact>
        {row.unit === 'user' ? (
          <NumberFact at={at('users')} name="Users" value={row.users} />
        ) : (
          <>
            <Fact name="Of the role">
              <OneOf
                at={at('profileId')}
                name="Of the role"
                value={row.profileId}
                choices={[
                  { value: '', label: 'any' },
                  ...profiles.map(({ id, name }) => ({ value: id, label: name })),
                ]}
              />
            </Fact>
            <Fact name="Of the family">
              <OneOf
                at={at('family')}
                name="Of the family"
                value={row.family}
                choices={['any', ...FAMILIES]}
              />
            </Fact>
            <Fact name="With the label">
              <TextEdit at={at('label')} name="With the label" value={row.label} />
            </Fact>
          </>
        )}
        {row.unit !== 'user' && row.unit !== 'copy' && (
          <>
            <NumberFact at={at('leastPerHost')} name="At least a host" value={row.leastPerHost} />
            <NumberFact
              at={at('copiesPerHost')}
              name="Copies each time"
              value={row.copiesPerHost}
              unit={row.copiesPerHost === 0 ? '(any number)' : ''}
            />
          </>
        )}
        <Fact name="Until">
          <Editable<string | null>
            at={at('until')}
            name="Until"
            value={row.until}
            show={(held) => held ?? 'no end'}
            write={(held) => held ?? ''}
            parse={(text) => ({ ok: true, value: text.trim() || null })}
            mono
          />
        </Fact>
        <Fact name="Where it is kept">
          <Editable
            at={at('notes')}
            name="Where it is kept"
            value={row.notes}
            show={String}
            parse={asText}
          />
        </Fact>
      </Facts>
    </NamedRow>
  );
}

const EMPTY = { name: '', unit: 'copy', count: '', family: 'any', label: '' };

function AddLicence() {
  const mayPlan = useMayPlan();
  const kept = useShortForm(() => EMPTY);
  const { held } = kept;
  const { send, busy, problem } = useChangeForm(kept, {
    type: 'entitlement.record',
    read: (typed) => [{ ...typed, count: typed.count.trim() ? Number(typed.count) : Number.NaN }],
    sent: () => kept.form.reset(),
  });
  if (!mayPlan) return null;
  return (
    <form className="mt-4 max-w-[860px]" onSubmit={(event) => void send(event)}>
      <h2 className="text-[13px] font-bold">Record a licence</h2>
      <div className="grid grid-cols-2 gap-3 md:grid-cols-5">
        <Field label="Name" of={held('name')}>
          <input />
        </Field>
        <Field label="Allowed" of={held('count')}>
          <input inputMode="numeric" className="mono" />
        </Field>
        <Field label="Counted by" of={held('unit')}>
          <select>
            {ENTITLEMENT_UNITS.map((unit) => (
              <option key={unit}>{unit}</option>
            ))}
          </select>
        </Field>
        <Field label="Of the family" of={held('family')}>
          <select>
            {['any', ...FAMILIES].map((family) => (
              <option key={family}>{family}</option>
            ))}
          </select>
        </Field>
        <Field label="With the label" of={held('label')}>
          <input />
        </Field>
      </div>
      <button type="submit" className="act mt-2" disabled={busy}>
        Record the licence
      </button>
      <ProblemNote problem={problem} />
    </form>
  );
}
