/**
 * Would the tests notice? Draws conditions of the core by a seed, turns each round (a comparison, a logical word, a
 * boundary), runs the core's tests, and says which changes nobody noticed.
 * Run: npm run mutants -- [seed] [how many]. Works in a copy; the tree is left alone.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import {
  cpSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';
import { ROOT } from './packages.mjs';

const seed = Number(process.argv[2] ?? 1);
const wanted = Number(process.argv[3] ?? 20);
const enough = Math.ceil(wanted * 0.8);

/** What each operator becomes: its opposite, or its neighbour at the boundary. */
const TURNED = {
  '===': '!==',
  '!==': '===',
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '&&': '||',
  '||': '&&',
  '??': '&&',
};

const core = join(ROOT, 'packages/core/src');
const sources = readdirSync(core, { recursive: true, withFileTypes: true })
  .filter(
    (entry) =>
      entry.isFile() && /\.ts$/.test(entry.name) && !/\.test\.ts$|^testing\.ts$/.test(entry.name),
  )
  .map((entry) => join(entry.parentPath, entry.name))
  .sort();

const all = sources.flatMap((file) => {
  const text = readFileSync(file, 'utf8');
  const found = [];
  const visit = (node) => {
    if (ts.isBinaryExpression(node)) {
      const operator = node.operatorToken.getText();
      const from = node.operatorToken.getStart();
      if (TURNED[operator])
        found.push({ file, from, operator, line: text.slice(0, from).split('\n').length });
    }
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true));
  return found;
});

/** Mulberry32: small, and the same everywhere. */
let state = seed >>> 0;
const random = () => {
  state = (state + 0x6d2b79f5) >>> 0;
  let t = Math.imul(state ^ (state >>> 15), state | 1);
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
  return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
};

const folder = mkdtempSync(join(tmpdir(), 'insel-mutants-'));
for (const name of [
  'packages',
  'apps',
  'e2e',
  'package.json',
  'vitest.config.ts',
  'tsconfig.base.json',
])
  cpSync(join(ROOT, name), join(folder, name), {
    recursive: true,
    filter: (path) => !/node_modules|dist-types|\/apps\/web\/dist/.test(relative(ROOT, path)),
  });
symlinkSync(join(ROOT, 'node_modules'), join(folder, 'node_modules'));

/** How long the tests may take: known once they ran without any change. A busy machine must not look like a notice. */
let most = 1_800_000;
const run = async (tests) => {
  const child = spawn(
    'npx',
    ['vitest', 'run', '--project', 'core', '--bail', '1', '--passWithNoTests', tests],
    { cwd: folder, stdio: 'ignore', detached: true },
  );
  // A loop that never ends would go on in a worker of its own when only its parent is killed.
  const ends = () => process.kill(-child.pid, 'SIGKILL');
  const clock = setTimeout(ends, most);
  process.once('exit', ends);
  const [status] = await once(child, 'exit');
  process.off('exit', ends);
  clearTimeout(clock);
  return status === 0 ? 'passed' : status === null ? 'never ended' : 'failed';
};
const ALL = 'packages/core/src';
for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => process.exit(1));

console.log(`${all.length} conditions in ${sources.length} files; seed ${seed}, ${wanted} drawn`);
const began = Date.now();
if ((await run(ALL)) !== 'passed') throw new Error('the tests fail without any change');
most = Math.max(180_000, 5 * (Date.now() - began));
let noticed = 0;
for (let i = 0; i < wanted; i += 1) {
  const { file, from, operator, line } = all.splice(Math.floor(random() * all.length), 1)[0];
  const place = relative(ROOT, file);
  const copy = join(folder, place);
  const text = readFileSync(copy, 'utf8');
  writeFileSync(copy, text.slice(0, from) + TURNED[operator] + text.slice(from + operator.length));
  // Most are noticed by those who live beside it, which takes seconds.
  const beside = await run(dirname(place) + '/');
  const ended = beside === 'passed' ? await run(ALL) : beside;
  const unnoticed = ended === 'passed';
  writeFileSync(copy, text);
  if (!unnoticed) noticed += 1;
  console.log(
    `${unnoticed ? 'NOT NOTICED' : 'noticed    '}  ${place}:${line}  ${operator} → ${TURNED[operator]}${ended === 'never ended' ? '  (never ended)' : ''}`,
  );
}
rmSync(folder, { recursive: true, force: true });
console.log(`${noticed} of ${wanted} noticed, ${enough} wanted`);
process.exit(noticed >= enough ? 0 : 1);
