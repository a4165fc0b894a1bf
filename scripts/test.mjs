/**
 * `npm test`: format, types, lint, import rules, core, server, web, end to end, each within its own time, and a search of
 * all that was printed for secrets; closes with what failed, once more, and one plain line over all of them. A crash, a
 * time-out, no tests or a missing report counts as failed.
 */
import { spawn } from 'node:child_process';
import {
  appendFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { ensureCheckers, ensureChromium } from './debian.mjs';
import { installPackages, ROOT } from './packages.mjs';
import * as postgres from './postgres.mjs';

const reports = mkdtempSync(join(tmpdir(), 'insel-report-'));
/** What stages and servers print is kept here as well, to be searched for secrets. */
const output = join(reports, 'output');
mkdirSync(output);
let [passed, failed, skipped] = [0, 0, 0];
/** What failed, and what held only when tried again, said once more at the end, where a reader of the last lines finds it. */
const failures = [];

/** At most so many lines of a failure are said again. */
const LINES_OF_A_FAILURE = 14;
/** And of a page, before and after the place where a journey was at work. */
const LINES_OF_A_PAGE = 12;

const failure = (where, name, text = '', lines = (all) => all.slice(0, LINES_OF_A_FAILURE)) =>
  failures.push([
    `✗ ${where}: ${name}`,
    ...lines(stripVTControlCharacters(text).trimEnd().split('\n')).map((line) => `    ${line}`),
  ]);

/** Runs a command within its minutes; keeps what it printed, to be searched for secrets and to be said again if it fails. */
function run(command, args, minutes, env = {}) {
  const printed = [];
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
        printed.push(chunk);
      });
    }
    const timer = setTimeout(() => {
      console.error(`Stopped after ${minutes} minutes.`);
      printed.push(Buffer.from(`\nStopped after ${minutes} minutes.`));
      process.kill(-child.pid, 'SIGKILL');
    }, minutes * 60_000);
    child.on('close', (code) => {
      clearTimeout(timer);
      resolve({ fine: code === 0, printed: Buffer.concat(printed).toString('utf8') });
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

const COMPILE = ['run', '--silent', 'compile', '--'];

/** A stage that either holds or does not. */
const check = (name, command, args, minutes) =>
  stage(name, async () => {
    const { fine, printed } = await run(command, args, minutes);
    if (fine) return { passed: 1, failed: 0 };
    failure('check', name, printed, (all) => all.slice(-LINES_OF_A_FAILURE));
    return { passed: 0, failed: 1 };
  });

/** A runner that left no report, or ended badly though no test of it failed: its last lines say why. */
function brokenRunner(name, printed) {
  failure(name, 'the runner', printed, (all) => all.slice(-LINES_OF_A_FAILURE));
}

const vitest = (name, project, minutes, ...more) =>
  stage(name, async () => {
    const file = join(reports, `${project}.json`);
    const { fine, printed } = await run(
      'npx',
      [
        'vitest',
        'run',
        '--project',
        project,
        '--reporter=default',
        '--reporter=json',
        `--outputFile.json=${file}`,
        ...more,
      ],
      minutes,
    );
    if (!existsSync(file)) {
      brokenRunner(name, printed);
      return { passed: 0, failed: 1 };
    }
    const report = JSON.parse(readFileSync(file, 'utf8'));
    for (const { name: path, message, assertionResults } of report.testResults) {
      const where = relative(ROOT, path);
      if (message) failure(where, 'the file', message);
      for (const { status, fullName, failureMessages } of assertionResults) {
        if (status === 'failed') failure(where, fullName, failureMessages.join('\n'));
      }
    }
    const result = {
      passed: report.numPassedTests,
      failed: report.numFailedTests,
      skipped: report.numPendingTests,
    };
    const broken = result.failed === 0 && (!fine || result.passed === 0);
    if (broken) brokenRunner(name, printed);
    return broken ? { ...result, failed: 1 } : result;
  });

const endToEnd = (minutes) =>
  stage('end to end', async () => {
    const file = join(reports, 'e2e.json');
    const { fine, printed } = await run('npx', ['playwright', 'test'], minutes, {
      INSEL_E2E_REPORT: file,
    });
    if (!existsSync(file)) {
      brokenRunner('end to end', printed);
      return { passed: 0, failed: 1 };
    }
    const { suites, stats } = JSON.parse(readFileSync(file, 'utf8'));
    for (const { path, title, outcome, text } of journeys(suites)) {
      const again = outcome === 'flaky' ? ' (held when tried again)' : '';
      if (outcome === 'unexpected' || again) failure(path, `${title}${again}`, text, (all) => all);
    }
    const result = {
      passed: stats.expected + stats.flaky,
      failed: stats.unexpected,
      skipped: stats.skipped,
    };
    const broken = result.failed === 0 && (!fine || result.passed === 0);
    if (broken) brokenRunner('end to end', printed);
    return broken ? { ...result, failed: 1 } : result;
  });

/** The journeys of a report of Playwright, with what the first failure of each said. */
const journeys = (suites) =>
  suites.flatMap(({ specs = [], suites: inner = [] }) => [
    ...specs.flatMap(({ file, title, tests }) =>
      tests.map(({ status, results }) => ({
        path: `e2e/${file}`,
        title,
        outcome: status,
        text: textOf(results.find(({ error }) => error)),
      })),
    ),
    ...journeys(inner),
  ]);

/** What a journey failed of, and what the page showed around the place where it was at work. */
function textOf(result) {
  if (!result) return undefined;
  const errors = result.errors?.length ? result.errors : [result.error];
  const all = errors.flatMap(({ message = '' }) => message.split('\n'));
  const said = all.slice(0, LINES_OF_A_FAILURE);
  const page = result.attachments.find(({ name, path }) => name === 'error-context' && path);
  if (!page || !existsSync(page.path)) return said.join('\n');
  const shown = readFileSync(page.path, 'utf8').split('\n');
  const at = shown.findIndex((line) => line.includes('[active]'));
  const around = shown.slice(Math.max(0, at - LINES_OF_A_PAGE), at + LINES_OF_A_PAGE);
  const tells = (line) => /^\s*- (alert|status)/.test(line);
  const told = shown.filter((line, i) => tells(line) || tells(shown[i - 1]));
  return [...said, ...(at < 0 ? [] : around), ...told].join('\n');
}

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

try {
  postgres.ensurePrograms();
  ensureChromium();
  ensureCheckers();
  installPackages();
  // Each of these has one core to itself; lint reads types from the sources.
  await Promise.all([
    check('lint', 'npx', ['eslint', '.'], 8),
    (async () => {
      await check('types', 'npm', [...COMPILE, '-b'], 5);
      await check('format', 'npx', ['prettier', '--check', '--log-level=warn', '.'], 5);
      await check('types of the tests', 'npm', [...COMPILE, '-p', 'tsconfig.tests.json'], 5);
      await check('packages and licences', 'node', ['scripts/dependencies.mjs', '--check'], 1);
      await check('unused exports', 'npm', ['run', '--silent', 'exports'], 3);
      await check('import rules', 'npm', ['run', '--silent', 'imports'], 5);
      await check('web build', 'npm', ['run', '--silent', 'build', '-w', '@insel/web'], 5);
      await check('script before the first screen', 'node', ['scripts/first-load.mjs'], 1);
    })(),
  ]);
  // Those that ask the kernel and other programs wait for them half of the time.
  await Promise.all([vitest('core', 'core', 10), vitest('outside', 'outside', 10)]);
  // They wait for servers much of the time.
  await vitest('server', 'server', 22, '--maxWorkers=3');
  await endToEnd(25);
  await secretsInOutput();
} catch (error) {
  console.error(error.message);
  failed += 1;
}
for (const lines of failures) console.log(`\n${lines.join('\n')}`);
console.log(`\n${passed} passed, ${failed} failed${skipped ? `, ${skipped} skipped` : ''}`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
