/** Templates: versions begun, seen to, sealed, copied into new ones, retired; and what hangs on them. */
import { beforeEach, describe, expect, it } from 'vitest';
import type { Change, Input } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { allFindingsAt } from '../finding/index.js';
import { identityItemsOf } from '../guest/index.js';
import { SEAL_ITEMS, type Row } from '../record/index.js';
import {
  currentVersion,
  dependentsOf,
  isGeneralised,
  stateOfVersion,
  versionName,
  versionsOf,
} from './index.js';

let world: World;
const guest = (name = 'master') => world.fleet.need('guest', world.id('guest', name));
const version = (number = 1) =>
  versionsOf(world.fleet, world.id('template', 'gauge')).find((row) => row.number === number)!;
const begin = (more: Partial<Input<'template.begin'>> = {}): Change => ({
  type: 'template.begin',
  input: { guestId: guest().id, name: 'gauge', ...more },
});
const items = (number = 1, wanted: readonly string[] = SEAL_ITEMS) =>
  world.fleet
    .referring('sealItem', 'versionId', version(number).id)
    .filter(({ item }) => wanted.includes(item))
    .map(({ id }) => id);
const tick = (number = 1, wanted?: readonly string[], done = true) =>
  world.make({ type: 'template.tick', input: { itemIds: items(number, wanted), done } });
const seal = (number = 1, override?: string): Change => ({
  type: 'template.seal',
  input: { id: version(number).id },
  override,
});
const state = (name: string, to: Row<'guest'>['state'], override?: string): Change => ({
  type: 'guest.set-state',
  input: { id: guest(name).id, state: to },
  override,
});
const clones = (more: Partial<Input<'clone.make'>> = {}, override?: string): Change => ({
  type: 'clone.make',
  input: {
    originId: guest().id,
    copy: 'full',
    pattern: 'reader-{n}',
    start: 1,
    taking: 'run',
    clones: [{}, {}],
    ...more,
  },
  override,
});
const retire = (number: number): Change => ({
  type: 'template.retire-version',
  input: { id: version(number).id },
});
const sealed = () => {
  world.make(begin());
  tick();
  world.make(seal());
};
const second = () => {
  world.make({
    type: 'template.new-version',
    input: { templateId: world.id('template', 'gauge'), changed: 'Updates.' },
  });
  for (const to of ['building', 'stopped'] as const) world.make(state('gauge-v2', to));
  tick(2);
  world.make(seal(2));
};
const told = (id: string) => allFindingsAt(world.fleet, [id], world.now);
const later = (days: number) =>
  (world.now = new Date(Date.parse(world.now) + days * 86_400_000).toISOString());

beforeEach(() => {
  world = smallWorld();
  world.make(world.found('master', 'gannet', 512, '192.0.2.10', 'stopped'));
});

describe('a guest becomes a template', () => {
  it('with its first version, prepared and not sealed, and a list of what to see to', () => {
    world.make(begin({ installed: 'time', changed: 'The first.' }));
    expect(stateOfVersion(version())).toBe('being prepared');
    expect(currentVersion(world.fleet, world.id('template', 'gauge'))).toBeUndefined();
    expect(items()).toHaveLength(SEAL_ITEMS.length - 1);
    expect(items(1, ['disk copied'])).toEqual([]);
    expect(versionName(world.fleet, version())).toBe('gauge v1');
    expect(guest().template).toBe(false);
  });
  it.each([
    ['version-already', () => (world.make(begin()), begin({ name: 'other' }))],
    ['guest-retired', () => (world.make(state('master', 'retired')), begin())],
    [
      'name-taken',
      () => {
        world.make(begin());
        world.make(world.found('other', 'gannet', 512, '192.0.2.11', 'stopped'));
        return begin({ guestId: world.id('guest', 'other'), name: 'Gauge' });
      },
    ],
  ])('not where it is refused: %s', (code, wrong) =>
    expect(world.try(wrong())).toMatchObject({ code }),
  );
  it('and another guest its next version', () => {
    world.make(begin());
    world.make(world.found('other', 'gannet', 512, '192.0.2.11', 'stopped'));
    const templateId = world.id('template', 'gauge');
    world.make(begin({ guestId: world.id('guest', 'other'), templateId }));
    expect(versionsOf(world.fleet, templateId).map(({ number }) => number)).toEqual([2, 1]);
  });
});

describe('sealing', () => {
  beforeEach(() => void world.make(begin()));
  it('needs a guest that is stopped', () => {
    world.make(state('master', 'in service'));
    expect(world.try(seal())).toMatchObject({ code: 'version-not-stopped', overridable: false });
  });
  it('is never done to what may be joined to a directory', () =>
    expect(world.try(seal(1, 'in a hurry'))).toMatchObject({
      code: 'version-joined',
      overridable: false,
    }));
  it('asks for a reason where something was not seen to', () => {
    tick(1, ['joined to no directory', 'updates installed']);
    expect(world.try(seal())).toMatchObject({
      code: 'seal-items-open',
      sentence:
        'Not seen to yet: identity generalised, logs and host keys removed, licence reset, installation medium ejected, adapter binding removed, shut down cleanly.',
    });
    world.make(seal(1, 'a plain master for the lab'));
    expect(isGeneralised(world.fleet, version().id)).toBe(false);
  });
  it.each([
    [
      'version-medium-attached',
      () => {
        world.make({ type: 'medium.record', input: { name: 'image', bytes: 1e9 } });
        const mediumId = world.id('medium', 'image');
        world.make({ type: 'drive.record', input: { guestId: guest().id, mediumId } });
      },
    ],
    [
      'version-has-snapshots',
      () =>
        void world.make({
          type: 'snapshot.record',
          input: {
            guestId: guest().id,
            poolId: world.id('pool', 'gannet-data'),
            name: 'before',
            takenAt: world.now,
          },
        }),
    ],
  ])('objects: %s', (code, given) => {
    tick();
    given();
    expect(world.try(seal())).toMatchObject({ code, overridable: true });
  });
  it('makes it what clones are made from, and no guest that counts', () => {
    tick();
    world.make(seal());
    expect(stateOfVersion(version())).toBe('sealed');
    expect(currentVersion(world.fleet, world.id('template', 'gauge'))?.id).toBe(version().id);
    expect([guest().template, version().sealedBy]).toEqual([true, 'planner']);
    expect(world.try(seal())).toMatchObject({ code: 'version-settled' });
  });
  it('keeps who ticked what, and a tick can be taken back', () => {
    tick(1, ['updates installed']);
    const [row] = items(1, ['updates installed']).map((id) => world.fleet.need('sealItem', id));
    expect([row!.doneBy, row!.doneAt]).toEqual(['planner', world.now]);
    tick(1, ['updates installed'], false);
    expect(world.fleet.need('sealItem', row!.id).doneAt).toBeNull();
  });
});

describe('a sealed version', () => {
  beforeEach(sealed);
  it('shortens the list of its clones by what it does not hold any more', () => {
    const list = identityItemsOf(world.fleet, guest());
    expect(list).not.toContain('machine identifier');
    expect(list).not.toContain('SSH host keys');
    expect(list).not.toContain('directory membership');
    expect(list).toContain('administrator password');
  });
  it('is not started without a reason, and is sealed no more then', () => {
    expect(world.try(state('master', 'in service'))).toMatchObject({
      code: 'sealed-version',
      remedy: 'Begin a new version of gauge: copy, update, generalise, seal.',
    });
    world.make(state('master', 'in service', 'one last look'));
    expect(stateOfVersion(version())).toBe('being prepared');
    expect(isGeneralised(world.fleet, version().id)).toBe(false);
  });
  it('is not started while dependent clones hang on its disk, nor retired', () => {
    world.make(clones({ copy: 'dependent' }));
    expect(dependentsOf(world.fleet, guest().id).map(({ name }) => name)).toEqual([
      'reader-1',
      'reader-2',
    ]);
    expect(world.try(state('master', 'in service'))).toMatchObject({
      code: 'sealed-with-dependents',
      sentence:
        'reader-1, reader-2 share the blocks of gauge v1: every block that it writes breaks theirs.',
    });
    expect(world.try(retire(1))).toMatchObject({ code: 'dependents-hang', overridable: false });
    for (const name of ['reader-1', 'reader-2'])
      world.make({ type: 'clone.promote', input: { guestIds: [guest(name).id] } });
    world.make(retire(1));
    expect(stateOfVersion(version())).toBe('retired');
    expect(world.try(retire(1))).toMatchObject({ code: 'version-settled' });
  });
  it('gives addresses to its clones although it has none itself', () => {
    for (const adapter of world.fleet.referring('adapter', 'guestId', guest().id))
      for (const { id } of world.fleet.referring('address', 'adapterId', adapter.id))
        world.make({ type: 'address.release', input: { id } });
    world.make(clones());
    const [adapter] = world.fleet.referring('adapter', 'guestId', guest('reader-1').id);
    expect(world.fleet.referring('address', 'adapterId', adapter!.id)).toHaveLength(1);
  });
  it.each([
    [29, undefined, undefined],
    [30, 'note', undefined],
    [90, 'caution', undefined],
    [180, 'caution', 'version-old'],
  ])('after %i days: %s, %s', (days, severity, code) => {
    later(days);
    const found = told(world.id('template', 'gauge')).find(({ rule }) => rule === 'template-old');
    expect(found?.severity).toBe(severity);
    const answer = world.try(clones());
    expect('code' in answer ? answer.code : undefined).toBe(code);
  });
  it('that was retired is cloned only with a reason', () => {
    world.make(retire(1));
    expect(world.try(clones())).toMatchObject({ code: 'version-not-sealed', overridable: true });
  });
});

describe('a new version', () => {
  const next = (): Change => ({
    type: 'template.new-version',
    input: { templateId: world.id('template', 'gauge') },
  });
  it('needs one that is sealed', () => {
    world.make(begin());
    expect(world.try(next())).toMatchObject({ code: 'nothing-sealed' });
  });
  it('is a planned copy with a list of its own, and one reset more', () => {
    sealed();
    world.make(next());
    expect(guest('gauge-v2')).toMatchObject({ state: 'planned', template: false, vcpu: 2 });
    expect(version(2)).toMatchObject({ fromId: version(1).id, resets: 1, sealedAt: null });
    expect(items(2, ['disk copied'])).toHaveLength(1);
    expect(currentVersion(world.fleet, world.id('template', 'gauge'))?.number).toBe(1);
  });
  it('is told when activations were reset too often', () => {
    sealed();
    for (let number = 2; number <= 4; number += 1) {
      world.make(next());
      for (const to of ['building', 'stopped'] as const) world.make(state(`gauge-v${number}`, to));
      tick(number);
      world.make(seal(number));
    }
    expect(told(world.id('template', 'gauge')).map(({ rule }) => rule)).toContain(
      'template-resets',
    );
  });
});

describe('remaking clones', () => {
  const remake = (name = 'reader-1', override?: string): Change => ({
    type: 'clone.remake',
    input: { guestIds: [guest(name).id] },
    reason: 'updates',
    override,
  });
  const cloneOf = (name: string) => world.fleet.referring('clone', 'guestId', guest(name).id)[0]!;
  beforeEach(sealed);
  it('keeps name, MAC, address and place; identity is open again', () => {
    world.make(clones());
    const [adapter] = world.fleet.referring('adapter', 'guestId', guest('reader-1').id);
    const open = world.fleet.referring('identityItem', 'cloneId', cloneOf('reader-1').id);
    world.make({ type: 'clone.tick', input: { itemIds: open.map(({ id }) => id), done: true } });
    second();
    world.make(remake());
    expect(cloneOf('reader-1').originId).toBe(guest('gauge-v2').id);
    expect(world.fleet.referring('adapter', 'guestId', guest('reader-1').id)).toEqual([adapter]);
    const after = world.fleet.referring('identityItem', 'cloneId', cloneOf('reader-1').id);
    expect(after.every(({ doneAt }) => doneAt === null)).toBe(true);
    expect(world.try(remake())).toMatchObject({ code: 'version-current' });
  });
  it('hangs a dependent one on the new base', () => {
    world.make(clones({ copy: 'dependent' }));
    second();
    world.make(remake());
    expect(dependentsOf(world.fleet, guest().id).map(({ name }) => name)).toEqual(['reader-2']);
    expect(dependentsOf(world.fleet, guest('gauge-v2').id).map(({ name }) => name)).toEqual([
      'reader-1',
    ]);
  });
  it('of one in service loses what it keeps', () => {
    world.make(clones());
    world.make(state('reader-1', 'in service', 'the lab'));
    second();
    expect(world.try(remake())).toMatchObject({ code: 'remake-running', overridable: true });
    world.make(remake('reader-1', 'nothing on it'));
    expect(guest('reader-1').state).toBe('building');
  });
  it('is refused of what is no clone of a template', () => {
    world.make(world.found('alone', 'gannet', 256, '192.0.2.12'));
    expect(world.try(remake('alone'))).toMatchObject({ code: 'no-version' });
    expect(
      world.try({ type: 'clone.remake', input: { guestIds: [] }, reason: 'none' }),
    ).toMatchObject({ code: 'none-chosen' });
  });
});

describe('promoting', () => {
  const promote = (name: string): Change => ({
    type: 'clone.promote',
    input: { guestIds: [guest(name).id] },
  });
  beforeEach(sealed);
  it('gives a dependent clone all blocks of its own', () => {
    const [base] = world.fleet.referring('volume', 'guestId', guest().id);
    world.make({ type: 'volume.edit', input: { id: base!.id, thin: true, usedBytes: 3e9 } });
    world.make(clones({ copy: 'dependent', clones: [{}] }));
    const volume = () => world.fleet.referring('volume', 'guestId', guest('reader-1').id)[0]!;
    world.make({ type: 'volume.edit', input: { id: volume().id, usedBytes: 1e9 } });
    world.make(promote('reader-1'));
    expect(volume()).toMatchObject({ baseId: null, usedBytes: 4e9 });
    expect(world.try(promote('reader-1'))).toMatchObject({ code: 'not-dependent' });
  });
  it('needs the room for both meanwhile', () => {
    world.make(clones({ copy: 'dependent', clones: [{}] }));
    const id = world.id('pool', 'gannet-data');
    world.make({ type: 'pool.edit', input: { id, usableBytes: 80e9 } });
    expect(world.try(promote('reader-1'))).toMatchObject({
      code: 'no-room-to-promote',
      overridable: true,
    });
  });
});

describe('a clone of a clone', () => {
  it('of a clone is made only with a reason: depth one is enough', () => {
    world.make(clones({ clones: [{}] }));
    world.make(state('reader-1', 'building'));
    world.make(state('reader-1', 'stopped'));
    const again = (name: string, pattern: string) =>
      clones({ originId: guest(name).id, pattern, clones: [{}] });
    world.make(again('reader-1', 'deeper-{n}'));
    world.make(state('deeper-1', 'building'));
    world.make(state('deeper-1', 'stopped'));
    expect(world.try(again('deeper-1', 'deepest-{n}'))).toMatchObject({ code: 'clone-of-clone' });
  });
});
