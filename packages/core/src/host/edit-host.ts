import { parseName } from '../address/index.js';
import { draftOf, editFields, isRefusal, refuse, type ChangeBase, type Decider, type Row, type Values } from '../record/index.js';

const EDITABLE = [
  'name',
  'state',
  'siteId',
  'platformId',
  'purpose',
  'processorModel',
  'sockets',
  'coresPerSocket',
  'threadsPerCore',
  'installedMiB',
  'visibleMiB',
  'notes',
  'labels',
  'owner',
];

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
  const host = editFields(fleet, draft, 'host', change.id, change.fields, EDITABLE);
  if (isRefusal(host)) return host;
  if (change.fields.name !== undefined) {
    const name = parseName(String(change.fields.name));
    if (!name.ok) return refuse({ code: 'bad-name', field: 'name', sentence: name.sentence });
  }
  const state = change.fields.state as State | undefined;
  if (state !== undefined && state !== host.state && HOST_STATE_FOLLOWS[host.state] && !HOST_STATE_FOLLOWS[host.state].includes(state)) {
    return refuse({
      code: 'state-cannot-follow',
      field: 'state',
      sentence: `A host that is ${host.state} does not become ${state}.`,
      remedy: `After ${host.state} comes ${HOST_STATE_FOLLOWS[host.state].join(', ')}.`,
    });
  }
  if (state === 'retired' && fleet.referring('guest', 'hostId', host.id).some((guest) => guest.state !== 'retired')) {
    return refuse({
      code: 'host-has-guests',
      field: 'state',
      sentence: `${host.name} still has guests.`,
      remedy: 'Migrate or retire them first.',
    });
  }
  const what = state !== undefined && state !== host.state ? `set host ${host.name} to ${state}` : `edited host ${host.name}: ${Object.keys(change.fields).join(', ')}`;
  return { draft, title: what, subjects: [{ kind: 'host', id: host.id, name: host.name }] };
};
