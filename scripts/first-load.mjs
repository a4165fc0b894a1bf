/**
 * How much script a browser reads before the first screen: the entry and the list of hosts, with all that they import,
 * gzipped. Run after the web was built; fails above the limit.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { ROOT } from './packages.mjs';

const LIMIT_KB = 200;
const PAGES = ['index.html', 'src/areas/hosts/hosts.tsx'];

const folder = join(ROOT, 'apps/web/dist');
const manifest = JSON.parse(readFileSync(join(folder, '.vite/manifest.json'), 'utf8'));
const needed = new Set();
const need = (name) => {
  if (needed.has(name)) return;
  needed.add(name);
  for (const imported of manifest[name].imports ?? []) need(imported);
};
PAGES.forEach(need);
const sizes = [...needed]
  .map((name) => manifest[name].file)
  .map((file) => [gzipSync(readFileSync(join(folder, file))).length / 1000, file]);
const sum = sizes.reduce((all, [kB]) => all + kB, 0);
for (const [kB, file] of sizes.sort((a, b) => b[0] - a[0]).slice(0, 8))
  console.log(`${kB.toFixed(1).padStart(7)} kB  ${file}`);
console.log(
  `${sum.toFixed(1).padStart(7)} kB of script before the first screen, at most ${LIMIT_KB}`,
);
process.exit(sum <= LIMIT_KB ? 0 : 1);
