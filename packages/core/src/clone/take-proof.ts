import { counted } from '../quantity/index.js';
import { change, draftOf, noSuch, pasted, ref, refuse, type DeciderOf } from '../record/index.js';
import { factsOf, verdictsOn } from './prove.js';
import { LONGEST_PROOF, readProof } from './proof-script.js';

/** What a guest was seen to be known by goes into the record; items that it proves are ticked with what was seen. */
export const takeProof = change({
  type: 'guest.take-proof',
  title: 'Take in what the guest is known by',
  carried: 'only afterwards',
  alters: ['guestId'],
  input: { guestId: ref('guest'), text: pasted(LONGEST_PROOF) },
});

export const decideTakeProof: DeciderOf<typeof takeProof> = (fleet, { guestId, text }, context) => {
  const guest = fleet.get('guest', guestId);
  if (!guest) return noSuch('guest');
  const read = readProof(text);
  if (!read.ok)
    return refuse({
      code: 'proof-not-read',
      field: 'text',
      sentence: read.sentence,
      remedy: 'Nothing was altered.',
    });
  const draft = draftOf(fleet, context);
  const facts = factsOf(read.proof);
  const kinds = new Set(facts.map(({ what }) => what));
  for (const { id, what } of fleet.referring('identityFact', 'guestId', guestId))
    if (kinds.has(what)) draft.remove('identityFact', id);
  for (const fact of facts)
    draft.create('identityFact', {
      guestId,
      ...fact,
      seenAt: context.happenedAt,
      seenBy: context.actor.name,
    });
  const verdicts = verdictsOn(fleet, guest, read.proof);
  const open = fleet
    .referring('clone', 'guestId', guestId)
    .flatMap(({ id }) => fleet.referring('identityItem', 'cloneId', id));
  let ticked = 0;
  for (const { item, holds, seen } of verdicts) {
    const row = open.find((found) => found.item === item);
    if (!row || holds === null || (row.doneAt !== null) === holds) continue;
    draft.update('identityItem', row.id, {
      doneAt: holds ? context.happenedAt : null,
      doneBy: holds ? context.actor.name : '',
      remark: `seen: ${seen}`.slice(0, 200),
    });
    ticked += Number(holds);
  }
  const against = verdicts.filter(({ holds }) => holds === false);
  return {
    draft,
    title: `took in what ${guest.name} is known by: ${counted(ticked, 'item')} proved${against.length ? `, not its own: ${against.map(({ item }) => item).join(', ')}` : ''}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
