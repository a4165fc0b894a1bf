/**
 * `npm test`: format, types, lint, import rules, core, server, web, end to end, each within its own time, and a search of
 * all that was printed for secrets; closes with one plain line over all of them. A crash, a time-out, no tests or a missing report counts as failed.
 */
import { spawn, spawnSync } from 'node:child_process';
import {
  appendFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as postgres from './postgres.mjs';
import { installPackages, ROOT } from './start.mjs';

const reports = mkdtempSync(join(tmpdir(), 'insel-report-'));
/** What stages and servers print is kept here as well, to be searched for secrets. */
const output = join(reports, 'output');
mkdirSync(output);
let [passed, failed, skipped] = [0, 0, 0];

function run(command, args, minutes, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      detached: true,
      env: { ...process.env, INSEL_TEST_OUTPUT: output, ...env },
    });
    for (const stream of ['stdout', 'stderr']) {
      child[stream].on('data', (chunk) => {
        process[stream].write(chunk);
        appendFileSync(join(output, 'stages.log'), chunk);
      });
    }
    const timer = setTimeout(() => {
      console.error(`Stopped after ${minutes} minutes.`);
      process.kill(-child.pid, 'SIGKILL');
    }, minutes * 60_000);
    child.on('close', (code) => {
      clearTimeout(timer);
      resolve(code === 0);
    });
  });
}

async function stage(name, work) {
  console.log(`\n— ${name}`);
  const began = Date.now();
  const result = await work();
  passed += result.passed;
  failed += result.failed;
  skipped += result.skipped ?? 0;
  console.log(
    `  ${name}: ${result.passed} passed, ${result.failed} failed, ${((Date.now() - began) / 1000).toFixed(1)} s`,
  );
}

/** A stage that either holds or does not. */
const check = (name, command, args, minutes) =>
  stage(name, async () =>
    (await run(command, args, minutes)) ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 },
  );

const vitest = (name, project, minutes) =>
  stage(name, async () => {
    const file = join(reports, `${project}.json`);
    const fine = await run(
      'npx',
      [
        'vitest',
        'run',
        '--project',
        project,
        '--reporter=default',
        '--reporter=json',
        `--outputFile.json=${file}`,
      ],
      minutes,
    );
    if (!existsSync(file)) return { passed: 0, failed: 1 };
    const report = JSON.parse(readFileSync(file, 'utf8'));
    const result = {
      passed: report.numPassedTests,
      failed: report.numFailedTests,
      skipped: report.numPendingTests,
    };
    const broken = result.failed === 0 && (!fine || result.passed === 0);
    return broken ? { ...result, failed: 1 } : result;
  });

const endToEnd = (minutes) =>
  stage('end to end', async () => {
    const file = join(reports, 'e2e.json');
    const fine = await run('npx', ['playwright', 'test'], minutes, { INSEL_E2E_REPORT: file });
    if (!existsSync(file)) return { passed: 0, failed: 1 };
    const {
      expected,
      unexpected,
      flaky,
      skipped: left,
    } = JSON.parse(readFileSync(file, 'utf8')).stats;
    const result = { passed: expected + flaky, failed: unexpected, skipped: left };
    return result.failed === 0 && (!fine || result.passed === 0)
      ? { ...result, failed: 1 }
      : result;
  });

/** Passwords of the tests, and forms that only secrets have. None of them may be printed by anything that was run. */
const SECRETS = [
  /a long enough password/,
  /a password for the tests/,
  /\$argon2/,
  /insel_session=[\w-]{10,}/,
  /Bearer [\w-]{20,}/,
  /postgres(?:ql)?:\/\/\w+:[^@\s[]+@/,
];

const secretsInOutput = () =>
  stage('no secrets in the output', async () => {
    const files = readdirSync(output);
    const found = files.flatMap((file) =>
      readFileSync(join(output, file), 'utf8')
        .split('\n')
        .filter((line) => SECRETS.some((secret) => secret.test(line)))
        .map((line) => `${file}: ${line.slice(0, 120)}`),
    );
    for (const line of found.slice(0, 20)) console.error(line);
    const servers = files.some((file) => file.startsWith('servers-'));
    return found.length === 0 && servers ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 };
  });

/** Programs of Debian that the outside checks ask, by package. */
const CHECKERS = {
  ip: 'iproute2',
  nft: 'nftables',
  ping: 'iputils-ping',
  'named-checkzone': 'bind9-utils',
  dnsmasq: 'dnsmasq-base',
  'kea-dhcp4': 'kea-dhcp4-server',
  xorriso: 'xorriso',
  bsdtar: 'libarchive-tools',
};

/** As root they are installed, without any service of theirs being started; otherwise what is missing is skipped and counted as skipped. */
function ensureCheckers() {
  const missing = Object.entries(CHECKERS).filter(
    ([program]) =>
      !['/usr/sbin', '/usr/bin', '/sbin', '/bin'].some((folder) =>
        existsSync(join(folder, program)),
      ),
  );
  if (missing.length === 0) return;
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    console.log(
      `Outside checks by ${missing.map(([program]) => program).join(', ')} are skipped: installing them takes root on Debian.`,
    );
    return;
  }
  console.log('Installing the programs of the outside checks from Debian …');
  const guard = '/usr/sbin/policy-rc.d';
  const mine = !existsSync(guard);
  if (mine) writeFileSync(guard, '#!/bin/sh\nexit 101\n', { mode: 0o755 });
  try {
    postgres.installPackages(
      [],
      missing.map(([, name]) => name),
    );
  } finally {
    if (mine) rmSync(guard, { force: true });
  }
}

function ensureChromium() {
  if (existsSync('/usr/bin/chromium')) return;
  console.log('Installing Chromium from Debian …');
  const root = process.getuid?.() === 0;
  if (!root && spawnSync('sudo', ['-n', 'true']).status !== 0)
    throw new Error('Chromium is not installed. Run: sudo apt-get install chromium');
  postgres.installPackages(root ? [] : ['sudo'], ['chromium']);
}

try {
  postgres.ensurePrograms();
  ensureChromium();
  ensureCheckers();
  installPackages();
  await check('format', 'npx', ['prettier', '--check', '--log-level=warn', '.'], 2);
  await check('types', 'npx', ['tsc', '-b'], 5);
  await check('types of the tests', 'npx', ['tsc', '-p', 'tsconfig.tests.json'], 5);
  await check('lint', 'npx', ['eslint', '.'], 5);
  await check('packages and licences', 'node', ['scripts/dependencies.mjs', '--check'], 1);
  await check('import rules', 'npm', ['run', '--silent', 'imports'], 5);
  await check('web build', 'npm', ['run', '--silent', 'build', '-w', '@insel/web'], 5);
  await check('script before the first screen', 'node', ['scripts/first-load.mjs'], 1);
  await vitest('core', 'core', 10);
  await vitest('outside', 'outside', 10);
  await vitest('server', 'server', 22);
  await endToEnd(25);
  await secretsInOutput();
} catch (error) {
  console.error(error.message);
  failed += 1;
}
console.log(`\n${passed} passed, ${failed} failed${skipped ? `, ${skipped} skipped` : ''}`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
