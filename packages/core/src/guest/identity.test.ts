/** A clone gets its own identity before it serves: what blocks, who may go past it, what is told of one that runs. */
import { beforeEach, describe, expect, it } from 'vitest';
import { decide, type ChangeOf } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { allFindingsAt } from '../finding/index.js';
import { IDENTITY_ITEMS } from '../record/index.js';
import { aboutItem, IDENTITY, openIdentity, TIERS, twinsUp } from './identity.js';

let world: World;
let first: string;
let second: string;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('master', 'gannet', 512, '192.0.2.10', 'stopped'));
  world.make({
    type: 'clone.make',
    input: {
      originId: world.id('guest', 'master'),
      copy: 'full',
      pattern: 'reader-{a..b}',
      start: 1,
      taking: 'run',
      clones: [{}, {}],
    },
  });
  [first, second] = [world.id('guest', 'reader-a'), world.id('guest', 'reader-b')];
});

const itemsOf = (guestId: string, wanted: (item: string) => boolean) =>
  world.fleet
    .referring('clone', 'guestId', guestId)
    .flatMap((clone) => world.fleet.referring('identityItem', 'cloneId', clone.id))
    .filter(({ item }) => wanted(item))
    .map(({ id }) => id);
const tick = (guestId: string, wanted: (item: string) => boolean) =>
  world.make({ type: 'clone.tick', input: { itemIds: itemsOf(guestId, wanted), done: true } });
const serve = (id: string, override?: string): ChangeOf<'guest.set-state'> => ({
  type: 'guest.set-state',
  input: { id, state: 'in service' },
  override,
});
const severityOf = (guestId: string, now = '2026-11-21T08:00:00.000Z') =>
  allFindingsAt(world.fleet, new Set([guestId]), now).find(({ rule }) => rule === 'identity-open')
    ?.severity;

describe('putting a clone in service', () => {
  it('is refused while what blocks is open, with what happens if it is forgotten', () =>
    expect(world.try(serve(first))).toMatchObject({
      code: 'identity-open-before-service',
      field: 'state',
      overridable: true,
      sentence:
        'reader-a still has of its origin: computer name, machine identifier, MAC address, static address, interface binding, directory membership, SSH host keys, certificates, licence key, administrator password. Forgotten, names resolve to one of the two, and people alter the wrong machine.',
    }));
  it('names the twin that is up', () => {
    tick(first, (item) => item === 'computer name');
    world.make(serve(second, 'the first of them, on its own'));
    expect(twinsUp(world.fleet, first).map(({ name }) => name)).toEqual(['reader-b']);
    expect(world.try(serve(first))).toMatchObject({
      sentence: expect.stringMatching(
        /reader-b is up: both draw the same lease although their MAC addresses differ\.$/,
      ) as string,
    });
  });
  it('is allowed when only the last week’s tier is open', () => {
    tick(first, (item) => aboutItem(item).tier !== 'within a week');
    expect([...openIdentity(world.fleet, first).keys()]).toEqual(['within a week']);
    world.make(serve(first));
    expect(world.fleet.need('guest', first).state).toBe('in service');
  });
  it('is gone past by an administrator with a reason, by nobody else', () => {
    const by = (role: 'administrator' | 'planner') =>
      decide(world.fleet, serve(first, 'a rehearsal, disconnected'), {
        now: '2026-11-20T09:00:00.000Z',
        actor: { id: role, name: role, role },
        newId: () => '00000000-0000-7000-8000-0000000000aa',
        randomByte: () => 0,
      });
    expect(by('planner')).toMatchObject({
      overridable: false,
      remedy:
        'Give it its own, and tick each. An administrator may go past it with a written reason.',
    });
    expect(by('administrator')).toMatchObject({ title: 'set guest reader-a to in service' });
  });
  it('of a guest that is no clone asks nothing', () => {
    expect(openIdentity(world.fleet, world.id('guest', 'master')).size).toBe(0);
    world.make(serve(world.id('guest', 'master')));
  });
});

describe('a clone that runs with open items', () => {
  beforeEach(() => void world.make(serve(first, 'as a test')));
  it('is a blocker, a caution, a note, a caution after a week, by the gravest tier', () => {
    expect(severityOf(first)).toBe('blocker');
    tick(first, (item) => aboutItem(item).tier === 'before it touches a network');
    expect(severityOf(first)).toBe('caution');
    tick(first, (item) => aboutItem(item).tier === 'before service');
    expect(severityOf(first)).toBe('note');
    expect(severityOf(first, '2027-01-01T08:00:00.000Z')).toBe('caution');
    tick(first, () => true);
    expect(severityOf(first)).toBeUndefined();
  });
});

it('items of several clones are ticked in one change, which names them', () => {
  const itemIds = [first, second].flatMap((id) => itemsOf(id, (item) => item === 'licence key'));
  expect(world.make({ type: 'clone.tick', input: { itemIds, done: true } })).toMatchObject({
    title: 'ticked licence key of 2 clones',
    subjects: [{ name: 'reader-a' }, { name: 'reader-b' }],
  });
});

it('every item has its tier and what happens if it is forgotten', () => {
  expect(Object.keys(IDENTITY).sort()).toEqual([...IDENTITY_ITEMS].sort());
  for (const { tier, forgotten } of Object.values(IDENTITY)) {
    expect(TIERS).toContain(tier);
    expect(forgotten).toMatch(/\w/);
  }
});
