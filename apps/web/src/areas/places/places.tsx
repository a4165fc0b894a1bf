/** What hosts and guests refer to: groups with their policy, racks, platforms, rules between guests. */
import type { GuestListRow, HostListRow, Named } from '@insel/contract';
import {
  ADAPTER_MODELS,
  ARCHITECTURES,
  DISK_BUSES,
  formatBoth,
  formatMemory,
  KINDS,
  parseBytes,
  parseMacBlock,
  parseMemory,
  readTimeZone,
  type Row,
} from '@insel/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMayPlan } from '../../frame/session.js';
import { editing, useChange } from '../../frame/change.js';
import { Choose } from '../../components/choose.js';
import { asText, Editable } from '../../components/editable.js';
import { ProblemNote } from '../../components/problem.js';
import { AddNamed, NamedRow, NumberFact } from '../../components/named-row.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { WindowEdit } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { useRead } from '../../frame/read.js';

export function PlacesPage() {
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <h1 className="mb-2">Sites, groups, racks, platforms, rules, routing domains</h1>
      <p className="mb-2">
        <Link className="act" to="/guests/media">
          Install media
        </Link>{' '}
        have a shelf of their own.
      </p>
      <div className="max-w-[1080px]">
        <Sites />
        <Groups />
        <Rules />
        <Racks />
        <Platforms />
        <Domains />
      </div>
    </div>
  );
}

function Sites() {
  const sites = useRead('sites').data ?? [];
  return (
    <Part title="Sites">
      <p className="text-faint">
        A site may have a block of MACs of its own: what comes from there is known at sight. Times
        of day at its hosts and guests are meant by its clock. Moves are planned when work may be
        done: any day 18:00-06:00; last Sun all day; not 2026-12-24 to 2027-01-02; not month end.
      </p>
      {sites.map((site) => (
        <Facts key={site.id}>
          <Fact name="Name">
            <b>
              <Editable
                at={editing('site.edit', site)('name')}
                name={`Name of site ${site.name}`}
                value={site.name}
                show={String}
                parse={asText}
              />
            </b>
          </Fact>
          <Fact name="MACs begin with">
            <Editable
              at={editing('site.edit', site)('macBlock')}
              name={`MAC block of ${site.name}`}
              value={site.macBlock}
              show={(value) => value || '02 (any)'}
              write={String}
              parse={(text) => (text.trim() === '' ? { ok: true, value: '' } : parseMacBlock(text))}
              mono
            />{' '}
            <span className="text-faint">{site.assignedMacs} given out; repeated elsewhere</span>{' '}
            <Figure figure={site.repetition} />
          </Fact>
          <Fact name="Clock">
            <Editable
              at={editing('site.edit', site)('timeZone')}
              name={`Time zone of ${site.name}`}
              value={site.timeZone}
              show={(value) => value || 'UTC (nobody said)'}
              write={String}
              parse={readTimeZone}
            />
          </Fact>
          <Fact name="Work is done">
            <WindowEdit
              at={editing('site.edit', site)('workWindow')}
              name={`Work window of ${site.name}`}
              value={site.workWindow}
            />
          </Fact>
        </Facts>
      ))}
      <AddNamed word="site" kept="site" />
    </Part>
  );
}

function Domains() {
  const domains = useRead('routingDomains').data ?? [];
  return (
    <Part title="Routing domains">
      <p className="text-faint">
        Inside one domain an address means one machine; blocks may repeat across domains. Networks
        inside a host get one each.
      </p>
      {domains.map((domain) => (
        <NamedRow key={domain.id} kept="routing-domain" row={domain}>
          {null}
        </NamedRow>
      ))}
      <AddNamed word="routing domain" kept="routing-domain" />
    </Part>
  );
}

function Groups() {
  const groups = useRead('hostGroups').data ?? [];
  return (
    <Part title="Host groups">
      <p className="text-faint">
        Hosts that back each other, and how far they may be promised. Without a group: 4 vCPU per
        core, memory never twice, nothing kept free (common practice, no source).
      </p>
      {groups.map((group) => {
        const at = editing('host-group.edit', group);
        return (
          <NamedRow key={group.id} kept="host-group" row={group}>
            <p className="py-0.5 leading-6">
              {group.hosts.map((host) => (
                <Link
                  key={host.id}
                  className="mr-3 underline decoration-rule"
                  to={`/hosts/${host.id}`}
                >
                  {host.name}
                </Link>
              ))}
              {group.hosts.length === 0 && (
                <span className="text-faint">no host yet: choose the group at the host</span>
              )}
            </p>
            <Facts>
              <NumberFact at={at('vcpuPerCore')} name="vCPU per core" value={group.vcpuPerCore} />
              <NumberFact
                at={at('memoryPercent')}
                name="Memory up to"
                value={group.memoryPercent}
                unit="%"
              />
              <NumberFact
                at={at('reservePercent')}
                name="Kept free"
                value={group.reservePercent}
                unit="%"
              />
              <NumberFact
                at={at('quorum')}
                name="Quorum"
                value={group.quorum}
                none="none"
                unit="votes"
              />
              <NumberFact
                at={at('startsAtOnce')}
                name="Starts at once"
                value={group.startsAtOnce}
                none="all its guests"
                unit="guests a host"
              />
              <Fact name="May be worked at">
                <WindowEdit
                  at={at('workWindow')}
                  name={`Work window of ${group.name}`}
                  value={group.workWindow}
                />
              </Fact>
              <Fact name="Witness">
                <Editable
                  at={at('witness')}
                  name="Witness"
                  value={group.witness}
                  show={String}
                  parse={asText}
                />
              </Fact>
              <Fact name="Common level">
                {group.level.level === null ? (
                  <span className="text-faint">
                    {group.level.unknown.length
                      ? `unknown: ${group.level.unknown.join(', ')}`
                      : '–'}
                  </span>
                ) : (
                  <>
                    <b className="mono">x86-64-v{group.level.level}</b>{' '}
                    <span className="text-faint">
                      held down by {group.level.limitedBy.join(', ')}
                    </span>
                  </>
                )}
              </Fact>
            </Facts>
          </NamedRow>
        );
      })}
      <AddNamed word="host group" kept="host-group" />
    </Part>
  );
}

function Rules() {
  const mayPlan = useMayPlan();
  const rules = useRead('placementRules').data ?? [];
  const { make, problem } = useChange();
  return (
    <Part title="Rules">
      <p className="text-faint">
        Guests that belong together, apart, or on one host. They hold when guests restart elsewhere.
      </p>
      {rules.map((rule) => (
        <div
          key={rule.id}
          className="grid grid-cols-[150px_150px_1fr_70px] items-baseline gap-3 border-b border-rule py-1 leading-6"
        >
          <b>{rule.name}</b>
          <span>
            {rule.rule}
            {rule.rule === 'pinned'
              ? ` to ${rule.host?.name}`
              : rule.scope !== 'host'
                ? ` by ${rule.scope}`
                : ''}
          </span>
          <span>
            {rule.guests.map((guest) => (
              <Link
                key={guest.id}
                className="mr-3 underline decoration-rule"
                to={`/guests/${guest.id}`}
              >
                {guest.name}
              </Link>
            ))}
          </span>
          {mayPlan && (
            <button
              type="button"
              className="act text-[13px]"
              onClick={() => void make('rule.remove', { id: rule.id }, { seen: rule })}
            >
              Remove
            </button>
          )}
        </div>
      ))}
      <ProblemNote problem={problem} />
      {mayPlan && <AddRule />}
    </Part>
  );
}

function AddRule() {
  const { make, problem } = useChange();
  const [name, setName] = useState('');
  const [rule, setRule] = useState<'apart' | 'together' | 'pinned'>('apart');
  const [scope, setScope] = useState<'host' | 'rack' | 'site'>('host');
  const [hostId, setHostId] = useState('');
  const [guests, setGuests] = useState<Named[]>([]);
  const send = async () => {
    if (
      await make('rule.set', {
        name,
        rule,
        ...(rule === 'pinned' ? { hostId: hostId || null } : { scope }),
        guestIds: guests.map((guest) => guest.id),
      })
    ) {
      setName('');
      setGuests([]);
    }
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      <input
        aria-label="Name of a new rule"
        placeholder="name of a new rule"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <select
        aria-label="Kind of rule"
        value={rule}
        onChange={(event) => setRule(event.target.value as 'apart')}
      >
        <option>apart</option>
        <option>together</option>
        <option>pinned</option>
      </select>
      {rule === 'pinned' ? (
        <span className="w-[180px]">
          <Choose<HostListRow>
            list="hosts"
            label="Host they are pinned to"
            value={hostId}
            onChange={(id) => setHostId(id)}
          />
        </span>
      ) : (
        <select
          aria-label="By what"
          value={scope}
          onChange={(event) => setScope(event.target.value as 'host')}
        >
          <option value="host">by host</option>
          <option value="rack">by rack</option>
          <option value="site">by site</option>
        </select>
      )}
      <span className="w-[200px]">
        <Choose<GuestListRow>
          list="guests"
          label="Add a guest to the rule"
          placeholder="add a guest"
          value=""
          onChange={(id, row) =>
            row &&
            setGuests((held) =>
              held.some((guest) => guest.id === id) ? held : [...held, { id, name: row.name }],
            )
          }
          detail={(row) => `on ${row.host.name}`}
        />
      </span>
      {guests.map((guest) => (
        <button
          key={guest.id}
          type="button"
          className="act"
          aria-label={`Leave ${guest.name} out`}
          onClick={() => setGuests(guests.filter((found) => found.id !== guest.id))}
        >
          {guest.name} ×
        </button>
      ))}
      <button type="button" className="act" onClick={() => void send()}>
        Record the rule
      </button>
      <ProblemNote problem={problem} />
    </div>
  );
}

function Racks() {
  const racks = useRead('racks').data ?? [];
  const sites = useRead('sites').data ?? [];
  return (
    <Part title="Racks">
      {racks.map((rack) => {
        const at = editing('rack.edit', rack);
        return (
          <NamedRow key={rack.id} kept="rack" row={rack}>
            <Facts>
              <Fact name="Site">
                <Editable<string | null>
                  at={at('siteId')}
                  name="Site"
                  value={rack.siteId}
                  show={(value) =>
                    sites.find((site) => site.id === value)?.name ?? (value ? '' : 'no site')
                  }
                  write={(value) => value ?? ''}
                  parse={(text) => ({ ok: true, value: text || null })}
                  choices={[
                    { value: '', label: 'no site' },
                    ...sites.map((site) => ({ value: site.id, label: site.name })),
                  ]}
                />
              </Fact>
              <NumberFact at={at('units')} name="Units" value={rack.units} unit="U" />
              <NumberFact
                at={at('feedWatts')}
                name="Feeds planned for"
                value={rack.feedWatts}
                unit="W"
                none="not planned"
              />
              <Fact name="Hosts draw">
                <Figure figure={rack.draw} />
              </Fact>
              <NumberFact
                at={at('upsMinutes')}
                name="UPS holds"
                value={rack.upsMinutes}
                unit="min"
                none="none"
              />
            </Facts>
            <p className="py-0.5 leading-6">
              {rack.hosts.map((host) => (
                <span key={host.id} className="mr-4">
                  <span className="mono text-[13px] text-faint">
                    {host.unit === null
                      ? 'no unit'
                      : host.height > 1
                        ? `U ${host.unit}–${host.unit + host.height - 1}`
                        : `U ${host.unit}`}
                  </span>{' '}
                  <Link className="underline decoration-rule" to={`/hosts/${host.id}`}>
                    {host.name}
                  </Link>
                </span>
              ))}
            </p>
            <p className="text-xs text-faint">
              Planned figures are estimates: local electrical codes and an electrician decide what a
              circuit carries.
            </p>
          </NamedRow>
        );
      })}
      <AddNamed word="rack" kept="rack" />
    </Part>
  );
}

const YES_NO = [
  { value: 'true', label: 'yes' },
  { value: 'false', label: 'no' },
];
const FLAGS: [keyof Row<'platform'> & string, string][] = [
  ['bareMetal', 'Bare-metal'],
  ['needsVirtualisation', 'Needs virtualisation'],
  ['needsWiredPort', 'Needs a wired port'],
  ['natShared', 'NAT is one segment'],
  ['runningMigration', 'Moves running guests'],
  ['thinVolumes', 'Thin volumes'],
  ['dependentClones', 'Dependent clones'],
  ['adapterChangeNeedsRestart', 'Adapter change restarts'],
  ['uefiGuests', 'Guests start by UEFI'],
  ['legacyGuests', 'Guests start by legacy'],
  ['acceleratedGraphics', 'Accelerated graphics'],
];
const NUMBERS: [keyof Row<'platform'> & string, string, string][] = [
  ['keepsPercent', 'Keeps at least', '%'],
  ['overheadPerVcpuMiB', 'Overhead per vCPU', 'MiB'],
  ['overheadMiB', 'Overhead per guest', 'MiB'],
  ['overheadPercent', 'Overhead of memory', '%'],
  ['videoMiB', 'Video memory', 'MiB'],
];

/** Some of these words, in the order in which they are written. */
function wordsOf(
  text: string,
  words: readonly string[],
): { ok: true; value: string[] } | { ok: false; sentence: string } {
  const known = words.filter((word) => word !== 'unknown');
  const found = text
    .split(',')
    .map((part) => known.find((word) => word.toLowerCase() === part.trim().toLowerCase()));
  return found.every((word) => word !== undefined)
    ? { ok: true, value: [...new Set(found)] }
    : { ok: false, sentence: `Write some of: ${known.join(', ')}.` };
}

function Platforms() {
  const platforms = useRead('platforms').data ?? [];
  return (
    <Part title="Platforms">
      <p className="text-faint">
        Hypervisor families and releases, known by their properties only. What they keep and spend
        on a guest has no published formula: alter it as you measure it.
      </p>
      {platforms.map((platform) => {
        const at = editing('platform.edit', platform);
        const choice = (
          name: string,
          field: keyof Row<'platform'> & string,
          options: readonly string[],
        ) => (
          <Fact name={name}>
            <Editable<string>
              at={at(field)}
              name={name}
              value={String(platform[field])}
              show={String}
              parse={(text) => ({ ok: true, value: text })}
              choices={options.map((value) => ({ value, label: value }))}
            />
          </Fact>
        );
        const among = (
          name: string,
          field: 'diskBuses' | 'adapterModels',
          words: readonly string[],
        ) => (
          <Fact name={name}>
            <Editable<readonly string[]>
              at={at(field)}
              name={name}
              value={platform[field]}
              show={(value) => value.join(', ')}
              parse={(text) => wordsOf(text, words)}
            />
          </Fact>
        );
        return (
          <NamedRow key={platform.id} kept="platform" row={platform}>
            <details>
              <summary className="cursor-pointer text-[13px] text-faint">
                keeps the larger of {platform.keepsMiB} MiB and {platform.keepsPercent} %; from
                level v{platform.minimumLevel}, {formatMemory(platform.minimumMemoryMiB)},{' '}
                {formatBoth(platform.footprintBytes)} of disk; secure boot {platform.secureBoot}
              </summary>
              <Facts>
                <Fact name="Keeps at least">
                  <Editable
                    at={at('keepsMiB')}
                    name="Keeps at least"
                    value={platform.keepsMiB}
                    show={(value) => formatMemory(value)}
                    parse={parseMemory}
                    mono
                  />
                </Fact>
                {NUMBERS.map(([field, name, unit]) => (
                  <NumberFact
                    key={field}
                    at={at(field)}
                    name={name}
                    value={platform[field] as number}
                    unit={unit}
                  />
                ))}
                <Fact name="Least memory">
                  <Editable
                    at={at('minimumMemoryMiB')}
                    name="Least memory"
                    value={platform.minimumMemoryMiB}
                    show={(value) => formatMemory(value)}
                    parse={parseMemory}
                    mono
                  />
                </Fact>
                <Fact name="Least disk">
                  <Editable
                    at={at('footprintBytes')}
                    name="Least disk"
                    value={platform.footprintBytes}
                    show={formatBoth}
                    write={(value) => `${value} B`}
                    parse={parseBytes}
                    mono
                  />
                </Fact>
                <NumberFact
                  at={at('minimumLevel')}
                  name="Lowest level"
                  value={platform.minimumLevel}
                />
                <NumberFact
                  at={at('consolePort')}
                  name="Console port"
                  value={platform.consolePort}
                  none="not known"
                />
                {among('Disk buses', 'diskBuses', DISK_BUSES)}
                {among('Adapter models', 'adapterModels', ADAPTER_MODELS)}
                <Fact name="Linux names">
                  <Editable
                    at={at('interfacePattern')}
                    name="Linux names"
                    value={platform.interfacePattern}
                    show={(value) => `${value}, {n} from ${platform.interfaceFirst}`}
                    write={String}
                    parse={(text) =>
                      text.includes('{n}')
                        ? { ok: true, value: text.trim() }
                        : {
                            ok: false,
                            sentence:
                              'Write {n} where the number of the adapter stands, as in enp{n}s0.',
                          }
                    }
                    mono
                  />
                </Fact>
                <NumberFact
                  at={at('interfaceFirst')}
                  name="{n} begins at"
                  value={platform.interfaceFirst}
                />
                {choice('Architecture', 'architecture', ARCHITECTURES)}
                {choice('Secure boot', 'secureBoot', KINDS.platform.fields.secureBoot!.choices!)}
                {FLAGS.map(([field, name]) => (
                  <Fact key={field} name={name}>
                    <Editable
                      at={at(field)}
                      name={name}
                      value={platform[field] as boolean}
                      show={(value) => (value ? 'yes' : 'no')}
                      write={String}
                      parse={(text) => ({ ok: true, value: text === 'true' })}
                      choices={YES_NO}
                    />
                  </Fact>
                ))}
              </Facts>
            </details>
          </NamedRow>
        );
      })}
      <AddNamed word="platform" kept="platform" />
    </Part>
  );
}
