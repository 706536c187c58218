/** The architecture's rules: who may import whom. */

module.exports = {
  forbidden: [
    {
      name: 'no-cycles',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      name: 'core-stands-alone',
      comment:
        'The core knows nothing of files, database, framework or interface; zod, a few numeric libraries, a calendar and a limit of concurrency are all it takes.',
      severity: 'error',
      from: { path: '^src/core', pathNot: ['\\.test\\.tsx?$', '^src/core/testing/'] },
      to: {
        pathNot: ['^src/core', '^node_modules/(zod|fft\\.js|astronomy-engine|d3-array|date-fns|p-limit|@stdlib)/'],
      },
    },
    {
      name: 'below-the-interface',
      severity: 'error',
      from: { path: '^src/(media|store|jobs|simulator)' },
      to: { path: '^src/(app|server|stages|ui)' },
    },
    {
      name: 'media-needs-no-store',
      severity: 'error',
      from: { path: '^src/media', pathNot: ['\\.test\\.ts$', '^src/media/testing/'] },
      to: { path: '^src/(store|jobs|simulator)' },
    },
    {
      name: 'simulator-shares-only-types',
      comment: 'An error in the measures must not hide in the simulator.',
      severity: 'error',
      from: { path: '^src/simulator', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^src/core/(?!session/|reading/source|reading/window|formulas/optics/exposure)',
        dependencyTypesNot: ['type-only'],
      },
    },
    {
      name: 'interface-reaches-data-through-server',
      severity: 'error',
      from: { path: '^src/(stages|ui)', pathNot: '\\.test\\.tsx?$' },
      to: { path: '^src/(store|jobs|media|simulator|cli|log)' },
    },
    {
      name: 'truths-are-computed-elsewhere',
      comment:
        'Tests and scripts that compare with a truth take it from simulator/expected, which uses general libraries and closed forms, never from what measures.',
      severity: 'error',
      from: { path: '^(scripts|e2e)/|^src/(core/[^/]+|core/measures/[^/]+|media/.+|simulator/.+)\\.test\\.tsx?$' },
      to: {
        path: '^src/core/(measures/(cast|colors|flare|graduated|ordinary|polarizer|shading|sharpness|strength|variable)|formulas/(color|optics)|judging/rating)/',
      },
    },
    {
      name: 'expected-is-for-tests',
      comment: 'Truths are no part of the product.',
      severity: 'error',
      from: { path: '^src/', pathNot: ['\\.test\\.tsx?$', '^src/simulator/expected/', '^src/(core|media)/testing/'] },
      to: { path: '^src/simulator/expected/' },
    },
    {
      name: 'expected-stands-alone',
      comment: 'A truth is never computed by the code under test.',
      severity: 'error',
      from: { path: '^src/simulator/expected/' },
      to: { path: '^src/core/', dependencyTypesNot: ['type-only'] },
    },
    { name: 'no-imports-of-tests', severity: 'error', from: {}, to: { path: '\\.(test|spec)\\.tsx?$' } },
    { name: 'resolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
