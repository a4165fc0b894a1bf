/**
 * What one change costs all answers about failures: 1,000 hosts and 50,000 guests in memory, with disks of their own, with
 * storage that 25 hosts share but no group, in groups of 25. Run after a build.
 */
import { performance } from 'node:perf_hooks';
import { failureDomains, failureFates, Fleet, KINDS } from '../packages/core/dist/index.js';

const HOSTS = Number(process.env.INSEL_BENCH_HOSTS ?? 1000);
const GUESTS = Number(process.env.INSEL_BENCH_GUESTS ?? 50_000);
const TOGETHER = 25;
const id = (kind, n) =>
  `00000000-0000-7000-8${String(kind).padStart(3, '0')}-${String(n).padStart(12, '0')}`;
const [PLATFORM, GROUP, POOL, HOST, REACH, GUEST, VOLUME, SITE, RACK] = [1, 2, 3, 4, 5, 6, 7, 8, 9];

function fleetOf({ shared, grouped }) {
  const patches = [];
  const create = (kind, rowId, given) => {
    const begun = Object.entries(KINDS[kind].fields).map(([name, { initial }]) => [name, initial]);
    const after = { ...Object.fromEntries(begun), ...given };
    patches.push({ op: 'create', kind, id: rowId, after });
  };
  create('platform', id(PLATFORM, 0), { name: 'Generic' });
  for (let n = 0; n < 4; n += 1) create('site', id(SITE, n), { name: `site ${n}` });
  for (let n = 0; n < HOSTS / 20; n += 1)
    create('rack', id(RACK, n), { name: `r${n}`, siteId: id(SITE, n % 4), units: 42 });
  const pools = shared ? HOSTS / TOGETHER : HOSTS;
  for (let n = 0; n < pools; n += 1) {
    if (grouped)
      create('hostGroup', id(GROUP, n), {
        name: `group ${n}`,
        vcpuPerCore: 4,
        memoryPercent: 100,
        reservePercent: 0,
      });
    create('pool', id(POOL, n), {
      name: `pool ${n}`,
      usableBytes: 1e15,
      remote: shared ? 'shelf' : '',
    });
  }
  const among = (n) => (shared ? Math.floor(n / TOGETHER) : n);
  for (let n = 0; n < HOSTS; n += 1) {
    create('host', id(HOST, n), {
      name: `host ${n}`,
      state: 'in service',
      siteId: id(SITE, Math.floor(n / 20) % 4),
      rackId: id(RACK, Math.floor(n / 20)),
      platformId: id(PLATFORM, 0),
      groupId: grouped ? id(GROUP, among(n)) : null,
      sockets: 2,
      coresPerSocket: 32,
      threadsPerCore: 2,
      installedMiB: 1_048_576,
      architecture: 'x86-64',
    });
    create('poolReach', id(REACH, n), { poolId: id(POOL, among(n)), hostId: id(HOST, n) });
  }
  for (let n = 0; n < GUESTS; n += 1) {
    create('guest', id(GUEST, n), {
      name: `guest ${n}`,
      state: 'in service',
      hostId: id(HOST, n % HOSTS),
      family: 'Linux',
      vcpu: 1 + (n % 4),
      memoryMiB: 2048 * (1 + (n % 7)),
      heldWhenStopped: true,
    });
    create('volume', id(VOLUME, n), {
      guestId: id(GUEST, n),
      poolId: id(POOL, among(n % HOSTS)),
      label: 'system',
      bytes: 5e10,
      thin: false,
    });
  }
  const fleet = new Fleet();
  fleet.apply(patches, 1);
  return fleet;
}

const CHANGES = {
  'notes of a host': { kind: 'host', id: id(HOST, 7), after: { notes: 'looked at' } },
  'memory of a host': { kind: 'host', id: id(HOST, 7), after: { installedMiB: 524_288 } },
  'notes of a guest': { kind: 'guest', id: id(GUEST, 7), after: { notes: 'looked at' } },
  'memory of a guest': { kind: 'guest', id: id(GUEST, 7), after: { memoryMiB: 65_536 } },
  'notes of a pool': { kind: 'pool', id: id(POOL, 3), after: { notes: 'looked at' } },
  'notes of the platform': { kind: 'platform', id: id(PLATFORM, 0), after: { notes: 'new' } },
};

const shapes = {
  'disks of their own': { shared: false, grouped: false },
  [`storage shared by ${TOGETHER}, no group`]: { shared: true, grouped: false },
  [`groups of ${TOGETHER}`]: { shared: true, grouped: true },
};
for (const [name, shape] of Object.entries(shapes)) {
  const fleet = fleetOf(shape);
  const answer = () => {
    const began = performance.now();
    for (const domain of failureDomains(fleet)) failureFates(fleet, domain);
    return performance.now() - began;
  };
  const made = () =>
    fleet
      .keptValues()
      .values.filter((one) => one.name.startsWith('fate of'))
      .reduce((sum, one) => sum + one.made, 0);
  const first = answer();
  const said = [`first ${Math.round(first)} ms`];
  for (const [what, change] of Object.entries(CHANGES)) {
    const before = made();
    fleet.apply([{ op: 'update', ...change }], fleet.revision + 1);
    const ms = answer();
    said.push(`${what} ${made() - before} anew, ${ms.toFixed(1)} ms`);
  }
  const { edges, bytes } = fleet.keptValues();
  said.push(`${edges.toLocaleString('en')} reads noted, ${Math.round(bytes / 2 ** 20)} MiB`);
  console.log(`${name}: ${said.join('; ')}`);
}
