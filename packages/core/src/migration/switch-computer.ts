/** What a switch, its acceptance and its way back alter where a computer is one side of the move. */
import { addressesOf } from '../names/index.js';
import { release } from '../network/index.js';
import { objection, type Draft, type Fleet, type Refusal, type Row } from '../record/index.js';
import { carryAddresses } from './carry-addresses.js';

interface Moving {
  fleet: Fleet;
  draft: Draft;
  migration: Row<'migration'>;
  guest: Row<'guest'>;
  at: string;
}

/** The machine is the other one now: it runs, has the addresses, and the source stays as the way back. */
export function switchComputer({ fleet, draft, migration, guest, at }: Moving): Refusal[] {
  const { sourceDeviceId, targetDeviceId, keepsBoth } = migration;
  if (sourceDeviceId) {
    draft.update('guest', guest.id, { state: 'in service', stateAt: at });
    if (keepsBoth) return [];
    draft.update('device', sourceDeviceId, { state: 'off' });
    draft.create('hold', {
      migrationId: migration.id,
      side: 'source',
      deviceId: sourceDeviceId,
      hostId: null,
      poolId: null,
      vcpu: 0,
      memoryMiB: 0,
      bytes: 0,
      until: null,
    });
    return stayed(
      carryAddresses(fleet, draft, { guestId: guest.id, deviceId: sourceDeviceId, to: 'guest' }),
      guest.name,
    );
  }
  draft.update('device', targetDeviceId!, { state: 'in service' });
  if (keepsBoth) return [];
  draft.update('guest', guest.id, { state: 'stopped', stateAt: at });
  // What it was called by went with the system that was overwritten: on the way back only the guest's own return.
  for (const address of addressesOf(fleet, 'device', targetDeviceId!))
    release(fleet, draft, address, at);
  const { name } = fleet.need('device', targetDeviceId!);
  return stayed(
    carryAddresses(fleet, draft, { guestId: guest.id, deviceId: targetDeviceId!, to: 'device' }),
    name,
  );
}

const stayed = (addresses: readonly Row<'address'>[], name: string): Refusal[] =>
  addresses.map(({ ip }) =>
    objection({
      code: 'address-stays',
      sentence: `${ip} stays with the source: ${name} has nothing in its network.`,
      remedy: 'Put it into that network first, or say why it goes without.',
    }),
  );

/** A guest that lives on a computer now is retired; its volumes are kept until a day. */
export function retireSource({ fleet, draft, migration, guest, at }: Moving, until: string): void {
  if (migration.keepsBoth) return;
  draft.update('guest', guest.id, { state: 'retired', stateAt: at });
  const pools = fleet
    .referring('volumeMove', 'migrationId', migration.id)
    .flatMap(({ fromPoolId }) => fromPoolId ?? []);
  for (const poolId of new Set(pools))
    draft.create('hold', {
      migrationId: migration.id,
      side: 'source',
      hostId: null,
      vcpu: 0,
      memoryMiB: 0,
      poolId,
      // The volumes themselves take the room until their deletion is recorded.
      bytes: 0,
      until,
    });
}

/** The source is the machine again. What was written on the target stays until its deletion is recorded. */
export function takeBackComputer({ fleet, draft, migration, guest, at }: Moving): void {
  const { state, sourceDeviceId, targetDeviceId, keepsBoth } = migration;
  if (sourceDeviceId) {
    if (state === 'planned')
      for (const move of fleet.referring('volumeMove', 'migrationId', migration.id)) {
        draft.remove('volumeMove', move.id);
        draft.remove('volume', move.volumeId);
      }
    // Its name is free for the next try.
    draft.update('guest', guest.id, { state: 'retired', stateAt: at, nameAssigned: false });
    if (state !== 'switched' || keepsBoth) return;
    draft.update('device', sourceDeviceId, { state: 'in service' });
    carryAddresses(fleet, draft, { guestId: guest.id, deviceId: sourceDeviceId, to: 'device' });
    return;
  }
  if (state !== 'switched') return;
  draft.update('device', targetDeviceId!, { state: 'off' });
  if (keepsBoth) return;
  draft.update('guest', guest.id, { state: 'in service', stateAt: at });
  carryAddresses(fleet, draft, { guestId: guest.id, deviceId: targetDeviceId!, to: 'guest' });
}
