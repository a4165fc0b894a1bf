/** Every read of the contract through HTTP: answered for whoever may read, described, refused to strangers and for nonsense. */
import { spawnSync } from 'node:child_process';
import {
  READ_PATHS,
  requestOf,
  type Problem,
  type ReadName,
  type ReadQuery,
  type Written,
} from '@insel/contract';
import ICAL from 'ical.js';
import { parse } from 'yaml';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  guestBody,
  Installation,
  Person,
  recordSmall,
  type Server,
  type Small,
} from './support/server.js';

interface World extends Small {
  platformId: string;
  newerId: string;
  guestId: string;
  volumeId: string;
  deviceId: string;
  migrationId: string;
  findingId: string;
  profileId: string;
  sha256: string;
  planId: string;
  feedId: string;
}
const NOBODY = '00000000-0000-7000-8000-000000000000';

let here: Installation;
let server: Server;
let administrator: Person;
let reader: Person;
const world = {} as World;

beforeAll(async () => {
  here = new Installation();
  const begun = await here.begin();
  server = begun.server;
  const keeper = begun.administrator;
  administrator = keeper;
  Object.assign(world, await recordSmall(keeper));
  const made = async (kind: string, type: string, input: object) => {
    const { body } = await keeper.make<Written>(type, { ...input });
    if (!body.created) throw new Error(`${type}: ${JSON.stringify(body)}`);
    return body.created.find((row) => row.kind === kind)!.id;
  };
  await keeper.make('profile.add-usual');
  world.profileId = (await keeper.call<{ id: string }[]>('GET', 'profiles')).body[0]!.id;
  const plan = await keeper.make<Written>(
    'guest.plan',
    guestBody(world, 'tide', { profileId: world.profileId }),
  );
  const created = (kind: string) => plan.body.created.find((row) => row.kind === kind)!.id;
  world.guestId = created('guest');
  world.volumeId = created('volume');
  world.deviceId = await made('device', 'device.record', {
    name: 'bell',
    kind: 'printer',
    ports: [],
  });
  const [platform, newer] = (await keeper.call<{ id: string }[]>('GET', 'platforms')).body;
  Object.assign(world, { platformId: platform!.id, newerId: newer!.id });
  const other = await made('host', 'host.record', {
    name: 'tern',
    state: 'in service',
    platformId: platform!.id,
    sockets: 1,
    coresPerSocket: 16,
    threadsPerCore: 2,
    installedMiB: 131_072,
    pools: [{ name: 'tern-data', usableBytes: 8e12 }],
    networks: [{ networkId: world.networkId }],
  });
  for (const state of ['in service', 'stopped'])
    await keeper.make('guest.set-state', { id: world.guestId, state });
  world.migrationId = await made('migration', 'migration.plan', {
    guestId: world.guestId,
    targetHostId: other,
    targetPoolId: null,
    running: false,
    override: 'only its answer is looked at here',
    linkBitsPerSecond: 1e9,
  });
  await keeper.make('log.note', { text: 'what a self-test said\n'.repeat(80) });
  const { body } = await keeper.call<{ rows: { attachment: { sha256: string } | null }[] }>(
    'GET',
    'log',
  );
  world.planId = await made('plan', 'plan.record', { name: 'autumn' });
  world.feedId = await made('powerFeed', 'power-feed.record', { name: 'left' });
  world.sha256 = body.rows[0]!.attachment!.sha256;
  const told = await keeper.call<{ findings: { id: string }[] }>('GET', 'findings');
  world.findingId = told.body.findings[0]!.id;
  await keeper.call('POST', 'people', {
    name: 'reader',
    password: 'a long enough password',
    role: 'reader',
  });
  reader = await new Person(server.base).signIn('reader');
});
afterAll(() => here.end());

/** What is asked of each: the compiler wants one for every read of the contract. */
const ASKED: { [N in ReadName]: () => ReadQuery<N> } = {
  chart: () => ({ take: 10 }),
  tolerance: () => ({}),
  toleranceCounts: () => ({}),
  pairs: () => ({}),
  failure: () => ({ kind: 'host', id: world.hostId }),
  waterline: () => ({}),
  findings: () => ({}),
  findingAge: () => ({ id: world.findingId }),
  search: () => ({ q: 'tide' }),
  hosts: () => ({ sort: 'memoryLeft' }),
  host: () => ({ id: world.hostId }),
  hostsAlike: () => ({ id: world.hostId, count: 2 }),
  hostSuitability: () => ({ id: world.hostId }),
  hostBuild: () => ({ id: world.hostId }),
  hostBuildPage: () => ({ id: world.hostId }),
  factsScript: () => ({}),
  factsCompared: () => ({ text: JSON.stringify({ insel_facts: 1, host_name: 'gannet' }) }),
  sites: () => ({}),
  routingDomains: () => ({}),
  racks: () => ({}),
  hostGroups: () => ({}),
  platforms: () => ({}),
  placementRules: () => ({}),
  networks: () => ({}),
  network: () => ({ id: world.networkId }),
  subnets: () => ({}),
  nextFree: () => ({ id: world.subnetId, count: 3 }),
  reservations: () => ({ id: world.subnetId }),
  reach: () => ({ from: world.guestId, to: world.hostId }),
  matrix: () => ({ ids: [world.guestId] }),
  zoneDefaults: () => ({}),
  zones: () => ({
    domain: 'isle.example',
    primary: 'ns.isle.example',
    mailbox: 'post@isle.example',
    servers: 'ns.isle.example',
  }),
  hostsFile: () => ({}),
  namesCompared: () => ({ text: '192.0.2.9 buoy' }),
  nameSources: () => ({}),
  listPreview: () => ({ text: '192.0.2.9 buoy' }),
  machines: () => ({ q: 'ti' }),
  machine: () => ({ id: world.deviceId }),
  patchTable: () => ({}),
  physicalSwitches: () => ({}),
  plugs: () => ({}),
  lines: () => ({}),
  devices: () => ({}),
  device: () => ({ id: world.deviceId }),
  guests: () => ({ hostId: world.hostId }),
  guestSize: () => ({ profileId: world.profileId, networkIds: [] }),
  guest: () => ({ id: world.guestId }),
  guestBuild: () => ({ id: world.guestId }),
  guestBuildPage: () => ({ id: world.guestId }),
  guestEnd: () => ({ id: world.guestId }),
  firstStart: () => ({ id: world.guestId }),
  seedImage: () => ({ id: world.guestId }),
  guestUse: () => ({ id: world.guestId, days: 7 }),
  volumePlaces: () => ({ id: world.volumeId }),
  profiles: () => ({}),
  profileUse: () => ({ id: world.profileId }),
  guestGroups: () => ({}),
  media: () => ({}),
  pools: () => ({}),
  poolsUsed: () => ({}),
  poolUse: () => ({ id: world.poolId }),
  sampleImports: () => ({}),
  sampleKeeping: () => ({}),
  startOrder: () => ({}),
  shutDown: () => ({ what: 'feed', id: world.feedId }),
  powerFeeds: () => ({}),
  services: () => ({}),
  growth: () => ({ days: 30 }),
  plans: () => ({}),
  plan: () => ({ id: world.planId }),
  planRunbook: () => ({ id: world.planId }),
  plansCompared: () => ({ id: world.planId, other: world.planId }),
  rearranged: () => ({
    aim: 'even',
    groupId: null,
    emptiedIds: [],
    mostMoves: 3,
    keepTolerance: false,
    linkBitsPerSecond: 1e9,
    seconds: 2,
    search: 'even',
  }),
  patchRound: () => ({
    ...{ groupId: null, hostIds: [world.hostId], returns: true, workMinutes: 30 },
    platformId: null,
    ...{ linkBitsPerSecond: 1e9, seconds: 1, search: 'round' },
  }),
  placedBatch: () => ({
    ...{ groupId: null, aim: 'fewest', prices: [], makesRoom: false, keepTolerance: false },
    ...{ linkBitsPerSecond: 1e9, seconds: 1, search: 'batch' },
    lots: [
      {
        ...{ pattern: 'net-{n}', count: 2, family: 'Linux', profileId: null, labels: [] },
        guestGroupId: null,
        ...{ vcpu: 1, memoryMiB: 512, bytes: 0, thin: false, poolId: null, networkIds: [] },
        ...{ processorMode: 'unknown', apart: 'none' },
      },
    ],
  }),
  searching: () => ({ search: 'none' }),
  searchStopped: () => ({ search: 'none' }),
  clones: () => ({}),
  templates: () => ({}),
  entitlements: () => ({}),
  knownBy: () => ({ id: world.guestId }),
  proofRead: () => ({ guestId: world.guestId, text: 'insel-identity: 1\nname: tide' }),
  firstStarts: () => ({ ids: [world.guestId] }),
  migrations: () => ({}),
  migrationRoute: () => ({
    guestId: world.guestId,
    targetHostId: world.hostId,
    how: 'stopped',
    linkBitsPerSecond: 1e9,
  }),
  physicalRoute: () => ({
    type: 'migration.plan-from-physical',
    input: {
      ...{ deviceId: world.guestId, targetHostId: world.hostId, name: 'files', vcpu: 1 },
      ...{ memoryMiB: 512, disks: [], linkBitsPerSecond: 1e9 },
    },
  }),
  consolidation: () => ({ deviceIds: [], windowHours: 8, linkBitsPerSecond: 1e9 }),
  platformChange: () => ({
    ...{ fromPlatformId: world.platformId, toPlatformId: world.newerId },
    ...{ windowHours: 8, everyDays: 7, linkBitsPerSecond: 1e9 },
  }),
  calibration: () => ({}),
  timetable: () => ({ days: 7 }),
  foundTimes: () => ({ days: 14, anew: true, hours: '' }),
  calendar: () => ({}),
  runbook: () => ({ id: world.migrationId }),
  trouble: () => ({ id: world.migrationId, sign: 'no network' }),
  migration: () => ({ id: world.migrationId }),
  log: () => ({ take: 3 }),
  attachment: () => ({ sha256: world.sha256 }),
};
const NAMES = Object.keys(READ_PATHS) as ReadName[];
/** Answers that are files, not JSON. */
const FILES: ReadName[] = [
  'hostBuildPage',
  'guestBuildPage',
  'factsScript',
  'calendar',
  'runbook',
  'planRunbook',
];
const JSON_NAMES = NAMES.filter((name) => !FILES.includes(name) && name !== 'seedImage');

const ask = <T>(person: Person, name: ReadName, query: object) => {
  const { method, path, body } = requestOf(name, query);
  return person.call<T>(method, path, body);
};

it.each(JSON_NAMES)('%s is answered to a reader', async (name) => {
  const { status, body } = await ask<unknown>(reader, name, ASKED[name]() as object);
  expect([status, body]).toEqual([200, expect.anything()]);
});

const BEGINS: Partial<Record<ReadName, RegExp>> = {
  factsScript: /^#!/,
  calendar: /^BEGIN:VCALENDAR\r\n/,
};
it.each(FILES)('%s is a file for a reader', async (name) => {
  const text = await reader.page(requestOf(name, ASKED[name]() as object).path);
  expect(text).toMatch(BEGINS[name] ?? /^<!doctype html>/i);
});

it.each(NAMES)('%s is for nobody who has not signed in', async (name) => {
  const { status, body } = await ask<Problem>(
    new Person(server.base),
    name,
    ASKED[name]() as object,
  );
  expect([status, body.code]).toEqual([401, 'not-signed-in']);
});

describe('as of another time', () => {
  const asOf = async (name: ReadName, moment: string | number) => {
    const { method, path, body } = requestOf(name, ASKED[name]() as object);
    const at = `${path}${path.includes('?') ? '&' : '?'}asOf=${encodeURIComponent(moment)}`;
    return reader.call<unknown>(method, at, body);
  };
  /** A row that was altered since has the revision of the moment that is asked about; how long it took is of no matter. */
  const withoutRevisions = (value: unknown): string =>
    JSON.stringify(value, (key, part: unknown) =>
      ['revision', 'milliseconds'].includes(key) ? undefined : part,
    );
  /** The log is what it is, whenever it is asked; what is offered is drawn anew each time. */
  const UNALIKE: ReadName[] = ['log'];
  const PAST = JSON_NAMES.filter((name) => !UNALIKE.includes(name));
  const before = new Map<ReadName, string>();
  let moment: number;
  let at: string;

  beforeAll(async () => {
    const { body } = await reader.call<{ rows: { revision: number; at: string }[] }>('GET', 'log');
    ({ revision: moment, at } = body.rows[0]!);
    for (const name of PAST) before.set(name, withoutRevisions((await asOf(name, moment)).body));
    const undone: Written[] = [];
    const make = async (type: Parameters<Person['make']>[0], input: Record<string, unknown>) => {
      const { status, body: written } = await administrator.make<Written>(type, input);
      expect([type, status, written.title]).toEqual([type, 201, expect.anything()]);
      undone.push(written);
    };
    await make('guest.edit', { id: world.guestId, memoryMiB: 700, name: 'ebb' });
    await make('host.edit', { id: world.hostId, name: 'tern', installedMiB: 99_000 });
    await make('guest.plan', guestBody(world, 'later'));
    await make('network.edit', { id: world.networkId, name: 'other', vlanId: 77 });
    return async () => {
      for (const { revision } of undone.reverse()) await administrator.make('undo', { revision });
    };
  });

  it.each(PAST)('%s answers as it did then, by revision and by time', async (name) => {
    const answer = await asOf(name, moment);
    expect([answer.status, withoutRevisions(answer.body)]).toEqual([200, before.get(name)]);
    expect((await asOf(name, at)).status).toBe(200);
  });
  it('what came later is not there, and what is now differs', async () => {
    const names = (body: unknown) =>
      (body as { rows: { name: string }[] }).rows.map((row) => row.name);
    expect(names((await asOf('guests', moment)).body)).toEqual(['tide']);
    expect(names((await ask(reader, 'guests', ASKED.guests())).body)).toEqual(['ebb', 'later']);
  });
  it('findings that are new since then: those of now without those of then', async () => {
    const idsOf = ({ body }: { body: unknown }) =>
      (body as { findings: { id: string }[] }).findings.map(({ id }) => id);
    const then = new Set(idsOf(await asOf('findings', moment)));
    const now = idsOf(await ask(reader, 'findings', {}));
    const fresh = await ask(reader, 'findings', { newSince: String(moment) });
    expect(idsOf(fresh)).toEqual(now.filter((id) => !then.has(id)));
    expect(idsOf(fresh).length).toBeGreaterThan(0);
    expect((await ask(reader, 'findings', { newSince: '1999-01-01' })).status).toBe(422);
  });
  it.each([
    ['tomorrow', 'Say a revision, or a time as 2026-11-20T08:00Z.'],
    ['999999', /^The log has no entry 999999; its last one is \d+\.$/],
    ['1999-01-01', 'The record had not begun by then.'],
    ['2027-W01-1,x', 'Say a revision, or a time as 2026-11-20T08:00Z.'],
  ])('%s is no such time', async (moment_, sentence) => {
    const { status, body } = await asOf('hosts', moment_);
    expect([status, body]).toEqual([
      422,
      expect.objectContaining({
        code: 'not-as-of',
        field: 'asOf',
        sentence: typeof sentence === 'string' ? sentence : expect.stringMatching(sentence),
      }),
    ]);
  });
  it('is answered while the record alters', async () => {
    const answers = await Promise.all(
      Array.from({ length: 30 }, async (_, i) => {
        if (i % 3 === 0)
          await administrator.make('guest.edit', { id: world.guestId, purpose: `turn ${i}` });
        return asOf(i % 2 ? 'tolerance' : 'pools', moment);
      }),
    );
    expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 200));
  });
});

const OF_ONE = NAMES.filter((name) => /:id/.test(READ_PATHS[name]) && name !== 'profileUse');
it.each(OF_ONE)('%s of what is not recorded is 404', async (name) => {
  const { status, body } = await ask<Problem>(reader, name, {
    ...(ASKED[name]() as object),
    id: NOBODY,
  });
  expect([status, body.code]).toEqual([404, 'not-found']);
});

describe('what is asked', () => {
  it.each([
    ['hosts', { nonsense: '1' }, 'nonsense'],
    ['guests', { take: 100_000 }, 'take'],
    ['nextFree', { id: NOBODY, count: 'many' }, 'count'],
    ['matrix', { ids: 'all' }, 'ids'],
    ['reach', {}, 'from'],
  ] as const)('of %s is checked by its class', async (name, query, field) => {
    const { status, body } = await ask<Problem>(reader, name, query);
    expect([status, body.code, body.errors?.map((one) => one.field)]).toEqual([
      422,
      'bad-field',
      expect.arrayContaining([field]),
    ]);
  });
  it('of the worker is refused there with the same words', async () => {
    const { status, body } = await ask<Problem>(reader, 'failure', { kind: 'moon', id: NOBODY });
    expect([status, body.sentence]).toEqual([
      404,
      'This moon, as something that can fail, is not in the record.',
    ]);
  });
});

it('the runbook is one page that needs nothing else, with every step', async () => {
  const text = await reader.page(requestOf('runbook', ASKED.runbook() as object).path);
  expect(text).not.toMatch(/<script|<link|src=|url\(/);
  for (const words of ['Shut ', 'First start of ', 'When it does not come up', 'Method'])
    expect(text).toContain(words);
});

it('the calendar is read back by another library as what is planned', async () => {
  const window = {
    windowFrom: '2027-01-16T02:00:00.000Z',
    windowUntil: '2027-01-16T06:00:00.000Z',
  };
  const { status } = await administrator.make('migration.edit', {
    id: world.migrationId,
    ...window,
  });
  expect(status).toBe(201);
  const text = await reader.page(requestOf('calendar').path);
  const events = new ICAL.Component(ICAL.parse(text) as never[]).getAllSubcomponents('vevent');
  const [event] = events.map((found) => new ICAL.Event(found));
  expect(event!.summary).toMatch(/^Move \w+: \w+ → \w+$/);
  expect(event!.startDate.toJSDate().toISOString()).toBe(window.windowFrom);
  expect(event!.endDate.toJSDate().toISOString()).toBe(window.windowUntil);
  expect(event!.description).toContain('Decide by 2027-01-16 05:');
});

const missing = ['xorriso', 'bsdtar'].filter((one) => spawnSync(one, ['--version']).error);
describe.skipIf(missing.length > 0)('the seed image', () => {
  it('is listed by another program, with the label and the names of the convention', async () => {
    const { path } = requestOf('seedImage', ASKED.seedImage() as object);
    const image = await reader.bytes(path);
    // ECMA-119: the primary volume descriptor lies in sector 16, its volume identifier at byte 40.
    expect(image.toString('latin1', 32_769, 32_774)).toBe('CD001');
    expect(image.toString('latin1', 32_808, 32_840).trim()).toBe('cidata');
    const listed = spawnSync('bsdtar', ['-tf', '-'], { input: image, encoding: 'utf8' });
    expect(listed.stdout.trim().split('\n').sort()).toEqual([
      '.',
      'meta-data',
      'network-config',
      'user-data',
    ]);
    const [file] = [spawnSync('bsdtar', ['-xOf', '-', 'meta-data'], { input: image })];
    expect(parse(file!.stdout.toString())).toMatchObject({ 'local-hostname': 'tide' });
  });
});

it('first-start files are YAML that a library reads back as what the record says', async () => {
  const { body } = await ask<{ files: { name: string; text: string }[] }>(reader, 'firstStart', {
    id: world.guestId,
  });
  const [user, meta, network] = body.files.map(
    ({ text }) => parse(text) as Record<string, unknown>,
  );
  expect(body.files[0]!.text.split('\n')[0]).toBe('#cloud-config');
  expect([user!.hostname, meta!['local-hostname']]).toEqual(['tide', 'tide']);
  expect(network).toMatchObject({
    version: 2,
    ethernets: { net0: { addresses: [expect.stringMatching(/^192\.0\.2\.\d+\/24$/)] } },
  });
});

it('every read is described with what is asked', async () => {
  interface Operation {
    operationId: string;
    parameters: { name: string; in: string; schema: object }[];
  }
  const { body } = await reader.call<{ paths: Record<string, Record<string, Operation>> }>(
    'GET',
    'openapi.json',
  );
  const described = Object.values(body.paths).flatMap((path) => Object.values(path));
  const names = described.map(({ operationId }) => operationId);
  expect(names).toEqual(expect.arrayContaining(NAMES));
  const guests = body.paths['/api/guests']!.get!;
  expect(guests.parameters).toContainEqual({
    name: 'take',
    in: 'query',
    required: false,
    schema: { type: 'integer', minimum: 1, maximum: 200 },
  });
  expect(body.paths['/api/subnets/{id}/next-free']!.get!.parameters[0]).toMatchObject({
    name: 'id',
    in: 'path',
    required: true,
  });
});

describe('findings', () => {
  interface Found {
    findings: { severity: string; rule: string; about: { kind: string; name: string } }[];
    matching: number;
    counts: Record<string, number>;
    kinds: string[];
    rules: string[];
  }
  const found = async (query: object) => (await ask<Found>(reader, 'findings', query)).body;
  it('are narrowed by severity, kind, rule and words; what is counted stays that of the fleet', async () => {
    const all = await found({});
    expect(all.matching).toBe(all.findings.length);
    expect(all.kinds).toEqual([...new Set(all.findings.map(({ about }) => about.kind))].sort());
    for (const [query, fits] of [
      [{ severity: 'note' }, (one) => one.severity === 'note'],
      [{ kind: all.kinds[0] }, (one) => one.about.kind === all.kinds[0]],
      [{ rule: all.rules[0] }, (one) => one.rule === all.rules[0]],
    ] as [object, (one: Found['findings'][number]) => boolean][]) {
      const some = await found(query);
      expect(some.findings).toEqual(all.findings.filter(fits));
      expect(some.findings.length).toBeGreaterThan(0);
      expect([some.counts, some.rules]).toEqual([all.counts, all.rules]);
    }
    expect((await found({ q: 'no such words' })).findings).toEqual([]);
  });
  it('of a severity that is none are refused', async () =>
    expect((await ask<Problem>(reader, 'findings', { severity: 'dire' })).body).toMatchObject({
      code: 'bad-field',
      field: 'severity',
    }));
});
