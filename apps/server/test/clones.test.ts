/** Clones through HTTP: a batch with its preview, identity that blocks, and who may go past it. */
import type {
  EntitlementView,
  Preview,
  Problem,
  ReadAnswer,
  TemplateView,
  Written,
} from '@insel/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  guestBody,
  Installation,
  planner as signedInPlanner,
  recordSmall,
  recordTern,
  type Person,
  type Small,
} from './support/server.js';

let here: Installation;
let keeper: Person;
let planner: Person;
let small: Small;
let origin: string;
const made: string[] = [];

beforeAll(async () => {
  here = new Installation();
  const begun = await here.begin();
  keeper = begun.administrator;
  small = await recordSmall(keeper);
  await recordTern(keeper, small);
  const { body } = await keeper.make<Written>('guest.plan', guestBody(small, 'master'));
  origin = body.created.find(({ kind }) => kind === 'guest')!.id;
  for (const state of ['in service', 'stopped'])
    await keeper.make('guest.set-state', { id: origin, state });
  planner = await signedInPlanner(keeper);
});
afterAll(() => here.end());

const batch = (more: object = {}) => ({
  originId: origin,
  copy: 'full',
  pattern: '{host}-gauge-{nn}',
  start: 1,
  taking: 'run',
  spread: 'one a host',
  clones: Array.from({ length: 4 }, () => ({})),
  ...more,
});

describe('a batch', () => {
  it('is shown row by row before it is made, with its places before and after', async () => {
    const { body } = await planner.preview<Preview>('clone.make', batch());
    expect(body.objections).toEqual([]);
    expect(body.made.map(({ name }) => name).sort()).toEqual([
      'gannet-gauge-01',
      'gannet-gauge-02',
      'tern-gauge-01',
      'tern-gauge-02',
    ]);
    for (const row of body.made) {
      expect(row.name.startsWith(`${row.host.name}-`)).toBe(true);
      expect(row.pools).toEqual([`${row.host.name}-data`]);
      expect(row.mac).toMatch(/^02(:[0-9a-f]{2}){5}$/);
    }
    expect(new Set(body.made.map(({ ip }) => ip)).size).toBe(4);
    const memory = body.places.filter(({ name }) => name.endsWith('memory'));
    expect(memory).toHaveLength(2);
    for (const { before, after } of memory) expect(after.value).toBeLessThan(before.value!);
    expect(body.tolerance).toMatchObject({ tried: 2, of: 2 });
  });
  it.each([
    ['a name that another has', { clones: [{}, { name: 'tern' }] }, 'name-taken', 'clones.1.name'],
    ['too short a range', { pattern: 'probe-{1..3}' }, 'too-few-names', 'pattern'],
    ['a brace alone', { pattern: 'probe-{' }, 'bad-name', 'pattern'],
  ])('with %s is refused at its cell', async (_, more, code, field) => {
    const { status, body } = await planner.make<Problem>('clone.make', batch(more));
    expect([status, body.code, body.field]).toEqual([422, code, field]);
  });
  it('is made in one change', async () => {
    const { status, body } = await planner.make<Written>('clone.make', batch());
    expect(status).toBe(201);
    made.push(...body.created.filter(({ kind }) => kind === 'guest').map(({ id }) => id));
    expect(made).toHaveLength(4);
    expect(here.checkRecord().status).toBe(0);
  });
  it('has first-start files whose differing lines are marked', async () => {
    const { body } = await planner.call<ReadAnswer<'firstStarts'>>('POST', 'clones/first-start', {
      ids: made,
    });
    for (const { files, sibling, guest } of body) {
      expect(sibling!.id).not.toBe(guest.id);
      const marked = files.map(({ text, differs }) => {
        const lines = text.split('\n');
        return differs.map((i) => lines[i]!.trim().split(':')[0]);
      });
      expect(marked[0]).toEqual(['hostname']);
      expect(marked[1]).toEqual(['instance-id', 'local-hostname']);
      expect(marked[2]![0]).toBe('macaddress');
      expect(marked[2]).toHaveLength(2);
    }
  });
});

describe('a clone with the identity of its origin', () => {
  const serve = (person: Person, more: object = {}) =>
    person.make<Problem>('guest.set-state', { id: made[0], state: 'in service', ...more });
  it('is not put in service by a planner, whatever the reason', async () => {
    for (const more of [{}, { override: 'in a hurry' }]) {
      const { body } = await serve(planner, more);
      expect([body.code, body.overridable]).toEqual(['identity-open-before-service', false]);
    }
  });
  it('is by an administrator with a reason, which stands in the log, and is told then', async () => {
    expect((await serve(keeper)).body).toMatchObject({ overridable: true });
    expect((await serve(keeper, { override: 'alone in the lab' })).status).toBe(201);
    const log = await keeper.call<{ rows: { override: string }[] }>('GET', 'log?take=1');
    expect(log.body.rows[0]!.override).toBe('alone in the lab');
    const { body } = await keeper.call<{ findings: { severity: string; rule: string }[] }>(
      'GET',
      'findings?rule=identity-open',
    );
    expect(body.findings).toMatchObject([{ severity: 'blocker', rule: 'identity-open' }]);
  });
  it('serves without objection once what blocks is ticked, for several clones at once', async () => {
    const { body } = await keeper.call<
      { clones: { guest: { id: string }; identity: { id: string; item: string }[] }[] }[]
    >('GET', 'clones');
    const itemIds = body[0]!.clones.flatMap(({ identity }) => identity.map(({ id }) => id));
    const ticked = await planner.make<Written>('clone.tick', { itemIds, done: true });
    expect(ticked.body.subjects).toHaveLength(4);
    const { status } = await planner.make('guest.set-state', {
      id: made[1],
      state: 'in service',
    });
    expect(status).toBe(201);
  });
});

describe('a template', () => {
  const templates = async () => (await planner.call<TemplateView[]>('GET', 'templates')).body;
  it('is begun with a stopped guest, seen to, and sealed', async () => {
    const { status } = await planner.make('template.begin', { guestId: origin, name: 'gauge' });
    expect(status).toBe(201);
    const [template] = await templates();
    const [version] = template!.versions;
    expect([version!.state, version!.generalised, template!.currentId]).toEqual([
      'being prepared',
      false,
      null,
    ]);
    const early = await planner.make<Problem>('template.seal', { id: version!.id });
    expect([early.status, early.body.code]).toEqual([409, 'version-joined']);
    const itemIds = version!.items.map(({ id }) => id);
    await planner.make('template.tick', { itemIds, done: true });
    expect((await planner.make('template.seal', { id: version!.id })).status).toBe(201);
    const [sealed] = await templates();
    expect(sealed).toMatchObject({
      currentId: version!.id,
      versions: [{ state: 'sealed', generalised: true, age: 0 }],
    });
    expect(sealed!.versions[0]!.clones).toHaveLength(4);
  });
  it('shortens the list of its clones, and says when they are made and ready', async () => {
    const { body } = await planner.preview<Preview>('clone.make', batch({ pattern: 'next-{n}' }));
    expect(body.time!.made.value).toBeGreaterThan(0);
    expect(body.time!.ready!.value).toBe(body.time!.made.value! + 5 * 60);
    expect(body.time!.range.made[1] / body.time!.range.made[0]).toBeCloseTo(6, 6);
    expect(body.made[0]!.disks).toEqual([`${body.made[0]!.name}-disk-1`]);
  });
  it('is ticked through a batch once a step', async () => {
    const { body } = await planner.make<Written>('clone.make', batch({ pattern: 'next-{n}' }));
    const ids = body.created.filter(({ kind }) => kind === 'guest').map(({ id }) => id);
    expect((await planner.make('guest.set-state-many', { ids, state: 'building' })).status).toBe(
      201,
    );
    const early = await planner.make<Problem>('guest.set-state-many', { ids, state: 'in service' });
    expect(early.body).toMatchObject({ code: 'identity-open-before-service', overridable: false });
  });
  it('a proof is looked at before it is taken in', async () => {
    const [guestId] = made;
    const text = `insel-identity: 1\nname: somebody-else\n`;
    const seen = await planner.call<{ verdicts: { holds: boolean }[] }>('POST', 'clones/proof', {
      guestId,
      text,
    });
    expect(seen.body.verdicts.map(({ holds }) => holds)).toEqual([false]);
    expect((await planner.make('guest.take-proof', { guestId, text })).status).toBe(201);
    const known = await planner.call<{ facts: { what: string; value: string }[] }>(
      'GET',
      `guests/${guestId}/known-by`,
    );
    expect(known.body.facts).toMatchObject([{ what: 'computer name', value: 'somebody-else' }]);
    expect(here.checkRecord().status).toBe(0);
  });
});

describe('a licence', () => {
  it('is told where it is used beyond what it allows, with what takes it', async () => {
    await planner.make('entitlement.record', {
      name: 'support',
      unit: 'host',
      count: 1,
      family: 'Linux',
    });
    const { body } = await planner.call<EntitlementView[]>('GET', 'entitlements');
    expect(body).toMatchObject([
      { name: 'support', used: { value: 2 }, findings: [{ rule: 'entitlement-exceeded' }] },
    ]);
  });
});
