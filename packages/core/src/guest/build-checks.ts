/** First checks of a guest that was built: from inside, and from beside it. Common practice, no source. */
import type { Fleet, Row } from '../record/index.js';
import { placeOf } from './build-addresses.js';
import type { Building, BuildStep } from './build-step.js';

export function checks(at: Building): BuildStep[] {
  const { fleet, guest, adapters } = at;
  const place = placeOf(at);
  const own = adapters.flatMap((adapter) =>
    fleet.referring('address', 'adapterId', adapter.id).map((address) => address.ip),
  );
  const peer = peerOf(fleet, guest, adapters);
  const steps: BuildStep[] = [
    {
      key: 'check address',
      text: 'It has its own address, and no other',
      value: own.join(', ') || undefined,
      check: true,
    },
  ];
  if (place.gateway && !guest.noGateway)
    steps.push({
      key: 'check gateway',
      text: 'Its gateway answers',
      value: place.gateway,
      check: true,
    });
  if (place.nameServers.length)
    steps.push({
      key: 'check names',
      text: 'Its name server resolves its own full name',
      value: place.nameServers.join(', '),
      check: true,
    });
  if (place.gateway && !guest.noGateway)
    steps.push({ key: 'check outside', text: 'A name outside resolves and answers', check: true });
  if (peer)
    steps.push({
      key: 'check peer',
      text: `From a peer, ${peer.name}: it answers`,
      value: own[0],
      check: true,
    });
  if (guest.forwards)
    steps.push({
      key: 'check behind',
      text: 'From a machine behind it: the outside answers',
      check: true,
    });
  steps.push({
    key: 'check restart',
    text: 'Restart it once: it comes back by itself',
    check: true,
  });
  return steps;
}

/** Another guest in service on the same network. */
function peerOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  adapters: readonly Row<'adapter'>[],
): Row<'guest'> | undefined {
  for (const { networkId } of adapters) {
    if (!networkId) continue;
    for (const adapter of fleet.referring('adapter', 'networkId', networkId)) {
      const other = fleet.need('guest', adapter.guestId);
      if (other.id !== guest.id && other.state === 'in service') return other;
    }
  }
  return undefined;
}
