import { givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  ref,
  some,
  type DeciderOf,
} from '../record/index.js';

/** One port of a host: where its cable goes, whether it is up. */
export const editPort = change({
  type: 'port.edit',
  title: 'Edit the port',
  alters: ['id'],
  input: {
    id: ref('port'),
    ...some(fieldsOf('port'), 'switchPortId', 'up', 'pluggedInto', 'management', 'card'),
  },
});

export const decideEditPort: DeciderOf<typeof editPort> = (fleet, { id, ...fields }, context) => {
  const draft = draftOf(fleet, context);
  const port = editFields(fleet, draft, 'port', id, fields);
  if (isRefusal(port)) return port;
  const host = fleet.need('host', port.hostId);
  draft.update('host', host.id, { networkChangedAt: context.now });
  const to = fleet.get('switchPort', fields.switchPortId);
  const title = to
    ? `plugged ${port.name} of ${host.name} into port ${to.name} of ${fleet.need('physicalSwitch', to.physicalSwitchId).name}`
    : `edited port ${port.name} of ${host.name}: ${givenWords(fields)}`;
  return { draft, title, subjects: [{ kind: 'host', id: host.id, name: host.name }] };
};
