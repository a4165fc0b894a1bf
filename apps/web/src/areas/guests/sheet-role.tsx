/** What a guest is for and whose it is: role, group, owner, when it may be down, until when it is wanted; its devices. */
import type { GuestSheet } from '@insel/contract';
import { BOOT_FIRST, CRITICALITIES } from '@insel/core';
import { Link } from 'react-router';
import { useAccount, useMayPlan } from '../../client/session.js';
import { editing, useChange } from '../../client/change.js';
import { Editable } from '../../components/editable.js';
import { Fact, Facts, Part } from '../../components/sheet.js';
import { OneOf, TextEdit, WindowEdit, YesNo } from '../../components/small-edits.js';
import { useRead } from '../../client/read.js';

const PROCESSORS = [
  { value: 'unknown', label: 'not known' },
  { value: 'host', label: 'the host’s own' },
  ...['v1', 'v2', 'v3', 'v4'].map((level) => ({ value: level, label: `level x86-64-${level}` })),
];
const LOOKS: Record<(typeof BOOT_FIRST)[number], string> = {
  unknown: 'not known',
  disk: 'the disk',
  medium: 'the medium',
  network: 'the network',
};
const day = (text: string): { ok: true; value: string | null } | { ok: false; sentence: string } =>
  text.trim() === ''
    ? { ok: true, value: null }
    : /^\d{4}-\d{2}-\d{2}$/.test(text.trim())
      ? { ok: true, value: text.trim() }
      : { ok: false, sentence: 'Write a day as 2027-05-31, or nothing.' };

export function RolePart({ sheet }: { sheet: GuestSheet }) {
  const { guest } = sheet;
  const account = useAccount();
  const mayPlan = useMayPlan();
  const { make } = useChange();
  const profiles = useRead('profiles').data ?? [];
  const groups = useRead('guestGroups').data ?? [];
  const at = editing('guest.edit', guest);
  const none = { value: '', label: 'none' };
  const confirm = () =>
    void make(
      'guest.edit',
      { id: guest.id, confirmedAt: new Date().toISOString(), confirmedBy: account.name },
      { seen: guest },
    );
  return (
    <Part title="Role and owner">
      <Facts>
        <Fact name="Role">
          <OneOf<string | null>
            at={at('profileId')}
            name="Role"
            value={guest.profileId}
            choices={[none, ...profiles.map((row) => ({ value: row.id, label: row.name }))]}
          />
        </Fact>
        <Fact name="Group">
          <OneOf<string | null>
            at={at('groupId')}
            name="Group"
            value={guest.groupId}
            choices={[none, ...groups.map((row) => ({ value: row.id, label: row.name }))]}
          />
          {sheet.group && (
            <Link className="act ml-2 text-[12px]" to={`/guests/roles?open=${sheet.group.id}`}>
              its spread
            </Link>
          )}
        </Fact>
        <Fact name="Owner">
          <TextEdit at={at('owner')} name="Owner" value={guest.owner} />
        </Fact>
        <Fact name="Criticality">
          <OneOf
            at={at('criticality')}
            name="Criticality"
            value={guest.criticality}
            choices={CRITICALITIES}
          />
        </Fact>
        <Fact name="May be down">
          <WindowEdit
            at={at('outageWindow')}
            name="May be down"
            value={guest.outageWindow}
            none="not said"
          />{' '}
          {guest.outageWindow && <span className="text-faint">{sheet.zone}</span>}
        </Fact>
        <Fact name="Wanted until">
          <Editable<string | null>
            at={at('endDate')}
            name="Wanted until"
            value={guest.endDate}
            show={(value) => value ?? 'no end'}
            write={(value) => value ?? ''}
            parse={day}
            mono
          />
        </Fact>
        <Fact name="Confirmed">
          {guest.confirmedAt ? (
            `${guest.confirmedAt.slice(0, 10)}${guest.confirmedBy && ` by ${guest.confirmedBy}`}`
          ) : (
            <span className="text-faint">by nobody yet</span>
          )}
          {mayPlan && (
            <button type="button" className="act ml-2 text-[12px]" onClick={confirm}>
              It is still wanted
            </button>
          )}
        </Fact>
        <Fact name="In its state">
          {guest.stateAt ? (
            `since ${guest.stateAt.slice(0, 10)}`
          ) : (
            <span className="text-faint">since when is not known</span>
          )}
        </Fact>
      </Facts>
    </Part>
  );
}

export function DevicesPart({ sheet }: { sheet: GuestSheet }) {
  const { guest } = sheet;
  const at = editing('guest.edit', guest);
  return (
    <Part title="Devices">
      <Facts>
        <Fact name="Firmware">
          <OneOf
            at={at('firmware')}
            name="Firmware"
            value={guest.firmware}
            choices={[{ value: 'unknown', label: 'not known' }, 'UEFI', 'legacy']}
          />
        </Fact>
        <Fact name="Looks first at">
          <OneOf
            at={at('bootFirst')}
            name="Looks first at"
            value={guest.bootFirst}
            choices={BOOT_FIRST.map((value) => ({ value, label: LOOKS[value] }))}
          />
        </Fact>
        <Fact name="Processor seen">
          <OneOf
            at={at('processorMode')}
            name="Processor seen"
            value={guest.processorMode}
            choices={PROCESSORS}
          />
        </Fact>
        <Fact name="Graphics">
          <OneOf
            at={at('graphics')}
            name="Graphics"
            value={guest.graphics}
            choices={[{ value: 'unknown', label: 'not known' }, 'none', 'basic', 'accelerated']}
          />
        </Fact>
        <Fact name="Can be a host">
          <YesNo
            at={at('nestedVirtualisation')}
            name="Can be a host"
            value={guest.nestedVirtualisation}
            yes="virtualisation passed through"
            no="no"
          />
        </Fact>
      </Facts>
    </Part>
  );
}
