/** What starting the guest of a sealed version means: it is used up, and what shares its blocks breaks. */
import { fewNames } from '../quantity/index.js';
import { objection, type Draft, type Fleet, type Refusal, type Row } from '../record/index.js';
import { dependentsOf, versionName, versionOf } from './version.js';

/** What a start makes untrue. */
const UNDONE: ReadonlySet<Row<'sealItem'>['item']> = new Set([
  'identity generalised',
  'logs and host keys removed',
  'shut down cleanly',
]);

export function sealedObjections(fleet: Fleet, guest: Row<'guest'>): Refusal[] {
  const version = versionOf(fleet, guest.id);
  if (!version?.sealedAt) return [];
  const name = versionName(fleet, version);
  const dependents = dependentsOf(fleet, guest.id);
  const remedy = `Begin a new version of ${fleet.need('template', version.templateId).name}: copy, update, generalise, seal.`;
  if (dependents.length > 0)
    return [
      objection({
        code: 'sealed-with-dependents',
        field: 'state',
        sentence: `${fewNames(dependents.map((one) => one.name))} ${dependents.length === 1 ? 'shares' : 'share'} the blocks of ${name}: every block that it writes breaks theirs.`,
        remedy,
      }),
    ];
  return [
    objection({
      code: 'sealed-version',
      field: 'state',
      sentence: `${guest.name} is sealed as ${name}: starting it uses it up, and one activation more may be reset.`,
      remedy,
    }),
  ];
}

/** Started all the same, it is sealed no more. */
export function unseal(fleet: Fleet, draft: Draft, guestId: string): void {
  const version = versionOf(fleet, guestId);
  if (!version?.sealedAt) return;
  draft.update('templateVersion', version.id, { sealedAt: null, sealedBy: '' });
  for (const { id, item } of fleet.referring('sealItem', 'versionId', version.id))
    if (UNDONE.has(item)) draft.update('sealItem', id, { doneAt: null, doneBy: '' });
}
