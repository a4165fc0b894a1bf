/** Roles that guests play, with their sizes and what their systems drive; groups, and how their members are spread. */
import type { GuestGroupView, ProfileView } from '@insel/contract';
import {
  counted,
  FAMILIES,
  formatBinary,
  formatDuration,
  formatMemory,
  IDENTITY_ITEMS,
  parseBytes,
  parseDuration,
  parseMemory,
} from '@insel/core';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { useUrlState } from '../../frame/url-state.js';
import { editing, useChange } from '../../frame/change.js';
import { Editable } from '../../components/editable.js';
import { SheetFindings } from '../../components/finding-line.js';
import { ProblemNote } from '../../components/problem.js';
import { Fact, Facts } from '../../components/sheet.js';
import { OneOf, TextEdit, WindowEdit, YesNo } from '../../components/small-edits.js';
import { AddNamed, NamedRow, NumberFact } from '../../components/named-row.js';
import { useRead } from '../../frame/read.js';

export function RolesPage() {
  const profiles = useRead('profiles');
  const [search, set] = useUrlState();
  const open = search.get('role') ?? profiles.data?.[0]?.id ?? '';
  const profile = profiles.data?.find((found) => found.id === open);
  return (
    <div className="grid h-full grid-cols-1 overflow-y-auto lg:grid-cols-[1fr_400px] lg:overflow-hidden">
      <div className="min-w-0 px-5 py-3 lg:overflow-y-auto">
        <h1>Roles</h1>
        <p className="text-[13px] text-faint">
          Working values of the trade: common practice, no source. Alter them to what your own
          guests need.
        </p>
        {profiles.error && <p className="text-signal">{profiles.error.message}</p>}
        <table className="mt-2 w-full text-left text-[13px]">
          <thead>
            <tr className="border-b border-ink text-xs">
              <th>Role</th>
              <th>Family</th>
              <th className="text-right">vCPU</th>
              <th className="text-right">memory</th>
              <th className="text-right">system</th>
              <th className="text-right">data</th>
              <th className="pl-4">grows with</th>
              <th className="text-right">guests</th>
            </tr>
          </thead>
          <tbody>
            {profiles.data?.map((row) => (
              <tr
                key={row.id}
                className={`border-b border-rule align-baseline ${row.id === open ? 'bg-water' : ''}`}
              >
                <td className="py-0.5">
                  <button
                    type="button"
                    aria-current={row.id === open || undefined}
                    className="min-h-6 cursor-pointer text-left font-bold"
                    onClick={() => set({ role: row.id })}
                  >
                    {row.name}
                  </button>
                </td>
                <td>{row.family}</td>
                <td className="mono text-right">{row.usualVcpu}</td>
                <td className="mono text-right">{formatMemory(row.usualMemoryMiB)}</td>
                <td className="mono text-right">
                  {row.usualBytes ? formatBinary(row.usualBytes) : '–'}
                </td>
                <td className="mono text-right">
                  {row.usualDataBytes ? formatBinary(row.usualDataBytes) : '–'}
                </td>
                <td className="pl-4">{row.loadUnit}</td>
                <td className="mono text-right">
                  <Link
                    className="inline-block min-h-6 min-w-6 leading-6 underline decoration-rule"
                    to={`/guests?profileId=${row.id}`}
                    aria-label={`${counted(row.guests, 'guest')} that are a ${row.name}`}
                  >
                    {row.guests}
                  </Link>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <AddRole />
        {profile && <Role key={profile.id} profile={profile} />}
      </div>
      <div className="border-ink px-5 py-3 lg:overflow-y-auto lg:border-l">
        <Groups />
      </div>
    </div>
  );
}

function AddRole() {
  const mayPlan = useMayPlan();
  const { make, problem } = useChange();
  if (!mayPlan) return null;
  return (
    <div className="flex flex-wrap items-baseline gap-4">
      <AddNamed word="role" kept="profile" more={{ family: 'Linux' }} />
      <button type="button" className="act" onClick={() => void make('profile.add-usual', {})}>
        Add usual roles that are missing
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}

const bytes = (text: string) =>
  text.trim() === '' || text.trim() === '0' ? { ok: true as const, value: 0 } : parseBytes(text);

function Role({ profile }: { profile: ProfileView }) {
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
          <Fact name="Paravirtual disk">
            <YesNo
              at={at('paravirtualDisk')}
              name="Paravirtual disk"
              value={profile.paravirtualDisk}
              yes="driver in its kernel"
              no="no driver on the first boot"
            />
          </Fact>
          <Fact name="Paravirtual net">
            <YesNo
              at={at('paravirtualNetwork')}
              name="Paravirtual net"
              value={profile.paravirtualNetwork}
              yes="driver in its kernel"
              no="no driver on the first boot"
            />
          </Fact>
          <Fact name="UEFI">
            <YesNo
              at={at('uefi')}
              name="UEFI"
              value={profile.uefi}
              yes="starts from it"
              no="does not"
            />
          </Fact>
          <Fact name="Legacy boot">
            <YesNo
              at={at('legacyBoot')}
              name="Legacy boot"
              value={profile.legacyBoot}
              yes="starts from it"
              no="does not"
            />
          </Fact>
          <Fact name="Its likes">
            <YesNo
              at={at('apart')}
              name="Its likes"
              value={profile.apart}
              yes="never two on one host"
              no="may share a host"
            />
          </Fact>
          <Fact name="Forwards">
            <YesNo
              at={at('forwards')}
              name="Forwards"
              value={profile.forwards}
              yes="a router"
              no="no"
            />
          </Fact>
          <Fact name="Hypervisor">
            <YesNo
              at={at('nested')}
              name="Hypervisor"
              value={profile.nested}
              yes="virtualisation passed through"
              no="no"
            />
          </Fact>
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
          <Fact name="Notes">
            <TextEdit at={at('notes')} name="Notes" value={profile.notes} />
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

function Groups() {
  const groups = useRead('guestGroups').data ?? [];
  const [search] = useUrlState();
  return (
    <section aria-label="Groups">
      <h2 className="font-bold">Groups</h2>
      <p className="text-[13px] text-faint">
        Guests that stand in for one another. Spread, so that one failure does not take them all.
      </p>
      {groups.map((group) => (
        <Group key={group.id} group={group} marked={search.get('open') === group.id} />
      ))}
      <AddNamed word="group" kept="guest-group" />
    </section>
  );
}

function Group({ group, marked }: { group: GuestGroupView; marked: boolean }) {
  const at = editing('guest-group.edit', group);
  const { spreadNow: spread } = group;
  return (
    <div className={marked ? 'bg-water px-1' : ''}>
      <NamedRow kept="guest-group" row={group}>
        <p className="text-[13px]">
          <TextEdit at={at('purpose')} name={`Purpose of ${group.name}`} value={group.purpose} />
        </p>
        <p className="text-[13px]">
          spread over{' '}
          <OneOf
            at={at('spread')}
            name={`Spread of ${group.name}`}
            value={group.spread}
            choices={[
              { value: 'host', label: 'hosts' },
              { value: 'rack', label: 'racks' },
              { value: 'site', label: 'sites' },
              { value: 'none', label: 'nothing' },
            ]}
          />
          , at least{' '}
          <Editable
            at={at('needed')}
            name={`Needed of ${group.name}`}
            value={group.needed}
            show={(value) => String(Math.max(1, value))}
            parse={(text) =>
              /^\d+$/.test(text.trim())
                ? { ok: true, value: Number(text) }
                : { ok: false, sentence: 'Write a whole number.' }
            }
            mono
          />{' '}
          must be left
        </p>
        <p className="text-[13px]">
          one of them may be down{' '}
          <WindowEdit
            at={at('outageWindow')}
            name={`Outage window of ${group.name}`}
            value={group.outageWindow}
          />
        </p>
        {spread?.domains.map((domain) => (
          <p key={domain.id} className="grid grid-cols-[90px_1fr] gap-2 text-[13px]">
            <span className="text-faint">{domain.name}</span>
            <span>
              {domain.members.map((name) => {
                const guest = group.guests.find((found) => found.name === name);
                return guest ? (
                  <Link
                    key={guest.id}
                    className="mr-3 inline-block min-h-6 leading-6 whitespace-nowrap underline decoration-rule"
                    to={`/guests/${guest.id}`}
                  >
                    {name}
                  </Link>
                ) : (
                  name
                );
              })}
            </span>
          </p>
        ))}
        {spread && (
          <p className="text-[13px] text-faint">
            At worst {spread.left} of {spread.members} are left.
          </p>
        )}
        {!spread && (
          <p className="text-[13px]">
            {group.guests.map((guest) => (
              <Link
                key={guest.id}
                className="mr-3 inline-block min-h-6 leading-6 underline decoration-rule"
                to={`/guests/${guest.id}`}
              >
                {guest.name}
              </Link>
            ))}
            {group.guests.length === 0 && (
              <span className="text-faint">no guest yet: choose the group at the guest</span>
            )}
          </p>
        )}
        <SheetFindings findings={group.findings} />
      </NamedRow>
    </div>
  );
}
