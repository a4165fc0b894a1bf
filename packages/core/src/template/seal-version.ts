/** A version of a template: what was seen to, that it is sealed, that no more clones are made from it. */
import { fewNames, givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  flag,
  isRefusal,
  noSuch,
  objection,
  omittable,
  ref,
  refs,
  refuse,
  said,
  some,
  type DeciderOf,
  type Fleet,
  type Refusal,
  type Row,
  type Subject,
} from '../record/index.js';
import { dependentsOf, stateOfVersion, versionName, type Version } from './version.js';

const about = (fleet: Fleet, version: Version): Subject[] => {
  const template = fleet.need('template', version.templateId);
  const guest = fleet.need('guest', version.guestId);
  return [
    { kind: 'template', id: template.id, name: template.name },
    { kind: 'guest', id: guest.id, name: guest.name },
  ];
};

/** What stands on the page of a version; may be mended after it was sealed. */
export const editVersion = change({
  type: 'template.edit-version',
  title: 'Edit the version',
  alters: ['id'],
  input: {
    id: ref('templateVersion'),
    ...some(fieldsOf('templateVersion'), 'changed', 'installed', 'mediumId', 'resets'),
  },
});

export const decideEditVersion: DeciderOf<typeof editVersion> = (
  fleet,
  { id, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const version = editFields(fleet, draft, 'templateVersion', id, fields);
  if (isRefusal(version)) return version;
  return {
    draft,
    title: `edited ${versionName(fleet, version)}: ${givenWords(fields)}`,
    subjects: about(fleet, version),
  };
};

/** Things to see to before a version is sealed are done, or open again. May be repeated. */
export const tickSealItems = change({
  type: 'template.tick',
  title: 'Tick what was seen to',
  carried: 'only afterwards',
  input: {
    itemIds: refs('sealItem', 50),
    done: said(flag()),
    remark: omittable(fieldsOf('sealItem').remark),
  },
});

export const decideTickSealItems: DeciderOf<typeof tickSealItems> = (fleet, input, context) => {
  const draft = draftOf(fleet, context);
  const items: Row<'sealItem'>[] = [];
  for (const id of input.itemIds) {
    const item = fleet.get('sealItem', id);
    if (!item) return noSuch('sealItem');
    draft.update('sealItem', id, {
      doneAt: input.done ? context.happenedAt : null,
      doneBy: input.done ? context.actor.name : '',
      ...(input.remark === undefined ? {} : { remark: input.remark }),
    });
    items.push(item);
  }
  const [first] = items;
  if (!first) return noSuch('sealItem');
  const version = fleet.need('templateVersion', first.versionId);
  return {
    draft,
    title: `${input.done ? 'ticked' : 'reopened'} ${items.map(({ item }) => item).join(', ')} of ${versionName(fleet, version)}`,
    subjects: about(fleet, version),
  };
};

/** From now on clones are made from it, and it is not started any more. */
export const sealVersion = change({
  type: 'template.seal',
  title: 'Seal the version',
  carried: 'by hand',
  alters: ['id'],
  input: { id: ref('templateVersion') },
});

export const decideSealVersion: DeciderOf<typeof sealVersion> = (fleet, { id }, context) => {
  const version = fleet.get('templateVersion', id);
  if (!version) return noSuch('templateVersion');
  const fault = cannotSeal(fleet, version);
  if (fault) return fault;
  const draft = draftOf(fleet, context);
  draft.update('templateVersion', id, {
    sealedAt: context.happenedAt,
    sealedBy: context.actor.name,
  });
  draft.update('guest', version.guestId, { template: true });
  return {
    draft,
    title: `sealed ${versionName(fleet, version)}`,
    subjects: about(fleet, version),
    objections: sealObjections(fleet, version),
  };
};

const openItems = (fleet: Fleet, { id }: Version): string[] =>
  fleet
    .referring('sealItem', 'versionId', id)
    .filter(({ doneAt }) => doneAt === null)
    .map(({ item }) => item);

function cannotSeal(fleet: Fleet, version: Version): Refusal | undefined {
  const name = versionName(fleet, version);
  const state = stateOfVersion(version);
  if (state !== 'being prepared')
    return refuse({
      code: 'version-settled',
      sentence: `${name} is ${state}.`,
      remedy: 'Make a new version.',
    });
  const guest = fleet.need('guest', version.guestId);
  if (guest.state !== 'stopped')
    return refuse({
      code: 'version-not-stopped',
      sentence: `${guest.name} is ${guest.state}: only a stopped guest can be sealed.`,
      remedy: 'Shut it down cleanly, record that it is stopped, then seal it.',
    });
  if (openItems(fleet, version).includes('joined to no directory'))
    return refuse({
      code: 'version-joined',
      sentence: `It is not ticked that ${guest.name} is joined to no directory: what is joined is never sealed, for each copy would use one account.`,
      remedy: 'Leave the directory, tick it, then seal it.',
    });
  return undefined;
}

function sealObjections(fleet: Fleet, version: Version): Refusal[] {
  const found: Refusal[] = [];
  const open = openItems(fleet, version);
  if (open.length > 0)
    found.push(
      objection({
        code: 'seal-items-open',
        sentence: `Not seen to yet: ${open.join(', ')}.`,
        remedy: 'Tick each when it is done, or write why this version goes without.',
      }),
    );
  const [drive] = fleet.referring('drive', 'guestId', version.guestId);
  if (drive)
    found.push(
      objection({
        code: 'version-medium-attached',
        sentence: `${fleet.need('medium', drive.mediumId).name} is still in a drive: copies may start the installer.`,
        remedy: 'Eject it.',
      }),
    );
  const snapshots = fleet.referringCount('snapshot', 'guestId', version.guestId);
  if (snapshots > 0)
    found.push(
      objection({
        code: 'version-has-snapshots',
        sentence: `It has ${snapshots === 1 ? 'a snapshot' : `${snapshots} snapshots`}: what a copy takes over differs by the tool.`,
        remedy: 'Delete them first.',
      }),
    );
  return found;
}

/** No more clones are made from it; one that is being prepared is given up. Its guest stays in the record. */
export const retireVersion = change({
  type: 'template.retire-version',
  title: 'Retire the version',
  alters: ['id'],
  input: { id: ref('templateVersion') },
});

export const decideRetireVersion: DeciderOf<typeof retireVersion> = (fleet, { id }, context) => {
  const version = fleet.get('templateVersion', id);
  if (!version) return noSuch('templateVersion');
  const name = versionName(fleet, version);
  if (version.retiredAt !== null)
    return refuse({ code: 'version-settled', sentence: `${name} is retired already.` });
  const dependents = dependentsOf(fleet, version.guestId);
  if (dependents.length > 0)
    return refuse({
      code: 'dependents-hang',
      sentence: `${fewNames(dependents.map((guest) => guest.name))} ${dependents.length === 1 ? 'shares' : 'share'} the blocks of ${name}.`,
      remedy: 'Promote them to independent ones, or remake them from the current version.',
    });
  const draft = draftOf(fleet, context);
  draft.update('templateVersion', id, { retiredAt: context.happenedAt });
  return { draft, title: `retired ${name}`, subjects: about(fleet, version) };
};
