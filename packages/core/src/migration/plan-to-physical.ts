import {
  change,
  draftOf,
  isRefusal,
  list,
  noSuch,
  ref,
  refuse,
  type DeciderOf,
  type Fleet,
  type InputOf,
  type Refusal,
  type Row,
} from '../record/index.js';
import { onlyComputers } from '../computer/index.js';
import { checkObjections } from './checks.js';
import { draftPhysical, draftSteps, physicalMoveInput } from './draft-move.js';
import { toPhysicalChecks } from './onto-checks.js';
import { toPhysicalSteps } from './steps-to-physical.js';
import { methodFault, openMove } from './physical-faults.js';
import { methodOf, routeEstimate, type Route } from './route.js';
import { windowFault } from './window.js';

/** A guest goes onto a computer: it moves there, or is copied and both stay. */
export const planToPhysical = change({
  type: 'migration.plan-to-physical',
  title: 'Plan to put a guest onto a computer',
  input: {
    guestId: ref('guest'),
    deviceId: ref('device'),
    /** Its volumes, each onto a disk. */
    disks: list({ volumeId: ref('volume'), computerDiskId: ref('computerDisk') }, 64),
    ...physicalMoveInput,
  },
});

type PlanToPhysical = InputOf<(typeof planToPhysical)['input']>;

/** What was asked for, read: both sides, the disks, the route with its checks and its estimate. */
export function toPhysicalRoute(fleet: Fleet, input: PlanToPhysical, now: string) {
  const guest = fleet.get('guest', input.guestId);
  const device = fleet.get('device', input.deviceId);
  if (!guest) return noSuch('guest');
  if (!device) return noSuch('device');
  const { windowFrom = null, windowUntil = null, method: chosen = null } = input;
  const disks = disksOf(fleet, guest, device, input.disks);
  if (isRefusal(disks)) return disks;
  const open = fleet
    .referring('migration', 'guestId', guest.id)
    .find(({ state }) => state !== 'accepted' && state !== 'rolled back');
  if (open)
    return refuse({
      code: 'migration-open',
      field: 'guestId',
      sentence: `${guest.name} has a migration that is ${open.state}.`,
      remedy: 'Finish that one first.',
    });
  const fault =
    onlyComputers(device, 'deviceId') ??
    openMove(fleet, device) ??
    windowFault({ windowFrom, windowUntil }) ??
    methodFault(chosen, 'target');
  if (fault) return fault;
  const route: Route = {
    guestId: guest.id,
    sourceHostId: guest.hostId,
    targetHostId: null,
    targetDeviceId: device.id,
    running: false,
    linkBitsPerSecond: input.linkBitsPerSecond,
    movesStorage: true,
    method: chosen,
  };
  const method = methodOf(route);
  const checks = toPhysicalChecks(fleet, { guest, device, disks, method, now });
  const estimate = routeEstimate(fleet, route);
  return { guest, device, disks, route, method, checks, estimate };
}

export const decidePlanToPhysical: DeciderOf<typeof planToPhysical> = (fleet, input, context) => {
  const read = toPhysicalRoute(fleet, input, context.now);
  if (isRefusal(read)) return read;
  const { guest, device, disks, route, method, checks, estimate } = read;
  const { keepsBoth = false } = input;
  const source = fleet.need('host', guest.hostId);
  const draft = draftOf(fleet, context);
  const migrationId = draftPhysical(fleet, draft, context, {
    ...{ guestId: guest.id, route, estimate, input },
  });
  for (const { volume, disk } of disks)
    draft.create('volumeMove', {
      migrationId,
      volumeId: volume.id,
      fromPoolId: volume.poolId,
      toPoolId: null,
      computerDiskId: disk.id,
    });
  const steps = toPhysicalSteps(fleet, {
    guest,
    source,
    device,
    disks,
    method,
    keepsBoth,
  });
  draftSteps(draft, migrationId, steps);
  return {
    draft,
    title: `planned to put ${guest.name} onto ${device.name}${keepsBoth ? ', as a copy' : ''}`,
    subjects: [
      { kind: 'migration', id: migrationId, name: guest.name },
      { kind: 'guest', id: guest.id, name: guest.name },
      { kind: 'device', id: device.id, name: device.name },
    ],
    objections: checkObjections(checks),
  };
};

function disksOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  device: Row<'device'>,
  wanted: readonly { volumeId: string; computerDiskId: string }[],
): { volume: Row<'volume'>; disk: Row<'computerDisk'> }[] | Refusal {
  if (wanted.length === 0)
    return refuse({
      code: 'none-chosen',
      field: 'disks',
      sentence: `Say which volumes of ${guest.name} go onto which disk of ${device.name}.`,
      remedy: 'Record the disks of the computer first, if none is there to choose.',
    });
  const found: { volume: Row<'volume'>; disk: Row<'computerDisk'> }[] = [];
  for (const [i, { volumeId, computerDiskId }] of wanted.entries()) {
    const volume = fleet.get('volume', volumeId);
    const disk = fleet.get('computerDisk', computerDiskId);
    if (volume?.guestId !== guest.id)
      return refuse({
        code: 'no-such-record',
        field: `disks.${i}.volumeId`,
        sentence: `Choose a volume of ${guest.name}.`,
      });
    if (disk?.deviceId !== device.id)
      return refuse({
        code: 'no-such-record',
        field: `disks.${i}.computerDiskId`,
        sentence: `Choose a disk of ${device.name}.`,
      });
    if (found.some((one) => one.volume.id === volume.id || one.disk.id === disk.id))
      return refuse({
        code: 'twice',
        field: `disks.${i}`,
        sentence: 'A volume goes onto one disk, and a disk takes one volume.',
      });
    found.push({ volume, disk });
  }
  return found;
}
