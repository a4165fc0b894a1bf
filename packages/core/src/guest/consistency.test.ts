/** What is advised, ranked and ruled must agree with each other, whatever is asked. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { smallWorld } from '../change/testing.js';
import { findingsAt } from '../finding/index.js';
import { platformOf } from '../host/index.js';
import { ADAPTER_MODELS, DISK_BUSES, isRefusal, type Row } from '../record/index.js';
import {
  adviseDevices,
  drivesOf,
  guestBuild,
  rankHosts,
  sizeFaults,
  suggestSize,
} from './index.js';

describe('a host that is said to fit', () => {
  const world = smallWorld();
  world.make(world.found('busy', 'gannet', 6144, '192.0.2.10'));
  world.make({ type: 'network.record', input: { name: 'inner' } });
  world.host('eider', 64, { networks: ['shore', 'inner'], cores: 4 });
  world.host('skua', 32, { networks: ['inner'] });
  world.make({ type: 'host.edit', input: { id: world.id('host', 'skua'), state: 'maintenance' } });
  const asked = fc.record({
    vcpu: fc.integer({ min: 1, max: 40 }),
    memoryMiB: fc.integer({ min: 64, max: 70_000 }),
    bytes: fc.integer({ min: 1, max: 2_000_000_000_000 }),
    network: fc.constantFrom('shore', 'inner'),
  });

  it('takes the plan; one that is not, objects', () => {
    fc.assert(
      fc.property(asked, ({ vcpu, memoryMiB, bytes, network }) => {
        const networkId = world.id('network', network);
        const ranks = rankHosts(
          world.fleet,
          {
            vcpu,
            memoryMiB,
            bytes,
            networkIds: [networkId],
            processorMode: 'unknown',
            family: 'Linux',
            profileId: null,
            groupId: null,
            ruleIds: [],
          },
          world.context(),
        );
        for (const rank of ranks) {
          const plan = world.try({
            type: 'guest.plan',
            input: {
              name: 'new',
              hostId: rank.hostId,
              family: 'Linux',
              vcpu,
              memoryMiB,
              volumes: [{ poolId: rank.pools[0]!.poolId, bytes }],
              adapters: [{ networkId, address: { as: 'none' } }],
            },
          });
          // More vCPU than threads is a reason of the ranking alone: the policy may allow it.
          const wide = rank.reasons.some(
            (reason) => reason.check === 'processors' && reason.sentence.includes('threads'),
          );
          if (!wide) expect([rank.name, rank.fits]).toEqual([rank.name, !isRefusal(plan)]);
        }
        // Those that fit come first.
        expect(ranks.map((rank) => rank.fits)).toEqual(
          [...ranks.map((rank) => rank.fits)].sort((a, b) => Number(b) - Number(a)),
        );
      }),
      { numRuns: 60 },
    );
  });
});

describe('what is advised', () => {
  const world = smallWorld();
  const some = <T>(words: readonly T[]) => fc.subarray([...words], { minLength: 1 });
  const platform = fc.record({
    diskBuses: some(DISK_BUSES.filter((bus) => bus !== 'unknown')),
    adapterModels: some(ADAPTER_MODELS.filter((model) => model !== 'unknown')),
    uefiGuests: fc.boolean(),
    legacyGuests: fc.boolean(),
  });
  const profileNames = [...world.fleet.all('profile')].map((profile) => profile.name);

  it('is offered by the platform, and breaks no rule of devices', () => {
    fc.assert(
      fc.property(platform, fc.constantFrom(...profileNames), (offers, name) => {
        const here = smallWorld();
        const profile = here.fleet.need('profile', here.id('profile', name));
        const gannet = here.id('host', 'gannet');
        const changed = here.try({
          type: 'platform.edit',
          input: { id: here.id('platform', 'Generic bare-metal 1'), ...offers },
        });
        if (!isRefusal(changed))
          here.make({
            type: 'platform.edit',
            input: { id: here.id('platform', 'Generic bare-metal 1'), ...offers },
          });
        const advice = Object.fromEntries(
          adviseDevices(
            here.fleet,
            drivesOf(profile.family, profile),
            platformOf(here.fleet, gannet),
            [gannet],
            'stopped',
          ).map(({ device, choice }) => [device, choice]),
        );
        expect(offers.diskBuses).toContain(advice['disk bus']);
        expect(offers.adapterModels).toContain(advice['adapter model']);
        const able =
          (profile.uefi && offers.uefiGuests) || (profile.legacyBoot && offers.legacyGuests);
        expect(advice.firmware !== 'unknown').toBe(able);
        // Only where the platform offers nothing that the system drives may the rule of the first boot speak.
        const drivable =
          (profile.paravirtualDisk || offers.diskBuses.some((bus) => bus !== 'paravirtual')) &&
          (profile.paravirtualNetwork || offers.adapterModels.includes('emulated'));
        if (!able || !drivable) return;
        here.make({
          type: 'guest.plan',
          input: {
            name: 'new',
            hostId: gannet,
            family: profile.family,
            vcpu: 1,
            memoryMiB: 512,
            firmware: advice.firmware as 'UEFI',
            processorMode: 'host',
            volumes: [
              {
                poolId: here.id('pool', 'gannet-data'),
                bytes: 1e9,
                bus: advice['disk bus'] as 'SATA',
              },
            ],
            adapters: [
              {
                networkId: null,
                model: advice['adapter model'] as 'emulated',
                address: { as: 'none' },
              },
            ],
          },
        });
        const rules = findingsAt(here.fleet, 'guest', here.id('guest', 'new'), here.now).map(
          (finding) => finding.rule,
        );
        expect(rules.filter((rule) => /^device|^firmware|^tied|^level/.test(rule))).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });
  it('is a size that its own role does not object to', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...profileNames),
        fc.integer({ min: 0, max: 5000 }),
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: 0, max: 8 }),
        (name, load, growthPercent, years) => {
          const profile = world.fleet.need('profile', world.id('profile', name));
          const size = suggestSize(profile, { load, growthPercent, years });
          expect(
            sizeFaults(
              world.fleet,
              { vcpu: size.vcpu.value, memoryMiB: size.memory.value },
              profile,
              null,
            ),
          ).toEqual([]);
          const more = suggestSize(profile, { load: load + 500, growthPercent, years });
          expect([
            more.vcpu.value >= size.vcpu.value,
            more.memory.value >= size.memory.value,
            (more.data?.value ?? 0) >= (size.data?.value ?? 0),
          ]).toEqual([true, true, true]);
        },
      ),
    );
  });
});

describe('the steps of any build', () => {
  it('have keys of their own, and every check can be ticked', () => {
    const flags = fc.record({
      forwards: fc.boolean(),
      noGateway: fc.boolean(),
      nestedVirtualisation: fc.boolean(),
      family: fc.constantFrom<Row<'guest'>['family']>(
        'Linux',
        'BSD',
        'NT family',
        'appliance',
        'other',
      ),
    });
    fc.assert(
      fc.property(
        flags,
        fc.integer({ min: 0, max: 3 }),
        fc.integer({ min: 0, max: 3 }),
        (fields, volumes, adapters) => {
          const world = smallWorld();
          const { family, nestedVirtualisation, ...routing } = fields;
          world.make({
            type: 'guest.plan',
            input: {
              name: 'new',
              hostId: world.id('host', 'gannet'),
              family,
              nestedVirtualisation,
              vcpu: 1,
              memoryMiB: 512,
              volumes: Array.from({ length: volumes }, () => ({
                poolId: world.id('pool', 'gannet-data'),
                bytes: 1e9,
              })),
              adapters: Array.from({ length: adapters }, () => ({
                networkId: world.id('network', 'shore'),
                address: { as: 'next' as const },
              })),
            },
          });
          const id = world.id('guest', 'new');
          if (routing.forwards || routing.noGateway)
            world.make({ type: 'guest.edit', input: { id, ...routing } });
          const steps = guestBuild(world.fleet, id).sections.flatMap((section) => section.steps);
          expect(new Set(steps.map((step) => step.key)).size).toBe(steps.length);
          for (const step of steps.filter((found) => found.check))
            expect(
              isRefusal(
                world.try({
                  type: 'guest.tick',
                  input: { guestId: id, step: step.key, outcome: 'failed' },
                }),
              ),
            ).toBe(false);
        },
      ),
      { numRuns: 40 },
    );
  });
});
