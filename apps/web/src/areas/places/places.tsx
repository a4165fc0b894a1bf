/** What hosts and guests refer to: sites, groups with their policy, routing domains; the rest has files of its own. */
import { parseMacBlock, readTimeZone } from '@insel/core';
import { Link } from 'react-router';
import { editing } from '../../client/change.js';
import { asText, Editable } from '../../components/editable.js';
import { AddNamed, NamedRow, NumberFact } from '../../components/named-row.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { WindowEdit } from '../../components/small-edits.js';
import { Figure } from '../../components/workings.js';
import { useRead } from '../../client/read.js';
import { Platforms } from './platforms.js';
import { PowerFeeds } from './power-feeds.js';
import { Racks } from './racks.js';
import { Rules } from './rules.js';

export function PlacesPage() {
  return (
    <div className="h-full overflow-y-auto px-6 py-4">
      <h1 className="mb-2">Sites, groups, racks, power, platforms, rules, routing domains</h1>
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
        <PowerFeeds />
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
