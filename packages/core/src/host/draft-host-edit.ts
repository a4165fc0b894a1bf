/** Editing a host's fields: shared by editing one, several, and taking facts in. */
import { parseName } from '../address/index.js';
import {
  editFields,
  isRefusal,
  refuse,
  type Context,
  type Draft,
  type Fleet,
  type Refusal,
  type Row,
  type Values,
} from '../record/index.js';
import { parseFingerprint } from './fingerprint.js';

/** Altering one of these makes earlier verifications worthless. */
const OF_ITS_NETWORK = ['name', 'domain', 'gateway', 'nameServers'];

type State = Row<'host'>['state'];
/** What a host in a state can become. */
export const HOST_STATE_FOLLOWS: Readonly<Record<State, readonly State[]>> = {
  planned: ['building', 'in service', 'retired'],
  building: ['planned', 'in service', 'failed', 'retired'],
  'in service': ['maintenance', 'failed', 'retired'],
  maintenance: ['in service', 'failed', 'retired'],
  failed: ['maintenance', 'in service', 'retired'],
  retired: ['building'],
};

/** Drafts an edit; gives the host as it was, or the refusal. */
export function draftHostEdit(
  fleet: Fleet,
  draft: Draft,
  context: Context,
  id: string,
  given: Values,
): Row<'host'> | Refusal {
  const fields = {
    ...given,
    ...(typeof given.certificateSha256 === 'string' && given.certificateSha256 !== ''
      ? readFingerprint(given.certificateSha256)
      : {}),
  };
  const host = editFields(fleet, draft, 'host', id, fields);
  if (isRefusal(host)) return host;
  if (given.name !== undefined) {
    const name = parseName(String(given.name));
    if (!name.ok) return refuse({ code: 'bad-name', field: 'name', sentence: name.sentence });
  }
  if (typeof given.certificateSha256 === 'string' && given.certificateSha256 !== '') {
    const read = parseFingerprint(given.certificateSha256);
    if (!read.ok)
      return refuse({
        code: 'bad-fingerprint',
        field: 'certificateSha256',
        sentence: read.sentence,
      });
  }
  if (given.outerGuestId && fleet.get('guest', String(given.outerGuestId))?.hostId === id) {
    return refuse({
      code: 'in-itself',
      field: 'outerGuestId',
      sentence: `${host.name} cannot be a guest of itself.`,
    });
  }
  if (OF_ITS_NETWORK.some((name) => given[name] !== undefined))
    draft.update('host', id, { networkChangedAt: context.now });
  const state = given.state as State | undefined;
  if (
    state !== undefined &&
    state !== host.state &&
    HOST_STATE_FOLLOWS[host.state] &&
    !HOST_STATE_FOLLOWS[host.state].includes(state)
  ) {
    return refuse({
      code: 'state-cannot-follow',
      field: 'state',
      sentence: `A host that is ${host.state} does not become ${state}.`,
      remedy: `After ${host.state} comes ${HOST_STATE_FOLLOWS[host.state].join(', ')}.`,
    });
  }
  if (
    state === 'retired' &&
    fleet.referring('guest', 'hostId', host.id).some((guest) => guest.state !== 'retired')
  ) {
    return refuse({
      code: 'host-has-guests',
      field: 'state',
      sentence: `${host.name} still has guests.`,
      remedy: 'Migrate or retire them first.',
    });
  }
  return host;
}

const readFingerprint = (text: string): Values => {
  const read = parseFingerprint(text);
  return read.ok ? { certificateSha256: read.value } : {};
};
