import { guestName } from '../guest/index.js';
import { roomObjections } from '../host/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  isRefusal,
  noSuch,
  omittable,
  ref,
  refuse,
  some,
  type DeciderOf,
} from '../record/index.js';
import { draftVersion, currentVersion, versionName, versionsOf } from '../template/index.js';
import { copyGuest, originOf } from './copy-guest.js';

/** Copy, update, generalise, seal: the copy is planned, the rest stands on its list. */
export const newVersion = change({
  type: 'template.new-version',
  title: 'Begin a new version',
  carried: 'by hand',
  alters: ['templateId'],
  input: {
    templateId: ref('template'),
    /** Of the guest that holds it; left out: the template's with the number. */
    name: omittable(guestName),
    /** Left out: beside the current version. */
    hostId: omittable(ref('host')),
    poolId: omittable(ref('pool')),
    ...some(fieldsOf('templateVersion'), 'changed', 'installed'),
  },
});

export const decideNewVersion: DeciderOf<typeof newVersion> = (fleet, input, context) => {
  const template = fleet.get('template', input.templateId);
  if (!template) return noSuch('template');
  const current = currentVersion(fleet, template.id);
  if (!current)
    return refuse({
      code: 'nothing-sealed',
      sentence: `${template.name} has no sealed version to copy.`,
      remedy: 'Seal the one that is being prepared, or make another guest a version.',
    });
  const number = versionsOf(fleet, template.id)[0]!.number + 1;
  const name = input.name?.trim() || `${template.name}-v${number}`;
  const [other] = fleet.named(name);
  if (other)
    return refuse({
      code: 'name-taken',
      field: 'name',
      sentence: `${name} is the name of another ${other.kind}.`,
      remedy: 'Choose another name.',
    });
  const draft = draftOf(fleet, context);
  const origin = originOf(fleet, fleet.need('guest', current.guestId));
  const drafted = copyGuest(fleet, draft, context, origin, {
    name,
    hostId: input.hostId ?? origin.guest.hostId,
    poolId: input.poolId,
    dependent: false,
    adapters: origin.adapters.map(() => ({ address: { as: 'none' } })),
  });
  if (isRefusal(drafted)) return drafted;
  draftVersion(draft, {
    templateId: template.id,
    number,
    guestId: drafted.guestId,
    fromId: current.id,
    changed: input.changed ?? '',
    installed: input.installed ?? current.installed,
    mediumId: current.mediumId,
    begunAt: context.now,
    resets: current.resets + 1,
  });
  const pools = origin.volumes.map(({ poolId }) => input.poolId ?? poolId);
  const known = pools.every((id) => fleet.get('pool', id));
  return {
    draft,
    title: `began version ${number} of template ${template.name} as ${name}, a copy of ${versionName(fleet, current)}`,
    subjects: [
      { kind: 'template', id: template.id, name: template.name },
      { kind: 'guest', id: drafted.guestId, name },
    ],
    objections: [
      ...(known ? roomObjections(fleet, draft.patches(), { hosts: [], pools }) : []),
      ...drafted.objections,
    ],
  };
};
