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

export const editSwitch = change({
  type: 'switch.edit',
  title: 'Edit the virtual switch',
  alters: ['id'],
  input: {
    id: ref('virtualSwitch'),
    ...some(
      fieldsOf('virtualSwitch'),
      ...(['name', 'mode', 'untagged', 'bundle', 'translation', 'natUplinkId'] as const),
    ),
  },
});

export const decideEditSwitch: DeciderOf<typeof editSwitch> = (
  fleet,
  { id, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const found = editFields(fleet, draft, 'virtualSwitch', id, fields);
  if (isRefusal(found)) return found;
  const host = fleet.need('host', found.hostId);
  draft.update('host', host.id, { networkChangedAt: context.now });
  return {
    draft,
    title: `edited ${found.name} of ${host.name}: ${givenWords(fields)}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};
