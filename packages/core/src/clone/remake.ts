import { fewNames } from '../quantity/index.js';
import {
  change,
  draftOf,
  noSuch,
  objection,
  omittable,
  ref,
  refs,
  refuse,
  type ChangeContext,
  type DeciderOf,
  type Draft,
  type Fleet,
  type Refusal,
  type Row,
  type Subject,
} from '../record/index.js';
import { identityItemsOf } from '../guest/index.js';
import { currentVersion, versionName, versionOf, type Version } from '../template/index.js';

/** Clones are made anew from a newer version of their template: name, MACs, addresses and place stay, the disks are written anew. */
export const remakeClones = change({
  type: 'clone.remake',
  title: 'Remake the clones',
  carried: 'by hand',
  reasonRequired: true,
  alters: ['guestIds'],
  input: {
    guestIds: refs('guest', 200),
    /** Left out: the current version of the template that each came from. */
    versionId: omittable(ref('templateVersion')),
  },
});

export const decideRemakeClones: DeciderOf<typeof remakeClones> = (fleet, input, context) => {
  const draft = draftOf(fleet, context);
  const subjects: Subject[] = [];
  const objections: Refusal[] = [];
  let name = '';
  for (const id of input.guestIds) {
    const guest = fleet.get('guest', id);
    if (!guest) return noSuch('guest');
    const [clone] = fleet.referring('clone', 'guestId', id);
    const version = clone && versionFor(fleet, clone, input.versionId);
    if (!version)
      return refuse({
        code: 'no-version',
        field: 'guestIds',
        sentence: clone
          ? `${guest.name} came from ${fleet.need('guest', clone.originId).name}, which is no version of a template with a current one.`
          : `${guest.name} is no clone.`,
      });
    if (version.guestId === clone.originId)
      return refuse({
        code: 'version-current',
        field: 'guestIds',
        sentence: `${guest.name} is made from ${versionName(fleet, version)} already.`,
      });
    name = versionName(fleet, version);
    const fault = remakeOne(fleet, draft, context, { guest, clone, version });
    if (fault) return fault;
    if (guest.state === 'in service')
      objections.push(
        objection({
          code: 'remake-running',
          field: 'guestIds',
          sentence: `${guest.name} is in service: what it keeps on its disks is lost when they are written anew.`,
          remedy: 'Save what it keeps, stop it, then remake it.',
        }),
      );
    subjects.push({ kind: 'guest', id, name: guest.name });
  }
  if (subjects.length === 0)
    return refuse({
      code: 'none-chosen',
      field: 'guestIds',
      sentence: 'Choose the clones to remake.',
    });
  return {
    draft,
    title: `remade ${fewNames(subjects.map((one) => one.name))} from ${name}`,
    subjects,
    objections,
  };
};

function versionFor(
  fleet: Fleet,
  clone: Row<'clone'>,
  versionId: string | undefined,
): Version | undefined {
  if (versionId) return fleet.get('templateVersion', versionId);
  const from = versionOf(fleet, clone.originId);
  return from && currentVersion(fleet, from.templateId);
}

function remakeOne(
  fleet: Fleet,
  draft: Draft,
  { now, happenedAt }: ChangeContext,
  { guest, clone, version }: { guest: Row<'guest'>; clone: Row<'clone'>; version: Version },
): Refusal | undefined {
  const origin = fleet.need('guest', version.guestId);
  const bases = fleet.referring('volume', 'guestId', origin.id);
  for (const volume of fleet.referring('volume', 'guestId', guest.id)) {
    const base = bases.find(({ label }) => label === volume.label);
    if (!base) continue;
    const dependent = volume.baseId !== null;
    if (dependent && base.poolId !== volume.poolId)
      return refuse({
        code: 'away-from-base',
        field: 'guestIds',
        sentence: `${volume.label} of ${guest.name} lies in pool ${fleet.need('pool', volume.poolId).name}, that of ${versionName(fleet, version)} in ${fleet.need('pool', base.poolId).name}: what shares blocks lies beside its base.`,
        remedy: 'Promote it to an independent clone first.',
      });
    draft.update('volume', volume.id, {
      bytes: Math.max(volume.bytes, base.bytes),
      baseId: dependent ? base.id : null,
      usedBytes: null,
    });
  }
  draft.update('clone', clone.id, {
    originId: origin.id,
    madeAt: now,
    copySeconds: null,
    readyAt: null,
  });
  const items = identityItemsOf(fleet, origin);
  const held = fleet.referring('identityItem', 'cloneId', clone.id);
  for (const { id, item } of held)
    if (items.includes(item)) draft.update('identityItem', id, { doneAt: null, doneBy: '' });
    else draft.remove('identityItem', id);
  for (const item of items)
    if (!held.some((found) => found.item === item))
      draft.create('identityItem', { cloneId: clone.id, item });
  for (const { id } of fleet.referring('identityFact', 'guestId', guest.id))
    draft.remove('identityFact', id);
  if (guest.state === 'stopped' || guest.state === 'in service')
    draft.update('guest', guest.id, { state: 'building', stateAt: happenedAt });
  return undefined;
}
