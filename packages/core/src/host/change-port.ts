import {
  draftOf,
  editFields,
  isRefusal,
  type ChangeBase,
  type Decider,
  type Values,
} from '../record/index.js';

/** Edits one port of a host: where its cable goes, whether it is up. */
export interface EditPort extends ChangeBase {
  type: 'port.edit';
  id: string;
  fields: Values;
}

export const editPort: Decider<EditPort> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const port = editFields(fleet, draft, 'port', change.id, change.fields, [
    'switchPortId',
    'up',
    'pluggedInto',
    'management',
    'card',
  ]);
  if (isRefusal(port)) return port;
  const host = fleet.need('host', port.hostId);
  draft.update('host', host.id, { networkChangedAt: edge.now });
  const to = fleet.get('switchPort', change.fields.switchPortId as string | null | undefined);
  const title = to
    ? `plugged ${port.name} of ${host.name} into port ${to.name} of ${fleet.need('physicalSwitch', to.physicalSwitchId).name}`
    : `edited port ${port.name} of ${host.name}: ${Object.keys(change.fields).join(', ')}`;
  return { draft, title, subjects: [{ kind: 'host', id: host.id, name: host.name }] };
};
