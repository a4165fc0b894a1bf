/** What a guest is known by: read from what the script prints, compared with its origin and siblings, told where two share it. */
import { execFileSync } from 'node:child_process';
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { allFindingsAt } from '../finding/index.js';
import { PROOF_SCRIPT, readProof } from './proof-script.js';
import { verdictsOn } from './prove.js';

let world: World;
const id = (name: string) => world.id('guest', name);
const text = (lines: Record<string, string | string[]>) =>
  [
    'insel-identity: 1',
    ...Object.entries(lines).flatMap(([key, values]) =>
      [values].flat().map((value) => `${key}: ${value}`),
    ),
  ].join('\n');
const take = (name: string, lines: Record<string, string | string[]>) =>
  world.make({ type: 'guest.take-proof', input: { guestId: id(name), text: text(lines) } });
const itemOf = (name: string, item: string) => {
  const [clone] = world.fleet.referring('clone', 'guestId', id(name));
  return world.fleet
    .referring('identityItem', 'cloneId', clone!.id)
    .find((row) => row.item === item)!;
};
const rules = (name: string) =>
  allFindingsAt(world.fleet, [id(name)], world.now).map(({ rule }) => rule);

beforeEach(() => {
  world = smallWorld();
  world.make(world.found('master', 'gannet', 512, '192.0.2.10', 'stopped'));
  world.make({
    type: 'clone.make',
    input: {
      originId: id('master'),
      copy: 'full',
      pattern: 'reader-{n}',
      start: 1,
      taking: 'run',
      clones: [{}, {}],
    },
  });
});

describe('the script', () => {
  it('runs in a POSIX shell, reads only, and prints what can be read back', () => {
    const printed = execFileSync('sh', ['-s'], { input: PROOF_SCRIPT, encoding: 'utf8' });
    const read = readProof(printed);
    expect(read.ok && read.proof.name).toBeTruthy();
    execFileSync('sh', ['-n'], { input: PROOF_SCRIPT });
    expect(PROOF_SCRIPT).not.toMatch(/[^<]>\s*\/(?!dev\/null)/);
  });
  it('what is something else is not read, and nothing is altered', () =>
    expect(
      world.try({
        type: 'guest.take-proof',
        input: { guestId: id('reader-1'), text: 'hello: world' },
      }),
    ).toMatchObject({ code: 'proof-not-read', field: 'text' }));
});

describe('a proof', () => {
  it('ticks what is proved, with what was seen', () => {
    const [adapter] = world.fleet.referring('adapter', 'guestId', id('reader-1'));
    const [address] = world.fleet.referring('address', 'adapterId', adapter!.id);
    take('reader-1', {
      name: 'reader-1.pier.example',
      mac: adapter!.mac!,
      address: address!.ip,
    });
    for (const item of ['computer name', 'MAC address', 'static address'])
      expect([item, itemOf('reader-1', item).doneAt]).toEqual([item, world.now]);
    expect(itemOf('reader-1', 'computer name').remark).toBe(
      'seen: it calls itself reader-1.pier.example',
    );
  });
  it('proves nothing against an origin that nobody looked at', () => {
    take('reader-1', { 'machine-id': 'a'.repeat(32) });
    expect(itemOf('reader-1', 'machine identifier').doneAt).toBeNull();
    const read = readProof(text({ 'machine-id': 'a'.repeat(32) }));
    if (!read.ok) throw new Error(read.sentence);
    const verdicts = verdictsOn(world.fleet, world.fleet.need('guest', id('reader-1')), read.proof);
    expect(verdicts).toMatchObject([{ item: 'machine identifier', holds: null }]);
  });
  it('proves an identifier that neither origin nor sibling has', () => {
    take('master', { 'machine-id': 'a'.repeat(32) });
    take('reader-1', { 'machine-id': 'b'.repeat(32) });
    expect(itemOf('reader-1', 'machine identifier').doneAt).toBe(world.now);
    take('reader-2', { 'machine-id': 'b'.repeat(32) });
    expect(itemOf('reader-2', 'machine identifier').doneAt).toBeNull();
  });
  it('opens an item again that was ticked and does not hold', () => {
    world.make({
      type: 'clone.tick',
      input: { itemIds: [itemOf('reader-1', 'static address').id], done: true },
    });
    take('reader-1', { address: '192.0.2.77' });
    expect(itemOf('reader-1', 'static address').doneAt).toBeNull();
  });
});

describe('twins', () => {
  const serve = (name: string) =>
    world.make({
      type: 'guest.set-state',
      input: { id: id(name), state: 'in service' },
      override: 'a test',
    });
  it('with one machine identifier are told once: a blocker where both are up', () => {
    take('reader-1', { 'machine-id': 'a'.repeat(32), 'host-key': 'SHA256:one' });
    take('reader-2', { 'machine-id': 'a'.repeat(32), 'host-key': 'SHA256:one' });
    expect(rules('reader-1')).not.toContain('same-identity');
    const found = () =>
      allFindingsAt(world.fleet, [id('reader-2')], world.now).filter(
        ({ rule }) => rule === 'same-identity',
      );
    expect(found().map(({ severity }) => severity)).toEqual(['caution', 'caution']);
    serve('reader-1');
    serve('reader-2');
    expect(
      found()
        .map(({ severity }) => severity)
        .sort(),
    ).toEqual(['blocker', 'caution']);
    expect(found().find(({ severity }) => severity === 'blocker')!.evidence).toMatch(
      /^reader-2 and reader-1 have one machine identifier: a{32}, seen 2026-/,
    );
    take('reader-2', { 'machine-id': 'b'.repeat(32), 'host-key': 'SHA256:two' });
    expect(found()).toEqual([]);
  });
  it('are suspected where volumes are alike to the byte and nobody recorded a clone', () => {
    for (const [name, ip] of [
      ['left', '192.0.2.40'],
      ['right', '192.0.2.41'],
    ] as const) {
      world.make(world.found(name, 'gannet', 256, ip));
      const [volume] = world.fleet.referring('volume', 'guestId', id(name));
      world.make({ type: 'volume.edit', input: { id: volume!.id, usedBytes: 1_234_567_890 } });
    }
    expect(rules('right')).toContain('twin-suspected');
    expect(rules('left')).not.toContain('twin-suspected');
  });
});
