/** The web application as it is served: files for good, the page with who is signed in. */
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Installation, PASSWORD, Person, type Server } from './support/server.js';

let here: Installation;
let server: Server;
beforeAll(async () => {
  here = new Installation();
  const folder = mkdtempSync(join(tmpdir(), 'insel-web-'));
  mkdirSync(join(folder, 'assets'));
  writeFileSync(join(folder, 'index.html'), '<body><div id="root"></div></body>');
  writeFileSync(join(folder, 'assets/index-abc123.js'), `/* ${'long '.repeat(1000)} */`);
  server = await here.startServer({ INSEL_WEB: folder });
});
afterAll(() => here.end());

const get = (path: string, headers: Record<string, string> = {}) =>
  fetch(`${server.base}${path}`, { headers });
const session = async (cookie = ''): Promise<unknown> => {
  const page = await (await get('/hosts/x', cookie ? { Cookie: cookie } : {})).text();
  return JSON.parse(
    /<script type="application\/json" id="session">(.*?)<\/script>/.exec(page)![1]!,
  );
};

it('files with a hash in their name are kept for good, and packed', async () => {
  const answer = await get('/assets/index-abc123.js');
  expect(answer.headers.get('cache-control')).toBe('public, max-age=31536000, immutable');
  expect(answer.headers.get('content-encoding')).toMatch(/^(gzip|br)$/);
  expect(await answer.text()).toContain('long long');
});

it('the page is never kept, and says whether anybody can sign in', async () => {
  const answer = await get('/');
  expect(answer.headers.get('cache-control')).toBe('no-store');
  expect(await session()).toEqual({ account: null, needsSetUp: true, demo: false });
});

it('the page says who is signed in, to nobody else', async () => {
  const keeper = new Person(server.base);
  await keeper.call('POST', 'set-up', {
    token: server.setUpToken,
    name: 'keeper </script>',
    password: PASSWORD,
  });
  const answer = await keeper.call('POST', 'session', {
    name: 'keeper </script>',
    password: PASSWORD,
  });
  const cookie = answer.headers.get('set-cookie')!.split(';')[0]!;
  expect(await session(cookie)).toMatchObject({
    account: { name: 'keeper </script>', role: 'administrator' },
    needsSetUp: false,
  });
  expect(await session()).toEqual({ account: null, needsSetUp: false, demo: false });
});

it('an answer of the API is not packed: that costs more than it saves', async () =>
  expect((await get('/api/openapi.json')).headers.get('content-encoding')).toBeNull());
