import { identityObjections } from '../clone/identity.js';
import {
  change,
  draftOf,
  fieldsOf,
  noSuch,
  ref,
  refuse,
  type DeciderOf,
  type Row,
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
  if (!GUEST_STATE_FOLLOWS[guest.state].includes(state)) {
    return refuse({
      code: 'state-cannot-follow',
      field: 'state',
      sentence: `A guest that is ${guest.state} does not become ${state}.`,
      remedy: `After ${guest.state} comes ${GUEST_STATE_FOLLOWS[guest.state].join(', ')}.`,
    });
  }
  const draft = draftOf(fleet, context);
  draft.update('guest', guest.id, { state, stateAt: context.happenedAt });
  return {
    draft,
    title: `set guest ${guest.name} to ${state}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
    objections: state === 'in service' ? identityObjections(fleet, guest) : [],
  };
};
