/**
 * `npm run dependencies`: writes docs/dependencies.md: every package that Insel names itself, with version, licence and why it
 * is here. With --check (in `npm test`) it fails where one has no reason, where the page is old, or where a licence of any
 * package, however deep, is not among the allowed ones. Nothing is fetched: all of it stands in package-lock.json.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './packages.mjs';

/** Permissive ones, and those that ask no more than that a file or font stays under its licence. */
const ALLOWED = new Set([
  'MIT',
  'MIT-0',
  'ISC',
  '0BSD',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'Apache-2.0',
  'BlueOak-1.0.0',
  'CC0-1.0',
  'CC-BY-4.0',
  'Python-2.0',
  'MPL-2.0',
  'OFL-1.1',
]);
/** Packages whose lock entry names none: looked at by hand. */
const LOOKED_AT = { busboy: 'MIT', streamsearch: 'MIT' };

const WHY = {
  '@axe-core/playwright': 'accessibility of every screen, in the end-to-end tests',
  '@dagrejs/graphlib': 'tests: circles of needs against a graph library; circles of imports',
  '@fontsource-variable/atkinson-hyperlegible-mono': 'the font of figures',
  '@fontsource-variable/atkinson-hyperlegible-next': 'the font of words',
  '@hookform/resolvers': 'what the validator says, in the shape of React Hook Form',
  '@mikro-orm/core': 'the mapper',
  '@mikro-orm/migrations': 'migrations of the database',
  '@mikro-orm/postgresql': 'the mapper’s driver',
  '@nestjs/common': 'the server’s frame',
  '@nestjs/core': 'the server’s frame',
  '@nestjs/platform-express': 'the server’s frame on Express',
  '@nestjs/swagger': 'the OpenAPI document',
  '@noble/hashes': 'SHA-256 of a file in the browser, piece by piece, which Web Crypto cannot',
  '@node-rs/argon2': 'hashes of passwords',
  '@playwright/test': 'end-to-end tests and pictures',
  '@tailwindcss/vite': 'styles',
  '@tanstack/react-query': 'what was read, and when to read it anew',
  '@tanstack/react-table': 'columns, order and selection of lists',
  '@tanstack/react-virtual': 'long lists',
  '@types/compression': 'types',
  '@types/cookie-parser': 'types',
  '@types/express': 'types',
  '@types/node': 'types',
  '@types/papaparse': 'types',
  '@types/pg': 'types',
  '@types/react': 'types',
  '@types/react-dom': 'types',
  '@vitejs/plugin-react': 'builds the web application',
  highs: 'mixed-integer programs: placements that our own search leaves open, least bytes to move',
  'class-transformer': 'bodies as instances of their class',
  'class-validator': 'rules of inputs, the same in form and server',
  cmdk: 'the list under the search field',
  compression: 'files of the web application, packed',
  'cookie-parser': 'the session’s cookie',
  'dependency-cruiser': 'rules of imports',
  diff: 'lines that differ between first-start files',
  eslint: 'lint',
  'eslint-plugin-react-hooks': 'lint of hooks',
  express: 'HTTP',
  'fast-check': 'property tests',
  fflate: 'an archive of first-start files, in the browser',
  helmet: 'security headers',
  'ical-generator': 'the calendar of migrations',
  'ical.js': 'tests: the calendar read back by another library',
  'ip-address': 'tests: addresses against a library',
  'ipaddr.js': 'tests: addresses against another library',
  knip: 'unused exports',
  'markdown-to-jsx': 'notes of records',
  'ml-regression-theil-sen': 'the trend of what fills',
  netmask: 'tests: addresses against a third library',
  'p-queue': 'turns at comparing passwords',
  papaparse: 'CSV',
  pg: 'what the mapper is too slow for: loading the record, measured samples',
  pino: 'the server’s log',
  'pino-http': 'requests in the server’s log',
  prettier: 'format',
  'radix-ui': 'menus, dialogs, tabs that keyboards and screen readers know',
  react: 'the web application; pages that the server writes',
  'react-dom': 'the web application; pages that the server writes',
  'react-hook-form': 'forms: what is typed, what is wrong with it',
  'react-is': 'asked for by recharts',
  'react-router': 'routes of the web application',
  recharts: 'charts of measured use',
  'reflect-metadata': 'asked for by the decorators of Nest and class-validator',
  'rrule-temporal': 'days that recur (RFC 5545)',
  rxjs: 'asked for by Nest',
  'simple-statistics': 'tests: percentiles and trends against a library',
  sonner: 'notes of what was done, with undo',
  tailwindcss: 'styles',
  'temporal-polyfill': 'clocks of time zones',
  tinyqueue: 'the queue of the start order',
  typescript: 'the language, for the tools that read it: lint, import rules, mutants',
  'typescript-eslint': 'lint with types',
  'typescript-native': 'compiles and checks types: version 7, which those tools cannot read by yet',
  uuid: 'ids (RFC 9562, version 7)',
  vite: 'builds the web application',
  vitest: 'tests',
  yaml: 'first-start files',
};

const read = (path) => JSON.parse(readFileSync(join(ROOT, path), 'utf8'));
const lock = read('package-lock.json');
/** The root and its workspaces, as the lock file knows them. */
const FOLDERS = Object.keys(lock.packages).filter((path) => !path.includes('node_modules'));

/** Name → where it is used, for running or for tests and building. */
function direct() {
  const found = new Map();
  for (const folder of FOLDERS) {
    const { dependencies = {}, devDependencies = {} } = read(join(folder, 'package.json'));
    for (const [names, kind] of [
      [dependencies, 'runs'],
      [devDependencies, 'builds and tests'],
    ])
      for (const name of Object.keys(names)) {
        if (name.startsWith('@insel/')) continue;
        const entry =
          lock.packages[`${folder}/node_modules/${name}`] ?? lock.packages[`node_modules/${name}`];
        const held = found.get(name);
        found.set(name, {
          name,
          version: entry?.version ?? '',
          licence: entry?.license ?? '',
          used: held?.used === 'runs' ? 'runs' : kind,
        });
      }
  }
  return [...found.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** Whether a licence expression is allowed: one of an "or", all of an "and". */
const allowed = (licence) =>
  licence
    .replace(/[()]/g, '')
    .split(/ or /i)
    .some((choice) => choice.split(/ and /i).every((one) => ALLOWED.has(one.trim())));

function faults() {
  const rows = direct();
  const said = [
    ...rows
      .filter(({ name }) => !WHY[name])
      .map(({ name }) => `${name}: say in scripts/dependencies.mjs why it is here`),
    ...Object.keys(WHY)
      .filter((name) => !rows.some((row) => row.name === name))
      .map(
        (name) => `${name}: it is no longer here; take its line out of scripts/dependencies.mjs`,
      ),
  ];
  for (const [path, entry] of Object.entries(lock.packages)) {
    if (!path.includes('node_modules/') || entry.link) continue;
    const name = path.slice(path.lastIndexOf('node_modules/') + 'node_modules/'.length);
    const licence = entry.license ?? LOOKED_AT[name];
    if (!licence) said.push(`${name} ${entry.version}: its licence is not known`);
    else if (!allowed(licence))
      said.push(`${name} ${entry.version}: ${licence} is not among the allowed licences`);
  }
  return said;
}

function page() {
  const lines = direct().map(
    ({ name, version, licence, used }) =>
      `| ${name} | ${version} | ${licence} | ${used} | ${WHY[name] ?? ''} |`,
  );
  return `# Packages

Written by \`npm run dependencies\` from \`package-lock.json\`. Debian’s packages beside them: PostgreSQL, Chromium (tests),
xorriso (disc images); from the system: Node.js.

| package | version | licence | used | why |
| --- | --- | --- | --- | --- |
${lines.join('\n')}

Allowed licences, of these and of all packages they bring along: ${[...ALLOWED].join(', ')}.
`;
}

const file = join(ROOT, 'docs', 'dependencies.md');
if (process.argv.includes('--check')) {
  const said = faults();
  if (readFileSync(file, 'utf8') !== page())
    said.push('docs/dependencies.md is not current: npm run dependencies');
  for (const line of said) console.error(line);
  process.exitCode = said.length ? 1 : 0;
} else {
  writeFileSync(file, page());
  for (const line of faults()) console.error(line);
}
