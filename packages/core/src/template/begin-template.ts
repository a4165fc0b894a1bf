import { counted } from '../quantity/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  omittable,
  ref,
  refuse,
  SEAL_ITEMS,
  some,
  type DeciderOf,
  type Draft,
  type Fleet,
  type Refusal,
} from '../record/index.js';
import { versionOf, versionsOf } from './version.js';

const version = fieldsOf('templateVersion');

/** A guest becomes the first version of a template, or the next one of one that there is: prepared, not sealed yet. */
export const beginTemplate = change({
  type: 'template.begin',
  title: 'Make a template of the guest',
  alters: ['guestId'],
  input: {
    guestId: ref('guest'),
    /** Left out: a template of its own. */
    templateId: omittable(ref('template')),
    /** Of the new template; left out: as the guest is called. */
    name: omittable(fieldsOf('template').name),
    ...some(version, 'changed', 'installed', 'mediumId', 'resets'),
  },
});

export const decideBeginTemplate: DeciderOf<typeof beginTemplate> = (fleet, input, context) => {
  const { guestId, templateId, name, ...more } = input;
  const guest = fleet.get('guest', guestId);
  if (!guest) return noSuch('guest');
  const held = versionOf(fleet, guestId);
  if (held)
    return refuse({
      code: 'version-already',
      field: 'guestId',
      sentence: `${guest.name} is version ${held.number} of ${fleet.need('template', held.templateId).name} already.`,
    });
  if (guest.state === 'retired')
    return refuse({
      code: 'guest-retired',
      field: 'guestId',
      sentence: `${guest.name} is retired: there is no disk to copy.`,
    });
  const draft = draftOf(fleet, context);
  const line = templateId ? fleet.get('template', templateId) : undefined;
  if (templateId && !line) return noSuch('template');
  const called = line?.name ?? (name?.trim() || guest.name);
  const taken = line ? undefined : templateNamed(fleet, called);
  if (taken) return taken;
  const id = line?.id ?? draft.create('template', { name: called });
  const number = (line ? (versionsOf(fleet, line.id)[0]?.number ?? 0) : 0) + 1;
  draftVersion(draft, { templateId: id, number, guestId, begunAt: context.now, ...more });
  return {
    draft,
    title: `began version ${number} of template ${called} with ${guest.name}`,
    subjects: [
      { kind: 'template', id, name: called },
      { kind: 'guest', id: guest.id, name: guest.name },
    ],
  };
};

/** A version with all that has to be seen to before it is sealed. */
export function draftVersion(
  draft: Draft,
  fields: Parameters<typeof draft.create<'templateVersion'>>[1],
): string {
  const versionId = draft.create('templateVersion', fields);
  for (const item of SEAL_ITEMS)
    if (item !== 'disk copied' || fields.fromId) draft.create('sealItem', { versionId, item });
  return versionId;
}

function templateNamed(fleet: Fleet, name: string): Refusal | undefined {
  const found = [...fleet.all('template')].find(
    (row) => row.name.toLowerCase() === name.toLowerCase(),
  );
  if (!found) return undefined;
  const versions = counted(versionsOf(fleet, found.id).length, 'version');
  return refuse({
    code: 'name-taken',
    field: 'name',
    sentence: `There is a template named ${found.name} already, with ${versions}.`,
    remedy: 'Choose another name, or make it a version of that one.',
  });
}
