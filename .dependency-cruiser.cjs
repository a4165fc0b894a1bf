/** Imports point one way: web, server → contract → core. An area of the web or the server does not reach into another. */
module.exports = {
  forbidden: [
    {
      name: 'core-imports-nothing-of-ours',
      severity: 'error',
      from: { path: '^packages/core/src' },
      to: { path: '^(packages/contract|apps)/' },
    },
    {
      name: 'contract-imports-core-only',
      severity: 'error',
      from: { path: '^packages/contract/src' },
      to: { path: '^apps/' },
    },
    {
      name: 'web-and-server-apart',
      severity: 'error',
      from: { path: '^apps/(web|server)/' },
      to: { path: '^apps/', pathNot: '^apps/$1/' },
    },
    {
      name: 'core-has-no-framework-or-io',
      severity: 'error',
      from: { path: '^packages/core/src', pathNot: '\\.test\\.ts$' },
      // A queue in order of time, the clocks and days of a calendar, a regression are no framework.
      to: {
        dependencyTypes: ['core', 'npm', 'npm-dev'],
        pathNot:
          'node_modules/(tinyqueue|temporal-polyfill|rrule-temporal|ml-regression-theil-sen)/',
      },
    },
    {
      name: 'core-subjects-by-their-index',
      severity: 'error',
      from: { path: '^packages/core/src/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^packages/core/src/[^/]+/',
        pathNot: ['^packages/core/src/$1/', '/index\\.ts$'],
      },
    },
    {
      name: 'web-areas-apart',
      severity: 'error',
      from: { path: '^apps/web/src/areas/([^/]+)/' },
      to: { path: '^apps/web/src/areas/', pathNot: '^apps/web/src/areas/$1/' },
    },
    {
      name: 'components-know-no-area',
      severity: 'error',
      from: { path: '^apps/web/src/components/' },
      to: { path: '^apps/web/src/areas/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(/dist/|/dist-types/)' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      conditionNames: ['@insel/source', 'import', 'node', 'default'],
      exportsFields: ['exports'],
      extensions: ['.ts', '.tsx', '.js'],
    },
  },
};
