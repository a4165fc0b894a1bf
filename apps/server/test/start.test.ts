/** `npm start` as a person runs it: twice in one folder, and a second one beside the first. */
import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';

const START = new URL('../../../scripts/start.mjs', import.meta.url).pathname;
const running: ChildProcess[] = [];
let folder: string;
let beside: string;

const newFolder = () => {
  const made = mkdtempSync('/var/tmp/insel-start-');
  chmodSync(made, 0o755);
  return made;
};
const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

interface Started {
  child: ChildProcess;
  text: () => string;
  ended: Promise<number | null>;
}
const start = (...words: string[]): Started => startWith('--empty', ...words);
function startWith(...words: string[]): Started {
  const child = spawn(process.execPath, [START, ...words]);
  running.push(child);
  let text = '';
  child.stdout.on('data', (chunk) => (text += String(chunk)));
  child.stderr.on('data', (chunk) => (text += String(chunk)));
  const ended = new Promise<number | null>((resolve) => child.once('exit', resolve));
  return { child, text: () => text, ended };
}
async function ready(started: Started, times = 1): Promise<void> {
  const until = Date.now() + 150_000;
  while (started.text().split('Ctrl-C stops it.').length <= times) {
    if (Date.now() > until || started.child.exitCode !== null) throw new Error(started.text());
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
const health = async (port: number) =>
  (await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => null))?.status;

beforeAll(() => {
  folder = newFolder();
  beside = newFolder();
});
afterAll(async () => {
  for (const child of running) child.kill('SIGTERM');
  await Promise.all(
    running.map((child) =>
      child.exitCode === null ? new Promise((resolve) => child.once('exit', resolve)) : null,
    ),
  );
  for (const made of [folder, beside]) rmSync(made, { recursive: true, force: true });
});

it('a second start says where the first one is, and leaves it alone', async () => {
  // Two at once: whichever comes second says so and ends.
  const both = [await freePort(), await freePort()].map((port) => ({
    port,
    ...start('--folder', folder, '--port', String(port)),
  }));
  const late = await Promise.race(both.map((one) => one.ended.then(() => one)));
  const first = both.find((one) => one !== late)!;
  const { port } = first;
  await ready(first);
  const second = start('--folder', folder);
  expect(await second.ended).toBe(0);
  expect(second.text()).toContain(`Insel is running already: http://127.0.0.1:${port}/`);
  expect(second.text()).toContain('--port 8421 --folder');
  expect(await health(port)).toBe(200);

  const taken = start('--folder', beside, '--port', String(port));
  expect(await taken.ended).toBe(1);
  expect(taken.text().trim()).toBe(
    `Port ${port} is taken by another program. Run: npm start -- --port 8421`,
  );

  const other = await freePort();
  const next = start('--folder', beside, '--port', String(other));
  await ready(next);
  expect([await health(port), await health(other)]).toEqual([200, 200]);

  first.child.kill('SIGINT');
  expect(await first.ended).toBe(0);
  expect(existsSync(join(folder, 'running.json'))).toBe(false);
  expect([await health(port), await health(other)]).toEqual([undefined, 200]);
}, 240_000);

it('the demo is left for a record of one’s own, which later starts open', async () => {
  const made = newFolder();
  const port = await freePort();
  const words = ['--folder', made, '--port', String(port)];
  const at = (path: string) => `http://127.0.0.1:${port}/api/${path}`;
  const post = (path: string, body: object, headers: Record<string, string> = {}) =>
    fetch(at(path), {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...headers },
      body: JSON.stringify(body),
    });
  const session = async () => (await (await fetch(at('session'))).json()) as object;
  const signedIn = async (name: string, password: string) =>
    (await post('session', { name, password })).headers.get('set-cookie')!.split(';')[0]!;
  try {
    const first = startWith(...words);
    await ready(first);
    const password = /Password +(\S+)/.exec(first.text())![1]!;
    expect(await session()).toMatchObject({ demo: true, needsSetUp: false });
    const planner = await signedIn('planner', password);
    expect((await post('leave-demo', {}, { Cookie: planner })).status).toBe(403);
    const answer = await post(
      'leave-demo',
      {},
      { Cookie: await signedIn('administrator', password) },
    );
    const { token } = (await answer.json()) as { token: string };
    await ready(first, 2);
    expect(first.text()).toContain('The demo is left: npm start -- --demo shows it again.');
    expect(await session()).toMatchObject({ demo: false, needsSetUp: true });
    const mine = { name: 'mine', password: 'a password of my own' };
    expect((await post('set-up', { token, ...mine })).status).toBe(200);
    const cookie = await signedIn(mine.name, mine.password);
    expect((await post('leave-demo', {}, { Cookie: cookie })).status).toBe(409);
    first.child.kill('SIGINT');
    expect(await first.ended).toBe(0);
    const second = startWith(...words);
    await ready(second);
    expect(second.text()).not.toContain('Sign in as');
    expect(await session()).toMatchObject({ demo: false, needsSetUp: false });
    second.child.kill('SIGINT');
    await second.ended;
    const demo = startWith(...words, '--demo');
    await ready(demo);
    expect(demo.text()).toContain(`Password         ${password}`);
    demo.child.kill('SIGINT');
    await demo.ended;
  } finally {
    rmSync(made, { recursive: true, force: true });
  }
}, 300_000);

it('what it does not know it says', async () => {
  const odd = start('--colour');
  expect([await odd.ended, odd.text().trim()]).toEqual([
    1,
    'npm start does not know --colour. It knows --empty, --demo, --port N, --folder PATH.',
  ]);
});
