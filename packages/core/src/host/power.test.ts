/** Power feeds: loads, what trips after what, and what that means for guests; sums reckoned by hand beside each. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { allFindings } from '../finding/index.js';
import { failureDomain, failureOutcome, tolerance } from '../placement/index.js';
import { beside, feedLoad, outageOf } from './power.js';

let world: World;
const feedIds: Record<string, string> = {};
const feed = (name: string, more: object = {}) => {
  world.make({ type: 'power-feed.record', input: { name, ...more } });
  for (const row of world.fleet.all('powerFeed')) feedIds[row.name] = row.id;
  return feedIds[name]!;
};
const host = (name: string) => world.id('host', name);
const plug = (name: string, ...names: string[]) =>
  world.make({
    type: 'host.set-cords',
    input: { id: host(name), cords: names.map((one) => ({ feedId: feedIds[one]! })) },
  });
const draws = (name: string, drawWatts: number | null, powerSupplies = 2) =>
  world.make({ type: 'host.edit', input: { id: host(name), drawWatts, powerSupplies } });
const told = (rule: string) =>
  allFindings(world.fleet, world.now).filter((finding) => finding.rule === rule);

beforeEach(() => {
  world = smallWorld();
  feed('left', { watts: 600 });
  feed('right', { watts: 600 });
  draws('gannet', 400);
  draws('tern', 500);
});

describe('what a feed carries', () => {
  it('is half of each host with a supply at both, all of it where the other is dead', () => {
    plug('gannet', 'left', 'right');
    plug('tern', 'left', 'right');
    expect(feedLoad(world.fleet, feedIds.left!)).toEqual({ watts: 450, unknown: 0 });
    expect(feedLoad(world.fleet, feedIds.left!, new Set([feedIds.right!]))).toEqual({
      ...{ watts: 900, unknown: 0 },
    });
    expect(beside(world.fleet, feedIds.left!)).toEqual([feedIds.right]);
  });
  it('counts two supplies at one feed twice, and names hosts of which nothing is known', () => {
    draws('tern', null);
    plug('gannet', 'left', 'left');
    plug('tern', 'left', 'right');
    expect(feedLoad(world.fleet, feedIds.left!)).toEqual({ watts: 400, unknown: 1 });
    expect(feedLoad(world.fleet, feedIds.right!)).toEqual({ watts: 0, unknown: 1 });
  });
});

describe('what goes down with a feed', () => {
  it('is a host that hangs on it alone', () => {
    draws('tern', 150);
    plug('gannet', 'left');
    plug('tern', 'left', 'right');
    // The one that is left carries all of tern then, 150 W; left has 400 of gannet beside it.
    expect(outageOf(world.fleet, feedIds.left!)).toMatchObject({
      ...{ tripped: [], hostIds: [host('gannet')], unknown: 0 },
    });
    expect(outageOf(world.fleet, feedIds.right!).hostIds).toEqual([]);
    expect(failureDomain(world.fleet, 'feed', feedIds.right!)).toBeNull();
  });
  it('is both where the other trips after it: 900 W of 600', () => {
    plug('gannet', 'left', 'right');
    plug('tern', 'left', 'right');
    const outage = outageOf(world.fleet, feedIds.left!);
    expect(outage.tripped).toEqual([{ feedId: feedIds.right, watts: 900, allowed: 600 }]);
    expect(outage.hostIds).toEqual([host('gannet'), host('tern')].sort());
  });
  it('goes on from feed to feed', () => {
    feed('far', { watts: 450 });
    draws('gannet', 900);
    plug('gannet', 'left', 'right');
    plug('tern', 'right', 'far');
    // Left dies: right has 900 + 250 of 600 W, trips; far has 500 of 450 W, trips.
    expect(outageOf(world.fleet, feedIds.left!).feedIds).toEqual([
      ...[feedIds.left, feedIds.right, feedIds.far],
    ]);
  });
  it('is asked like any failure: guests restart on what has power', async () => {
    world.make({
      type: 'pool.record',
      input: { name: 'quay', usableBytes: 1e12, hostIds: [host('gannet'), host('tern')] },
    });
    world.make({
      type: 'guest.record',
      input: {
        ...{ name: 'tide', hostId: host('gannet'), state: 'in service', family: 'Linux' },
        ...{ vcpu: 1, memoryMiB: 1024 },
        volumes: [{ poolId: world.id('pool', 'quay'), bytes: 1e9 }],
        adapters: [{ networkId: world.id('network', 'shore'), address: { as: 'none' } }],
      },
    });
    plug('gannet', 'left');
    plug('tern', 'right');
    const domain = failureDomain(world.fleet, 'feed', feedIds.left!)!;
    const outcome = failureOutcome(world.fleet, domain, world.now);
    expect(outcome.answer).toBe('all restart');
    expect(outcome.guests[0]!.sentence).toBe('restarts on tern');
    expect(outcome.assumes).toMatch(/^Supplies that have power share what a host draws equally/);
    const { feeds } = (await tolerance(world.fleet))!;
    expect(feeds.map(({ failed, answer }) => [failed.name, answer])).toEqual([
      ['left', 'all restart'],
      ['right', 'all restart'],
    ]);
    // Each carries what tern and gannet draw: with tern on both, left trips after right.
    plug('tern', 'left', 'right');
    const both = failureOutcome(
      world.fleet,
      failureDomain(world.fleet, 'feed', feedIds.right!)!,
      world.now,
    );
    expect(both.assumes).toMatch(/^left trips after it: 900 W, 600 W allowed\./);
    expect(both.answer).toBe('some do not');
  });
});

describe('findings', () => {
  it('feed-overdrawn: it carries more than it may as it is', () => {
    plug('gannet', 'left', 'left');
    plug('tern', 'left', 'left');
    expect(told('feed-overdrawn')).toMatchObject([
      {
        severity: 'blocker',
        evidence: 'left carries 900 W; it may carry 600 W for a long time.',
      },
    ]);
  });
  it('feed-trips-after-another: with what comes over', () => {
    plug('gannet', 'left', 'right');
    plug('tern', 'left', 'right');
    expect(told('feed-trips-after-another').map(({ evidence }) => evidence)).toEqual([
      'When right fails, left carries 900 W; it may carry 600 W.',
      'When left fails, right carries 900 W; it may carry 600 W.',
    ]);
  });
  it('one-feed: two supplies, one feed; nothing is said where nobody recorded feeds', () => {
    expect(told('one-feed')).toEqual([]);
    plug('gannet', 'left');
    expect(told('one-feed').map(({ evidence }) => evidence)).toEqual([
      'gannet has 2 supplies: one is plugged into left, 1 other into no feed that is recorded.',
    ]);
    plug('gannet', 'left', 'left');
    expect(told('one-feed').map(({ evidence }) => evidence)).toEqual([
      'gannet has 2 supplies: 2 are plugged into left, none into another.',
    ]);
    plug('gannet', 'left', 'right');
    expect(told('one-feed')).toEqual([]);
  });
});

describe('cords', () => {
  it('more-cords-than-supplies is refused; removing a feed takes its cords along', () => {
    draws('gannet', 400, 1);
    expect(
      world.try({
        type: 'host.set-cords',
        input: {
          id: host('gannet'),
          cords: [{ feedId: feedIds.left! }, { feedId: feedIds.right! }],
        },
      }),
    ).toMatchObject({ code: 'more-cords-than-supplies' });
    plug('gannet', 'left');
    world.make({ type: 'power-feed.remove', input: { id: feedIds.left! } });
    expect([...world.fleet.all('powerCord')]).toEqual([]);
  });
});
