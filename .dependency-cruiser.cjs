// Which folder may import which; every rule has a fixture that breaks it (see
// scripts/check-dependencies.ts).
const ban = (name, from, to) => ({ name, severity: 'error', from, to });
// Readers and writers of files, which only core/exchange may use.
const READERS =
  'watlas|fast-png|pako|jpeg-js|parse-exr|fflate|draco3d|meshoptimizer|@gltf-transform';
const NOT_TESTS = '\\.test\\.tsx?$';
module.exports = {
  forbidden: [
    ban(
      'core-is-pure',
      { path: '^src/core', pathNot: NOT_TESTS },
      { path: '^src', pathNot: '^src/core' },
    ),
    ban(
      'core-packages',
      { path: '^src/core', pathNot: NOT_TESTS },
      {
        path: 'node_modules',
        pathNot: `node_modules/(joi|${READERS})/`,
      },
    ),
    ban('core-no-node', { path: '^src/core', pathNot: NOT_TESTS }, { dependencyTypes: ['core'] }),
    ban(
      'joi-only-in-graph',
      { path: '^src/core/(?!graph)', pathNot: NOT_TESTS },
      { path: 'node_modules/joi/' },
    ),
    ban(
      'readers-only-in-exchange',
      { path: '^src/core/(?!exchange)', pathNot: NOT_TESTS },
      {
        path: `node_modules/(${READERS})/`,
      },
    ),
    ban('no-cycle', {}, { circular: true }),
    ban(
      'base-is-leaf',
      { path: '^src/core/base', pathNot: NOT_TESTS },
      { path: '^src', pathNot: '^src/core/base' },
    ),
    ban(
      'graph-mesh-ir-only-base',
      { path: '^src/core/(graph|mesh|ir)/', pathNot: NOT_TESTS },
      { path: '^src/core', pathNot: '^src/core/(base|$1)/' },
    ),
    ban(
      'nodes-only-ir',
      { path: '^src/core/nodes', pathNot: NOT_TESTS },
      { path: '^src/core', pathNot: '^src/core/(nodes|ir|base)/' },
    ),
    ban(
      'backends-only-ir',
      { path: '^src/core/backends/([^/]+)', pathNot: NOT_TESTS },
      { path: '^src/core', pathNot: '^src/core/(ir|base|backends/$1)/' },
    ),
    ban(
      'handoff-last',
      { path: '^src/core/(?!handoff)', pathNot: NOT_TESTS },
      { path: '^src/core/handoff/' },
    ),
    ban(
      'exchange-before-evaluate',
      { path: '^src/core/exchange', pathNot: NOT_TESTS },
      { path: '^src/core/(evaluate|compile|edit|advice|notes)/' },
    ),
    ban(
      'workers-only-core',
      { path: '^src/workers' },
      { path: '^src', pathNot: '^src/(core|workers)/' },
    ),
    ban(
      'client-not-server',
      { path: '^src/(state|features|ui|workers)' },
      { path: '^src/(db|server)/' },
    ),
    ban('app-not-db', { path: '^src/app' }, { path: '^src/db/' }),
    ban(
      'contract-only-core',
      { path: '^src/contract' },
      { path: '^src', pathNot: '^src/(core|contract)/' },
    ),
    ban(
      'server-not-client',
      { path: '^src/(server|db)', pathNot: NOT_TESTS },
      { path: '^src/(app|features|ui|state)/' },
    ),
    ban(
      'features-separate',
      { path: '^src/features/([^/]+)' },
      { path: '^src/features', pathNot: '^src/features/$1/' },
    ),
    ban('ui-is-shared', { path: '^src/ui' }, { path: '^src/(app|features|state|workers)/' }),
    ban('state-without-views', { path: '^src/state' }, { path: '^src/(app|features|ui)/' }),
    ban(
      'sql-only-in-db',
      { pathNot: '^(src/db|tests)' },
      { path: 'node_modules/(drizzle-orm|pg)/' },
    ),
    // People are kept by the server alone: that command stands in for a librarian at the page.
    ban(
      'cli-only-core',
      { path: '^cli', pathNot: '^cli/people[.]ts$' },
      { path: '^src', pathNot: '^src/core/' },
    ),
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    // Packages that only state `exports` are found too.
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
    exclude: { path: '\\.next' },
  },
};
