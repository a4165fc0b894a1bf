/**
 * `npm run bench`: a generated fleet of 1,000 hosts and 50,000 guests on a private cluster (fsync on), one server, and
 * the times a person meets. Prints each figure with its limit; ends with 1 if one is missed.
 */
import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import * as postgres from './postgres.mjs';
import { build, installPackages, ROOT } from './packages.mjs';

installPackages();
build();
// Only now are its packages there.
const { guestId, hostId, networkId, poolId, writeFleet } = await import('../bench/fleet.mjs');
const SIZE = {
  hosts: Number(process.env.INSEL_BENCH_HOSTS ?? 1000),
  guests: Number(process.env.INSEL_BENCH_GUESTS ?? 50_000),
};
const bin = postgres.ensurePrograms();
const home = mkdtempSync('/var/tmp/insel-bench-');
chmodSync(home, 0o755);
postgres.initCluster(bin, join(home, 'pg'), 'bench');
const cluster = await postgres.startCluster(bin, join(home, 'pg'));
let server;
const figures = [];
const note = (name, value, unit, limit) => {
  figures.push({ name, value, limit });
  console.log(
    `${name.padEnd(46)} ${String(Math.round(value * 10) / 10).padStart(9)} ${unit.padEnd(4)} limit ${limit}  ${value <= limit ? 'held' : 'MISSED'}`,
  );
};
const whole = (value) => value.toLocaleString('en-GB');
const p95 = (values) => [...values].sort((a, b) => a - b)[Math.ceil(values.length * 0.95) - 1];

try {
  postgres.createRoles(bin, cluster.port, 'bench', 'owner', 'app');
  postgres.createDatabase(bin, cluster.port, 'bench', 'bench');
  const owner = postgres.url('insel_owner', 'owner', cluster.port, 'bench');
  const migrated = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/cli/migrate.js')], {
    env: { ...process.env, INSEL_OWNER_URL: owner },
  });
  if (migrated.status !== 0) throw new Error(String(migrated.stderr));
  await writeFleet(owner, SIZE);
  // As a database that has been in use for a while: vacuumed, nothing left to write out.
  for (const text of ['vacuum analyze', 'checkpoint'])
    postgres.sql(bin, cluster.port, 'bench', 'bench', text);
  const spawned = performance.now();
  server = spawn(process.execPath, [join(ROOT, 'apps/server/dist/main.js')], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      INSEL_PORT: '0',
      INSEL_DATABASE_URL: postgres.url('insel_app', 'app', cluster.port, 'bench'),
    },
  });
  let text = '';
  let saidLoading = false;
  await new Promise((resolve, reject) => {
    server.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    server.stdout.on('data', async (chunk) => {
      text += chunk;
      const port = /INSEL_LISTENING (\d+)/.exec(text)?.[1];
      if (port && !text.includes('INSEL_READY'))
        saidLoading ||=
          (await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()).state === 'loading';
      if (text.includes('INSEL_READY')) resolve();
    });
  });
  const readyAfter = performance.now() - spawned;
  const base = `http://127.0.0.1:${/INSEL_LISTENING (\d+)/.exec(text)[1]}/api/`;
  const token = /INSEL_SET_UP_TOKEN (\S+)/.exec(text)[1];
  let cookie = '';
  const call = async (method, path, body, more = {}) => {
    const response = await fetch(base + path, {
      method,
      headers: { 'Content-Type': 'application/json', Cookie: cookie, ...more },
      body: body && JSON.stringify(body),
    });
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
    cookie = response.headers.get('set-cookie')?.split(';')[0] ?? cookie;
    const answer = await response.text();
    return answer ? JSON.parse(answer) : undefined;
  };
  const timed = async (work) => {
    const began = performance.now();
    await work();
    return performance.now() - began;
  };
  await call('POST', 'set-up', { token, name: 'bench', password: 'a password for measuring' });
  await call('POST', 'session', { name: 'bench', password: 'a password for measuring' });
  console.log(
    `\n${SIZE.hosts} hosts, ${SIZE.guests} guests; health said "loading" meanwhile: ${saidLoading ? 'yes' : 'NO'}`,
  );
  const first = `reach?from=${guestId(0)}&to=${guestId(517)}`;
  await call('GET', first);
  const answeredAfter = performance.now() - spawned;
  note('load', (await call('GET', 'health')).loadedInMs / 1000, 's', 8);
  note('ready after', readyAfter / 1000, 's', 9);
  note('first answer of the worker after', answeredAfter / 1000, 's', 12);
  const [writes, levels, pages, byName, previews, findings] = [[], [], [], [], [], []];
  for (let i = 0; i < 40; i += 1) {
    const plan = {
      name: `new-${i}`,
      hostId: hostId(i * 7),
      family: 'Linux',
      vcpu: 1,
      memoryMiB: 1024,
      volumes: [{ poolId: poolId(i * 7), bytes: 1e10 }],
      adapters: [{ networkId: networkId((i * 7) % (SIZE.hosts / 10)), address: { as: 'next' } }],
    };
    previews.push(await timed(() => call('POST', 'changes/guest.plan/preview', { input: plan })));
    writes.push(await timed(() => call('POST', 'changes/guest.plan', { input: plan })));
    levels.push(await timed(() => call('GET', 'waterline')));
    pages.push(
      await timed(() => call('GET', `guests?sort=headroom&order=up&from=${i * 100}&take=100`)),
    );
    pages.push(await timed(() => call('GET', `hosts?sort=memoryLeft&from=${i * 20}&take=100`)));
    byName.push(await timed(() => call('GET', `guests?sort=name&from=${i * 100}&take=100`)));
    if (i % 10 === 0) findings.push(await timed(() => call('GET', 'findings')));
  }
  const charts = [];
  for (let i = 0; i < 5; i += 1) charts.push(await timed(() => call('GET', 'chart')));
  const tolerance = await timed(() => call('GET', 'tolerance'));
  const again = await timed(() => call('GET', 'tolerance'));
  const failure = await timed(() => call('GET', `failures/host/${hostId(3)}`));
  const bytesOf = async (path) => JSON.stringify(await call('GET', path)).length;
  const [inAll, counts] = [await bytesOf('tolerance'), await bytesOf('tolerance/counts')];
  // Four million pairs.
  const ids = Array.from({ length: 2000 }, (_, i) => guestId(i));
  const matrices = [];
  let matrix;
  for (let i = 0; i < 3; i += 1)
    matrices.push(await timed(async () => (matrix = await call('POST', 'reach/matrix', { ids }))));
  const reach = [];
  for (let i = 0; i < 5; i += 1)
    reach.push(await timed(() => call('GET', `reach?from=${guestId(i)}&to=${guestId(i + 517)}`)));
  const table = await timed(() => call('GET', 'patch-table?take=100'));
  const recorded = await call('POST', 'changes/profile.record', {
    input: { name: 'bench server', family: 'Linux' },
  });
  const role = recorded.created[0].id;
  const sizes = [];
  for (let i = 0; i < 5; i += 1)
    sizes.push(
      await timed(() =>
        call('POST', 'guests/size', { profileId: role, networkIds: [networkId(i)] }),
      ),
    );
  const lines = Array.from(
    { length: 200_000 },
    (_, i) =>
      `${1_700_000_000 + Math.floor(i / 1000) * 300},guest-${i % 1000},${i % 100},${1000 + (i % 700)},${1e10 + i}`,
  );
  const imported = await timed(async () => {
    const response = await fetch(`${base}samples/imports/${crypto.randomUUID()}`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv', Cookie: cookie },
      body: `time,guest,cpu %,memory MiB,disk bytes\n${lines.join('\n')}`,
    });
    const { added } = await response.json();
    if (added !== lines.length) throw new Error(`${added} samples were taken in`);
  });
  // Twenty open plans of 200 steps each; one is opened, and the record looked at with it.
  const plans = [];
  for (let i = 0; i < 20; i += 1) {
    const drawn = await call('POST', 'changes/plan.draw-batch', {
      input: {
        ...{ name: `plan ${i}`, linkBitsPerSecond: 1e9, moves: [] },
        lots: [
          {
            ...{ family: 'Linux', vcpu: 1, memoryMiB: 256, bytes: 1e9, thin: false },
            ...{ networkIds: [], apart: 'none' },
          },
        ],
        guests: Array.from({ length: 200 }, (_, j) => ({
          ...{ lot: 0, name: `pl-${i}-${j}`, hostId: hostId((i * 37 + j) % SIZE.hosts) },
          poolId: poolId((i * 37 + j) % SIZE.hosts),
        })),
      },
    });
    plans.push(drawn.created.find(({ kind }) => kind === 'plan').id);
  }
  const opened = [];
  for (const id of plans.slice(0, 4)) opened.push(await timed(() => call('GET', `plans/${id}`)));
  const views = [];
  for (let i = 0; i < 20; i += 1) {
    const plan = `plan=${plans[i % 4]}`;
    views.push(await timed(() => call('GET', `guests?sort=name&from=${i * 100}&take=100&${plan}`)));
    views.push(await timed(() => call('GET', `hosts?sort=memoryLeft&take=100&${plan}`)));
    views.push(await timed(() => call('GET', `waterline?${plan}`)));
    views.push(await timed(() => call('GET', `hosts/${hostId(i)}?${plan}`)));
  }
  const { memoryMiB } = await call('GET', 'health');
  // Twenty windows with five answers on the screen each: what a change alters there, and what it costs to tell.
  const told = { altered: 0, lists: [], writes: [] };
  const ended = new AbortController();
  const asked = (i) => [
    'waterline',
    `guests?sort=name&from=${i * 100}&take=100`,
    `hosts/${hostId(i)}`,
    `guests/${guestId(i)}`,
    `networks/${networkId(i)}`,
  ];
  const windows = await Promise.all(
    Array.from({ length: 20 }, async (_, i) => {
      const id = crypto.randomUUID();
      const { body } = await fetch(`${base}events?window=${id}`, {
        headers: { Cookie: cookie },
        signal: ended.signal,
      });
      let count = 0;
      const ask = async () => {
        for (const path of asked(i)) {
          const ms = await timed(() =>
            call('GET', path, undefined, { 'X-Insel-Window': `${id} ${(count += 1)}` }),
          );
          if (path.startsWith('guests?')) told.lists.push(ms);
        }
      };
      (async () => {
        for await (const chunk of body.pipeThrough(new TextDecoderStream()))
          for (const [, marks] of chunk.matchAll(/"altered":\[([^\]]*)\]/g))
            told.altered += marks ? marks.split(',').length : 0;
      })().catch(() => undefined);
      return ask;
    }),
  );
  for (let i = 0; i < 10; i += 1) {
    for (const ask of windows) await ask();
    const input = { name: `told-${i}`, hostId: hostId(i), family: 'Linux', vcpu: 1 };
    told.writes.push(
      await timed(() =>
        call('POST', 'changes/guest.plan', {
          input: { ...input, memoryMiB: 256, volumes: [], adapters: [] },
        }),
      ),
    );
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  ended.abort();
  if (process.env.INSEL_BENCH_ALL)
    for (const [name, all] of Object.entries({ pages, byName, previews, writes, levels }))
      console.log(name, all.map((ms) => Math.round(ms)).join(' '));
  note('a list page sorted by headroom, p95', p95(pages), 'ms', 100);
  note('a list page of guests by name, p95', p95(byName), 'ms', 100);
  note('preview of one plan, p95', p95(previews), 'ms', 60);
  note('one committed change, p95', p95(writes), 'ms', 50);
  note('waterline after a change, p95', p95(levels), 'ms', 20);
  note('memory of the server process', memoryMiB, 'MiB', 2048);
  note(
    'matrix of 2,000 machines, the worker busy, again',
    Math.min(...matrices.slice(1)),
    'ms',
    1000,
  );
  console.log(
    `matrix: first ${Math.round(matrices[0])} ms with drawing the wiring of the whole fleet, then ${matrices
      .slice(1)
      .map((ms) => Math.round(ms))
      .join(
        ', ',
      )} ms; ${matrix.simulated} echoes, ${matrix.cells.flat().filter((cell) => cell.verdict === 'yes').length} of ${matrix.cells.length ** 2} classes yes`,
  );
  console.log(
    `one question of reach: ${reach.map((ms) => Math.round(ms)).join(', ')} ms; patch table of 100 hosts, first ${Math.round(table)} ms`,
  );
  console.log(
    `sizing a guest with every host tried, in the worker: ${sizes.map((ms) => Math.round(ms)).join(', ')} ms; ${lines.length.toLocaleString('en-GB')} samples taken in: ${Math.round(imported)} ms`,
  );
  console.log(`a window of the chart: ${charts.map((ms) => Math.round(ms)).join(', ')} ms`);
  console.log(
    `what may fail, every host, in the worker: ${Math.round(tolerance)} ms, again ${Math.round(again)} ms; one failure ${Math.round(failure)} ms; ${whole(inAll)} bytes, for the waterline ${whole(counts)}`,
  );
  console.log(
    `a plan of 200 steps opened: ${opened.map((ms) => Math.round(ms)).join(', ')} ms; views in it: median ${Math.round(
      p95(
        views
          .slice()
          .sort((a, b) => a - b)
          .slice(0, views.length / 2),
      ),
    )} ms, p95 ${Math.round(p95(views))} ms`,
  );
  console.log(
    `twenty windows with five answers each: a guest planned alters ${told.altered / 10} of 100; the change p95 ${Math.round(p95(told.writes))} ms, a list that is watched p95 ${Math.round(p95(told.lists))} ms`,
  );
  console.log(
    `findings of the whole fleet after a change, worker: ${findings.map((ms) => Math.round(ms)).join(', ')} ms`,
  );
  const { values, changes, noted } = await call('GET', 'server');
  const sum = (pick) => values.reduce((all, value) => all + pick(value), 0);
  const woken = sum(({ wokenBy }) => wokenBy.reduce((all, { times }) => all + times, 0));
  const planned = changes.find(({ type }) => type === 'guest.plan');
  console.log(
    `kept: ${whole(sum(({ kept }) => kept))} values computed from ${whole(noted)} rows and look-ups, asked for ${whole(sum(({ uses }) => uses))} times, made ${whole(sum(({ made }) => made))}, woken ${whole(woken)}; a guest planned waits ${planned.waited.median.toFixed(1)} ms for its turn (p95 ${planned.waited.p95.toFixed(1)}) and is decided in ${planned.decided.median.toFixed(1)} ms (p95 ${planned.decided.p95.toFixed(1)})`,
  );
} finally {
  server?.removeAllListeners('exit');
  server?.kill('SIGTERM');
  await new Promise((resolve) => (server ? server.once('exit', resolve) : resolve()));
  cluster.stop();
  rmSync(home, { recursive: true, force: true });
}
process.exit(figures.every(({ value, limit }) => value <= limit) ? 0 : 1);
