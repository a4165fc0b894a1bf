/**
 * Where imports may point (.dependency-cruiser.cjs), and that no file and no folder imports itself by way of others. Circles are
 * looked for in the graph of all: a rule of the tool looks at one circle for each import, and passes where that one goes by a type.
 */
import { alg, Graph } from '@dagrejs/graphlib';
import { cruise } from 'dependency-cruiser';
import extractDepcruiseOptions from 'dependency-cruiser/config-utl/extract-depcruise-options';
import extractTSConfig from 'dependency-cruiser/config-utl/extract-ts-config';

const SOURCES = ['packages/core/src', 'packages/contract/src', 'apps/server/src', 'apps/web/src'];

/** The folder of a subject or an area; a file of none stands for itself. */
const folderOf = (file) =>
  /^(?:packages|apps)\/\w+\/src\/(?:areas\/)?[\w-]+(?=\/)/.exec(file)?.[0] ?? file;

/** What imports itself by way of others. A type alone is not imported when it runs. */
function circlesOf(modules, placeOf) {
  const imports = new Graph();
  for (const { source, dependencies } of modules)
    for (const { resolved, dependencyTypes } of dependencies) {
      const [from, to] = [placeOf(source), placeOf(resolved)];
      const inside = from === to && source !== resolved;
      if (!inside && !dependencyTypes.includes('type-only')) imports.setEdge(from, to);
    }
  return alg.findCycles(imports).map((places) => places.sort().join('\n  '));
}

const options = await extractDepcruiseOptions('./.dependency-cruiser.cjs');
const found = await cruise(
  SOURCES,
  options,
  {},
  { tsConfig: extractTSConfig('tsconfig.base.json') },
);
const { modules: all, summary } = found.output;
// Tests stand above all that they look at.
const modules = all.filter(({ source }) => !source.includes('.test.'));
const circles = [...circlesOf(modules, (file) => file), ...circlesOf(modules, folderOf)];
for (const { from, to, rule } of summary.violations) console.error(`${rule.name}: ${from} → ${to}`);
for (const circle of circles) console.error(`These import each other:\n  ${circle}`);
console.log(
  `${summary.totalCruised} files, ${summary.totalDependenciesCruised} imports: ${summary.violations.length} against the rules, ${circles.length} circles.`,
);
process.exit(summary.violations.length + circles.length > 0 || modules.length === 0 ? 1 : 0);
