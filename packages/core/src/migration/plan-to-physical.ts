import {
  change,
  draftOf,
  fieldsOf,
  isRefusal,
  list,
  noSuch,
  ref,
  refuse,
  some,
  type DeciderOf,
  type Fleet,
  type InputOf,
  type Refusal,
  type Row,
} from '../record/index.js';
import { checkObjections } from './checks.js';
import { toPhysicalChecks } from './onto-checks.js';
import { toPhysicalSteps } from './physical-steps.js';
import { computerFault, methodFault, openMove } from './plan-from-physical.js';
import { bytesToCopy, methodOf, routeEstimate, type Route } from './route.js';
import { windowFault } from './window.js';

const migration = fieldsOf('migration');

/** A guest goes onto a computer: it moves there, or is copied and both stay. */
export const planToPhysical = change({
  type: 'migration.plan-to-physical',
  title: 'Plan to put a guest onto a computer',
  input: {
    guestId: ref('guest'),
    deviceId: ref('device'),
    /** Its volumes, each onto a disk. */
    disks: list({ volumeId: ref('volume'), computerDiskId: ref('computerDisk') }, 64),
    linkBitsPerSecond: migration.linkBitsPerSecond,
    ...some(migration, 'method', 'windowFrom', 'windowUntil', 'keepsBoth', 'owner'),
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
    computerFault(device) ??
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
  const { windowFrom = null, windowUntil = null, keepsBoth = false } = input;
  const source = fleet.need('host', guest.hostId);
  const expected = estimate.expected.value;
  const draft = draftOf(fleet, context);
  const migrationId = draft.create('migration', {
    guestId: guest.id,
    sourceHostId: source.id,
    targetHostId: null,
    targetDeviceId: device.id,
    keepsBoth,
    state: 'planned',
    running: false,
    linkBitsPerSecond: input.linkBitsPerSecond,
    bytes: bytesToCopy(fleet, route),
    estimateSeconds: expected === null ? null : Math.ceil(expected),
    plannedAt: context.happenedAt,
    method: input.method ?? null,
    windowFrom,
    windowUntil,
    owner: input.owner,
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
  for (const [position, step] of steps.entries())
    draft.create('moveStep', { ...step, migrationId, position });
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
