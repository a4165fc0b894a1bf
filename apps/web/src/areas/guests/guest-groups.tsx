/** Groups of guests: how far apart they stand, and who is of them. */
import type { GuestGroupView } from '@insel/contract';
import { Link } from 'react-router';
import { useUrlState } from '../../client/url-state.js';
import { editing } from '../../client/change.js';
import { Editable } from '../../components/editable.js';
import { SheetFindings } from '../../components/finding-line.js';
import { OneOf, TextEdit, WindowEdit } from '../../components/small-edits.js';
import { AddNamed, NamedRow } from '../../components/named-row.js';
import { useRead } from '../../client/read.js';

export function Groups() {
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
          <p key={domain.id} className="grid grid-cols-[90px_1fr] items-baseline gap-2 text-[13px]">
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
