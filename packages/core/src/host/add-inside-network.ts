import { formatAddress, formatPrefix, parsePrefix, usable } from '../address/index.js';
import {
  change,
  choice,
  draftOf,
  fieldsOf,
  noSuch,
  ref,
  refuse,
  type DeciderOf,
} from '../record/index.js';
import { sharedByPlatform } from './translation.js';

/** A network of its own that no other host carries, with a block in a routing domain of its own. */
export const addInsideNetwork = change({
  type: 'host.add-inside',
  title: 'Add a network inside the host',
  input: {
    hostId: ref('host'),
    name: fieldsOf('network').name,
    /** Bridged, it would not be inside. */
    mode: choice('NAT', 'host and guests', 'guests only', 'routed'),
    /** Block of its guests; the host takes the first usable address where the mode gives it one. */
    prefix: fieldsOf('subnet').prefix,
  },
});

export const decideAddInsideNetwork: DeciderOf<typeof addInsideNetwork> = (
  fleet,
  input,
  context,
) => {
  const host = fleet.get('host', input.hostId);
  if (!host) return noSuch('host');
  const block = parsePrefix(input.prefix);
  if (!block.ok)
    return refuse({
      code: 'bad-prefix',
      field: 'prefix',
      sentence: block.sentence,
      remedy: block.suggestion && `Write ${block.suggestion}.`,
    });
  const name = input.name.trim();
  for (const other of fleet.all('network'))
    if (other.name.toLowerCase() === name.toLowerCase())
      return refuse({
        code: 'name-taken',
        field: 'name',
        sentence: `There is a network named ${name} already.`,
      });
  const draft = draftOf(fleet, context);
  const domainId = draft.create('routingDomain', { name: `inside ${host.name}: ${name}` });
  const networkId = draft.create('network', {
    name,
    siteId: host.siteId,
    purpose: `${input.mode}, on ${host.name} only`,
  });
  const first = formatAddress({ family: block.value.family, value: usable(block.value).first });
  const isGateway = input.mode === 'NAT' || input.mode === 'routed';
  const subnetId = draft.create('subnet', {
    networkId,
    domainId,
    prefix: formatPrefix(block.value),
    gateway: isGateway ? first : null,
  });
  const virtualSwitchId = draft.create('virtualSwitch', {
    hostId: host.id,
    networkId,
    mode: input.mode,
    name,
  });
  const isolated = input.mode === 'NAT' && !sharedByPlatform(fleet, host.id);
  if (input.mode !== 'guests only' && !isolated) {
    draft.create('address', {
      domainId,
      subnetId,
      ip: first,
      assigned: true,
      use: 'static',
      purpose: input.mode,
      hostId: host.id,
      virtualSwitchId,
    });
  }
  return {
    draft,
    title: `${host.name} has ${name} for its guests, ${input.mode}, ${formatPrefix(block.value)}`,
    subjects: [
      { kind: 'host', id: host.id, name: host.name },
      { kind: 'network', id: networkId, name },
    ],
  };
};
