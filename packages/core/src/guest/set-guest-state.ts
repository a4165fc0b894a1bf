import { identityObjections } from './identity.js';
import { sealedObjections, unseal } from '../template/index.js';
import { counted, fewNames } from '../quantity/index.js';
import {
  change,
  draftOf,
  fieldsOf,
  isRefusal,
  noSuch,
  ref,
  refs,
  refuse,
  type DeciderOf,
  type Draft,
  type Fleet,
  type Refusal,
  type Row,
  type Subject,
} from '../record/index.js';

type State = Row<'guest'>['state'];
/** What a guest in a state can become. */
export const GUEST_STATE_FOLLOWS: Readonly<Record<State, readonly State[]>> = {
  planned: ['building', 'in service', 'retired'],
  building: ['planned', 'in service', 'stopped', 'retired'],
  'in service': ['stopped', 'retired'],
  stopped: ['in service', 'retired'],
  retired: ['stopped'],
};

/** A guest's state has changed in the world. */
export const setGuestState = change({
  type: 'guest.set-state',
  title: 'Set the state of the guest',
  carried: 'by hand',
  alters: ['id'],
  input: { id: ref('guest'), state: fieldsOf('guest').state },
});

export const decideSetGuestState: DeciderOf<typeof setGuestState> = (
  fleet,
  { id, state },
  context,
) => {
  const guest = fleet.get('guest', id);
  if (!guest) return noSuch('guest');
  const draft = draftOf(fleet, context);
  const objections = becomes(fleet, draft, guest, state, context.happenedAt);
  if (isRefusal(objections)) return objections;
  return {
    draft,
    title: `set guest ${guest.name} to ${state}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
    objections,
  };
};

/** States of several guests have changed alike: a batch is ticked once a step. */
export const setGuestStates = change({
  type: 'guest.set-state-many',
  title: 'Set the state of the guests',
  carried: 'by hand',
  alters: ['ids'],
  input: { ids: refs('guest', 500), state: fieldsOf('guest').state },
});

export const decideSetGuestStates: DeciderOf<typeof setGuestStates> = (
  fleet,
  { ids, state },
  context,
) => {
  const draft = draftOf(fleet, context);
  const found: Refusal[] = [];
  const subjects: Subject[] = [];
  for (const id of ids) {
    const guest = fleet.get('guest', id);
    if (!guest) return noSuch('guest');
    subjects.push({ kind: 'guest', id, name: guest.name });
    if (guest.state === state) continue;
    const objections = becomes(fleet, draft, guest, state, context.happenedAt);
    if (isRefusal(objections))
      return { ...objections, field: 'ids', sentence: `${guest.name}: ${objections.sentence}` };
    found.push(...objections);
  }
  if (subjects.length === 0)
    return refuse({ code: 'none-chosen', field: 'ids', sentence: 'Choose the guests.' });
  return {
    draft,
    title: `set ${counted(subjects.length, 'guest')} to ${state}: ${fewNames(subjects.map(({ name }) => name))}`,
    subjects,
    objections: found,
  };
};

function becomes(
  fleet: Fleet,
  draft: Draft,
  guest: Row<'guest'>,
  state: State,
  stateAt: string,
): Refusal[] | Refusal {
  if (!GUEST_STATE_FOLLOWS[guest.state].includes(state)) {
    return refuse({
      code: 'state-cannot-follow',
      field: 'state',
      sentence: `A guest that is ${guest.state} does not become ${state}.`,
      remedy: `After ${guest.state} comes ${GUEST_STATE_FOLLOWS[guest.state].join(', ')}.`,
    });
  }
  draft.update('guest', guest.id, { state, stateAt });
  if (state !== 'in service') return [];
  unseal(fleet, draft, guest.id);
  return [...sealedObjections(fleet, guest), ...identityObjections(fleet, guest)];
}
