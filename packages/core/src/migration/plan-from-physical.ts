import { draftGuest, guestName } from '../guest/index.js';
import {
  beginning,
  change,
  draftOf,
  fieldsOf,
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
import type { DiskToVolume } from './disk-checks.js';
import { fromPhysicalChecks } from './physical-checks.js';
import { fromPhysicalSteps } from './steps-from-physical.js';
import { methodOf, routeEstimate, type Route } from './route.js';
import { computerOf } from './sides.js';
import { windowFault } from './window.js';
import { openMove, methodFault } from './physical-faults.js';

const guest = fieldsOf('guest');
const volume = fieldsOf('volume');

/** A computer that runs no guests becomes one: the guest is planned with it, and holds its room. */
export const planFromPhysical = change({
  type: 'migration.plan-from-physical',
  title: 'Plan to make a computer a guest',
  input: {
    deviceId: ref('device'),
    targetHostId: ref('host'),
    /** What the guest is called. */
    name: guestName,
    ...beginning(guest, 'vcpu', 'memoryMiB'),
    /** Disks that travel, each into a volume. */
    disks: list(
      { computerDiskId: ref('computerDisk'), ...beginning(volume, 'poolId', 'bytes', 'thin') },
      64,
    ),
    ...physicalMoveInput,
  },
});

type PlanFromPhysical = InputOf<(typeof planFromPhysical)['input']>;

/** What was asked for, read: both sides, the disks, the route with its checks and its estimate. */
export function fromPhysicalRoute(fleet: Fleet, input: PlanFromPhysical, now: string) {
  const device = fleet.get('device', input.deviceId);
  const target = fleet.get('host', input.targetHostId);
  if (!device) return noSuch('device');
  if (!target) return noSuch('host');
  const { windowFrom = null, windowUntil = null, method: chosen = null } = input;
  const disks = disksOf(fleet, device, input.disks);
  if (isRefusal(disks)) return disks;
  const fault =
    onlyComputers(device, 'deviceId') ??
    openMove(fleet, device) ??
    windowFault({ windowFrom, windowUntil }) ??
    methodFault(chosen, 'source');
  if (fault) return fault;
  const route: Route = {
    guestId: '',
    sourceHostId: null,
    sourceDeviceId: device.id,
    targetHostId: target.id,
    running: false,
    linkBitsPerSecond: input.linkBitsPerSecond,
    movesStorage: true,
    method: chosen,
    disks: disks.map(({ disk }) => disk),
  };
  const method = methodOf(route);
  const checks = fromPhysicalChecks(fleet, {
    device,
    target,
    disks,
    vcpu: input.vcpu,
    memoryMiB: input.memoryMiB,
    method,
    planned: false,
    now,
  });
  const estimate = routeEstimate(fleet, route);
  return { device, target, disks, route, method, checks, estimate };
}

export const decidePlanFromPhysical: DeciderOf<typeof planFromPhysical> = (
  fleet,
  input,
  context,
) => {
  const read = fromPhysicalRoute(fleet, input, context.now);
  if (isRefusal(read)) return read;
  const { device, target, disks, route, method, checks, estimate } = read;
  const { keepsBoth = false } = input;
  const draft = draftOf(fleet, context);
  const computer = computerOf(fleet, device.id);
  const family = computer?.family ?? 'other';
  const platform = fleet.need('platform', target.platformId);
  const careful = family === 'NT family' || family === 'other';
  const bus = careful && platform.diskBuses.includes('SATA') ? 'SATA' : 'paravirtual';
  const model = careful && platform.adapterModels.includes('emulated') ? 'emulated' : 'paravirtual';
  const ports = fleet
    .referring('devicePort', 'deviceId', device.id)
    .filter(({ networkId, outside }) => networkId !== null && !outside)
    .sort((a, b) => a.name.localeCompare(b.name));
  const drafted = draftGuest(
    fleet,
    draft,
    context,
    {
      fields: {
        name: input.name,
        hostId: target.id,
        state: 'planned',
        family,
        vcpu: input.vcpu,
        memoryMiB: input.memoryMiB,
        firmware: computer?.bootMode ?? 'unknown',
        bootFirst: 'disk',
        domain: device.domain,
        gateway: device.gateway,
        gateway6: device.gateway6,
        noGateway: device.noGateway,
        gatewayOnLink: device.gatewayOnLink,
        forwards: device.forwards,
      },
      volumes: disks.map(({ disk, pool, bytes, thick }) => ({
        poolId: pool.id,
        bytes,
        thin: !thick,
        label: disk.bay,
        bus,
      })),
      adapters: ports.map(({ networkId }) => ({ networkId, model, address: { as: 'none' } })),
    },
    true,
  );
  if (isRefusal(drafted)) return drafted;
  const { guestId } = drafted;
  const migrationId = draftPhysical(fleet, draft, context, { guestId, route, estimate, input });
  const volumeIds = draft
    .patches()
    .flatMap((patch) => (patch.op === 'create' && patch.kind === 'volume' ? [patch.id] : []));
  for (const [i, { disk, pool }] of disks.entries())
    draft.create('volumeMove', {
      migrationId,
      volumeId: volumeIds[i]!,
      fromPoolId: null,
      toPoolId: pool.id,
      computerDiskId: disk.id,
    });
  const steps = fromPhysicalSteps(fleet, {
    device,
    target,
    guestName: input.name.trim(),
    family,
    disks: disks.map(({ disk, pool, bytes }) => ({ disk, bytes, poolName: pool.name })),
    adapters: ports.length,
    method,
    keepsBoth,
  });
  draftSteps(draft, migrationId, steps);
  return {
    draft,
    title: `planned to make ${device.name} the guest ${input.name.trim()} on ${target.name}`,
    subjects: [
      { kind: 'migration', id: migrationId, name: input.name.trim() },
      { kind: 'guest', id: guestId, name: input.name.trim() },
      { kind: 'device', id: device.id, name: device.name },
    ],
    objections: [...checkObjections(checks), ...drafted.objections],
  };
};

function disksOf(
  fleet: Fleet,
  device: Row<'device'>,
  wanted: readonly { computerDiskId: string; poolId: string; bytes: number; thin?: boolean }[],
): DiskToVolume[] | Refusal {
  if (wanted.length === 0)
    return refuse({
      code: 'none-chosen',
      field: 'disks',
      sentence: `Say which disks of ${device.name} travel.`,
      remedy: 'Record its disks first, if none is there to choose.',
    });
  const found: DiskToVolume[] = [];
  for (const [i, { computerDiskId, poolId, bytes, thin = false }] of wanted.entries()) {
    const disk = fleet.get('computerDisk', computerDiskId);
    const pool = fleet.get('pool', poolId);
    if (disk?.deviceId !== device.id)
      return refuse({
        code: 'no-such-record',
        field: `disks.${i}.computerDiskId`,
        sentence: `Choose a disk of ${device.name}.`,
      });
    if (!pool)
      return refuse({
        code: 'no-such-record',
        field: `disks.${i}.poolId`,
        sentence: 'Choose a pool from the record.',
      });
    if (found.some((one) => one.disk.id === disk.id))
      return refuse({
        code: 'twice',
        field: `disks.${i}.computerDiskId`,
        sentence: `The disk ${disk.bay} stands here twice.`,
      });
    found.push({ disk, pool, bytes, thick: !thin });
  }
  return found;
}
