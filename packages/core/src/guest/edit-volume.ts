import { roomObjections } from '../host/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  objection,
  ref,
  some,
  type DeciderOf,
  type Fleet,
  type InputOf,
  type Refusal,
  type Row,
} from '../record/index.js';

/** Growing a volume of a planned guest needs room in its pool. */
export const editVolume = change({
  type: 'volume.edit',
  title: 'Edit the volume',
  alters: ['id'],
  input: {
    id: ref('volume'),
    ...some(
      fieldsOf('volume'),
      'label',
      'bytes',
      'thin',
      'poolId',
      'bus',
      'use',
      'split',
      'usedBytes',
    ),
  },
});
type Edit = InputOf<(typeof editVolume)['input']>;

export const decideEditVolume: DeciderOf<typeof editVolume> = (fleet, input, context) => {
  const { id, ...fields } = input;
  const draft = draftOf(fleet, context);
  const volume = editFields(fleet, draft, 'volume', id, fields);
  if (isRefusal(volume)) return volume;
  const guest = fleet.need('guest', volume.guestId);
  const { poolId = volume.poolId, bytes = volume.bytes } = fields;
  const planning = guest.state === 'planned' || guest.state === 'building';
  const sound = fleet.get('pool', poolId) && Number.isSafeInteger(bytes);
  const room =
    planning && sound ? roomObjections(fleet, draft.patches(), { hosts: [], pools: [poolId] }) : [];
  return {
    draft,
    title: `edited ${volume.label} of ${guest.name}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
    objections: [...baseObjections(fleet, volume, input), ...room],
  };
};

/** What dependent clones share may neither grow nor move, and they do not move without it. */
function baseObjections(fleet: Fleet, volume: Row<'volume'>, { bytes, poolId }: Edit): Refusal[] {
  const dependents = fleet.referringCount('volume', 'baseId', volume.id);
  const base = fleet.get('volume', volume.baseId);
  const found: Refusal[] = [];
  if (dependents > 0 && (bytes !== undefined || poolId !== undefined)) {
    found.push(
      objection({
        code: 'is-a-base',
        field: bytes === undefined ? 'poolId' : 'bytes',
        sentence: `${dependents} dependent ${dependents === 1 ? 'clone shares' : 'clones share'} the blocks of ${volume.label}: altering it breaks them.`,
        remedy: 'Make the clones whole first, or write why this one will do.',
      }),
    );
  }
  if (base && poolId !== undefined && poolId !== base.poolId) {
    found.push(
      objection({
        code: 'away-from-base',
        field: 'poolId',
        sentence: `${volume.label} shares the blocks of ${base.label}, which lie in pool ${fleet.need('pool', base.poolId).name}: elsewhere it holds nothing that can be read.`,
        remedy: 'Make it whole first, or write why this will do.',
      }),
    );
  }
  return found;
}
