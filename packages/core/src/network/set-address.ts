import {
  beginning,
  change,
  choice,
  draftOf,
  fieldsOf,
  isRefusal,
  noSuch,
  omittable,
  ref,
  said,
  some,
  type DeciderOf,
  type Subject,
} from '../record/index.js';
import { giveAddress } from './give-address.js';
import { release } from './release.js';

const address = fieldsOf('address');

/** One more address of a host, an adapter or a device's port: given out by Insel (the next free one if none is named), or found. */
export const setAddress = change({
  type: 'address.set',
  title: 'Give an address',
  alters: ['replaces'],
  input: {
    ...some(address, 'hostId', 'adapterId', 'devicePortId'),
    networkId: omittable(ref('network')),
    /** Takes the next free address of this subnet, where a network has several. */
    subnetId: omittable(ref('subnet')),
    /** Left out: the next free address. */
    ip: omittable(address.ip),
    /** Given out by Insel, or found configured. */
    assigned: said(address.assigned),
    /** A lease is seen, never given. */
    use: omittable(choice('static', 'reservation', 'shared')),
    ...beginning(address, 'purpose', 'prefixLength'),
    /** Address that this one replaces: on the same holder and in the same subnet, if no other is said. */
    replaces: omittable(ref('address')),
  },
});

export const decideSetAddress: DeciderOf<typeof setAddress> = (fleet, input, context) => {
  const replaced = fleet.get('address', input.replaces);
  if (input.replaces && !replaced) return noSuch('address');
  const said = input.adapterId ?? input.hostId ?? input.devicePortId;
  const holder = said || !replaced ? input : replaced;
  const adapter = fleet.get('adapter', holder.adapterId);
  const host = fleet.get('host', holder.hostId);
  const port = fleet.get('devicePort', holder.devicePortId);
  if (!adapter && !host && !port)
    return noSuch(holder.adapterId ? 'adapter' : holder.devicePortId ? 'devicePort' : 'host');
  const draft = draftOf(fleet, context);
  if (replaced) release(fleet, draft, replaced, context.now);
  const subnet = fleet.get('subnet', input.subnetId ?? (said ? undefined : replaced?.subnetId));
  const given = giveAddress(fleet, draft, {
    holder: adapter
      ? { adapterId: adapter.id }
      : port
        ? { devicePortId: port.id }
        : { hostId: host!.id },
    networkId:
      input.networkId ?? subnet?.networkId ?? adapter?.networkId ?? port?.networkId ?? null,
    subnetId: subnet?.id,
    ip: input.ip,
    assigned: input.assigned || input.ip === undefined,
    use: input.use,
    purpose: input.purpose ?? (said ? undefined : replaced?.purpose),
    prefixLength: input.prefixLength ?? undefined,
    field: 'ip',
    now: context.now,
    randomByte: context.randomByte,
  });
  if (isRefusal(given)) return given;
  if (host) draft.update('host', host.id, { networkChangedAt: context.now });
  const subject: Subject = adapter
    ? { kind: 'guest', id: adapter.guestId, name: fleet.need('guest', adapter.guestId).name }
    : port
      ? { kind: 'device', id: port.deviceId, name: fleet.need('device', port.deviceId).name }
      : { kind: 'host', id: host!.id, name: host!.name };
  const objections = given.objections.filter(
    (objection) => !(objection.code === 'found-in-use' && replaced?.ip === given.ip),
  );
  return {
    draft,
    title: `${input.assigned ? 'assigned' : 'recorded'} ${given.ip} ${input.assigned ? 'to' : 'on'} ${subject.name}`,
    subjects: [subject],
    objections,
  };
};
