/** A role of guests: what one of it is given, and the words for it. */
import type { ProfileView } from '@insel/contract';
import {
  FAMILIES,
  formatBinary,
  formatDuration,
  formatMemory,
  IDENTITY_ITEMS,
  parseBytes,
  parseDuration,
  parseMemory,
} from '@insel/core';
import { useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { Editable } from '../../components/editable.js';
import { Fact, Facts } from '../../components/sheet.js';
import { NotesEdit, OneOf, TextEdit, YesNo } from '../../components/small-edits.js';
import { NamedRow, NumberFact } from '../../components/named-row.js';

const bytes = (text: string) =>
  text.trim() === '' || text.trim() === '0' ? { ok: true as const, value: 0 } : parseBytes(text);

/** What a system of this role can do and does, in words for yes and for no. */
const ABILITIES = [
  ['paravirtualDisk', 'Paravirtual disk', 'driver in its kernel', 'no driver on the first boot'],
  ['paravirtualNetwork', 'Paravirtual net', 'driver in its kernel', 'no driver on the first boot'],
  ['uefi', 'UEFI', 'starts from it', 'does not'],
  ['legacyBoot', 'Legacy boot', 'starts from it', 'does not'],
  ['apart', 'Its likes', 'never two on one host', 'may share a host'],
  ['forwards', 'Forwards', 'a router', 'no'],
  ['nested', 'Hypervisor', 'virtualisation passed through', 'no'],
] as const;

export function Role({ profile }: { profile: ProfileView }) {
  const mayPlan = useMayPlan();
  const { make } = useChange();
  const at = editing('profile.edit', profile);
  const memory = (name: string, field: 'minimumMemoryMiB' | 'usualMemoryMiB' | 'stepMemoryMiB') => (
    <Fact name={name}>
      <Editable
        at={at(field)}
        name={name}
        value={profile[field]}
        show={(value) => (value ? formatMemory(value) : 'none')}
        write={(value) => `${value} MiB`}
        parse={(text) => (text.trim() === '0' ? { ok: true, value: 0 } : parseMemory(text))}
        mono
      />
    </Fact>
  );
  const storage = (
    name: string,
    field: 'minimumBytes' | 'usualBytes' | 'usualDataBytes' | 'stepDataBytes',
  ) => (
    <Fact name={name}>
      <Editable
        at={at(field)}
        name={name}
        value={profile[field]}
        show={(value) => (value ? formatBinary(value) : 'none')}
        write={(value) => (value ? `${value} B` : '')}
        parse={bytes}
        mono
      />
    </Fact>
  );
  const step = `each ${profile.loadStep.toLocaleString('en-GB')} ${profile.loadUnit}`;
  const items = profile.identity.length ? profile.identity : IDENTITY_ITEMS;
  const tick = (item: string) => {
    const next = IDENTITY_ITEMS.filter((found) =>
      found === item ? !items.includes(item) : items.includes(found),
    );
    const identity = next.length === IDENTITY_ITEMS.length ? [] : next;
    void make('profile.edit', { id: profile.id, identity }, { seen: profile });
  };
  return (
    <section aria-label={`Role ${profile.name}`} className="mt-4 border-t border-ink pt-2">
      <NamedRow kept="profile" row={profile}>
        <Facts>
          <Fact name="Family">
            <OneOf at={at('family')} name="Family" value={profile.family} choices={FAMILIES} />
          </Fact>
          <Fact name="Run by">
            <OneOf
              at={at('display')}
              name="Run by"
              value={profile.display}
              choices={[
                { value: 'text', label: 'text' },
                { value: 'graphical', label: 'a desktop' },
              ]}
            />
          </Fact>
          <NumberFact at={at('minimumVcpu')} name="vCPU at least" value={profile.minimumVcpu} />
          <NumberFact at={at('usualVcpu')} name="vCPU usually" value={profile.usualVcpu} />
          {memory('Memory at least', 'minimumMemoryMiB')}
          {memory('Memory usually', 'usualMemoryMiB')}
          {storage('System at least', 'minimumBytes')}
          {storage('System usually', 'usualBytes')}
          {storage('Data usually', 'usualDataBytes')}
          <NumberFact at={at('adapters')} name="Adapters" value={profile.adapters} />
          <Fact name="Load counted in">
            <TextEdit at={at('loadUnit')} name="Load counted in" value={profile.loadUnit} />
          </Fact>
          <NumberFact
            at={at('usualLoad')}
            name="Usual serves"
            value={profile.usualLoad}
            unit={profile.loadUnit}
          />
          {profile.loadUnit && (
            <>
              <NumberFact
                at={at('loadStep')}
                name="Step of load"
                value={profile.loadStep}
                unit={profile.loadUnit}
              />
              <Fact name={`vCPU, ${step}`}>
                <Editable
                  at={at('stepMilliVcpu')}
                  name="vCPU for each step"
                  value={profile.stepMilliVcpu}
                  show={(value) => String(value / 1000)}
                  parse={(text) =>
                    /^\d+([.,]\d{1,3})?$/.test(text.trim())
                      ? { ok: true, value: Math.round(Number(text.replace(',', '.')) * 1000) }
                      : { ok: false, sentence: 'Write a number such as 0.25.' }
                  }
                  mono
                />
              </Fact>
              {memory(`Memory, ${step}`, 'stepMemoryMiB')}
              {storage(`Data, ${step}`, 'stepDataBytes')}
            </>
          )}
          {ABILITIES.map(([field, name, yes, no]) => (
            <Fact key={field} name={name}>
              <YesNo at={at(field)} name={name} value={profile[field]} {...{ yes, no }} />
            </Fact>
          ))}
          <Fact name="Of use after">
            <Editable
              at={at('startSeconds')}
              name="Of use after"
              value={profile.startSeconds}
              show={formatDuration}
              write={(value) => `${value} s`}
              parse={parseDuration}
              mono
            />
          </Fact>
          <Fact name="Notes" wide>
            <NotesEdit at={at('notes')} value={profile.notes} />
          </Fact>
        </Facts>
        <p className="mt-1 text-faint">A copy must be given anew:</p>
        <p className="flex flex-wrap gap-x-4">
          {IDENTITY_ITEMS.map((item) => (
            <label key={item} className="flex min-h-6 items-center gap-1">
              <input
                type="checkbox"
                disabled={!mayPlan}
                checked={items.includes(item)}
                onChange={() => tick(item)}
              />{' '}
              {item}
            </label>
          ))}
        </p>
        <Facts>
          <Words
            at={at('moreIdentity')}
            name="And besides"
            label="Items of identity besides"
            words={profile.moreIdentity}
          />
          <Words
            at={at('packages')}
            name="Installed at first start"
            label="Packages"
            words={profile.packages}
          />
          <Words
            at={at('signInKeys')}
            name="Signed in with"
            label="Keys by name"
            words={profile.signInKeys}
          />
        </Facts>
      </NamedRow>
    </section>
  );
}

/** A list of words, written with commas between them. */
function Words({
  name,
  label,
  words,
  at,
}: {
  name: string;
  label: string;
  words: readonly string[];
  at: Parameters<typeof Editable>[0]['at'];
}) {
  return (
    <Fact name={name}>
      <Editable
        at={at}
        name={label}
        value={words}
        show={(held) => held.join(', ')}
        parse={(text) => ({
          ok: true,
          value: text
            .split(',')
            .map((word) => word.trim())
            .filter(Boolean),
        })}
      />
    </Fact>
  );
}
