import { parseName } from '../address/index.js';
import { parseFingerprint } from './fingerprint.js';
import {
  draftOf,
  editFields,
  isRefusal,
  KINDS,
  refuse,
  type ChangeBase,
  type Decider,
  type Draft,
  type Edge,
  type Fleet,
  type Refusal,
  type Row,
  type Values,
} from '../record/index.js';

/** Fields that follow from other changes. */
const NOT_EDITED = new Set(['nameAssigned', 'networkChangedAt', 'confirmedAt', 'confirmedBy']);
export const EDITABLE_HOST_FIELDS: readonly string[] = Object.keys(KINDS.host.fields).filter(
  (name) => !NOT_EDITED.has(name),
);
/** Altering one of these makes earlier verifications worthless. */
const OF_ITS_NETWORK = ['name', 'domain', 'gateway', 'nameServers'];

type State = Row<'host'>['state'];
/** What a host in a state can become. */
export const HOST_STATE_FOLLOWS: Readonly<Record<State, readonly State[]>> = {
  planned: ['building', 'in service', 'retired'],
  building: ['planned', 'in service', 'failed', 'retired'],
  'in service': ['maintenance', 'failed', 'retired'],
  maintenance: ['in service', 'failed', 'retired'],
  failed: ['maintenance', 'in service', 'retired'],
  retired: ['building'],
};

/** Edits a host's own fields, its state among them. */
export interface EditHost extends ChangeBase {
  type: 'host.edit';
  id: string;
  fields: Values;
}

export const editHost: Decider<EditHost> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const host = draftHostEdit(fleet, draft, edge, change.id, change.fields);
  if (isRefusal(host)) return host;
  const { state } = change.fields;
  const what =
    state !== undefined && state !== host.state
      ? `set host ${host.name} to ${String(state)}`
      : `edited host ${host.name}: ${Object.keys(change.fields).join(', ')}`;
  return { draft, title: what, subjects: [{ kind: 'host', id: host.id, name: host.name }] };
};

/** Edits the same fields of several hosts, all or none. */
export interface EditHosts extends ChangeBase {
  type: 'host.edit-many';
  ids: string[];
  fields: Values;
}

export const editHosts: Decider<EditHosts> = (fleet, change, edge) => {
  if (change.fields.name !== undefined && change.ids.length > 1)
    return refuse({
      code: 'name-taken',
      field: 'name',
      sentence: 'Several hosts cannot have one name.',
    });
  const draft = draftOf(fleet, edge);
  const hosts: Row<'host'>[] = [];
  for (const id of new Set(change.ids)) {
    const host = draftHostEdit(fleet, draft, edge, id, change.fields);
    if (isRefusal(host)) return host;
    hosts.push(host);
  }
  const names = hosts.map(({ name }) => name);
  return {
    draft,
    title: `edited ${names.length} hosts: ${Object.keys(change.fields).join(', ')}`,
    subjects: hosts.slice(0, 50).map(({ id, name }) => ({ kind: 'host', id, name })),
  };
};

/** Drafts an edit; gives the host as it was, or the refusal. */
export function draftHostEdit(
  fleet: Fleet,
  draft: Draft,
  edge: Edge,
  id: string,
  given: Values,
): Row<'host'> | Refusal {
  const fields = {
    ...given,
    ...(typeof given.certificateSha256 === 'string' && given.certificateSha256 !== ''
      ? readFingerprint(given.certificateSha256)
      : {}),
  };
  const host = editFields(fleet, draft, 'host', id, fields, EDITABLE_HOST_FIELDS);
  if (isRefusal(host)) return host;
  if (given.name !== undefined) {
    const name = parseName(String(given.name));
    if (!name.ok) return refuse({ code: 'bad-name', field: 'name', sentence: name.sentence });
  }
  if (typeof given.certificateSha256 === 'string' && given.certificateSha256 !== '') {
    const read = parseFingerprint(given.certificateSha256);
    if (!read.ok)
      return refuse({
        code: 'bad-fingerprint',
        field: 'certificateSha256',
        sentence: read.sentence,
      });
  }
  if (given.outerGuestId && fleet.get('guest', String(given.outerGuestId))?.hostId === id) {
    return refuse({
      code: 'in-itself',
      field: 'outerGuestId',
      sentence: `${host.name} cannot be a guest of itself.`,
    });
  }
  if (OF_ITS_NETWORK.some((name) => given[name] !== undefined))
    draft.update('host', id, { networkChangedAt: edge.now });
  const state = given.state as State | undefined;
  if (
    state !== undefined &&
    state !== host.state &&
    HOST_STATE_FOLLOWS[host.state] &&
    !HOST_STATE_FOLLOWS[host.state].includes(state)
  ) {
    return refuse({
      code: 'state-cannot-follow',
      field: 'state',
      sentence: `A host that is ${host.state} does not become ${state}.`,
      remedy: `After ${host.state} comes ${HOST_STATE_FOLLOWS[host.state].join(', ')}.`,
    });
  }
  if (
    state === 'retired' &&
    fleet.referring('guest', 'hostId', host.id).some((guest) => guest.state !== 'retired')
  ) {
    return refuse({
      code: 'host-has-guests',
      field: 'state',
      sentence: `${host.name} still has guests.`,
      remedy: 'Migrate or retire them first.',
    });
  }
  return host;
}

const readFingerprint = (text: string): Values => {
  const read = parseFingerprint(text);
  return read.ok ? { certificateSha256: read.value } : {};
};
