/** Arrows between the rooms point one way, and every room is used through its index. */
const islands = '^web/(islands|components|domain|data|engine)/';

/** The rooms of core from the foundation up: each may use those before it, none after it. */
const LAYERS = [
  ['kernel'],
  ['graph'],
  ['image', 'parameters', 'engine', 'tape'],
  ['time', 'delivery', 'places'],
  ['film', 'trace', 'sound'],
  ['assets'],
  ['steps'],
  ['clip'],
  ['mattes', 'compositing'],
  ['look'],
  ['plan', 'measure'],
  ['formats', 'decisions'],
];
/** The rooms of the server from the foundation up; `worker.ts` stands on all of them. */
const SERVER_LAYERS = [
  ['config'],
  ['media'],
  ['render'],
  ['database'],
  ['events'],
  ['jobs'],
  ['projects'],
  ['footage'],
  ['looks', 'clips', 'assets'],
  ['traces'],
  ['inspections', 'deliveries'],
];
/** The folders of the pages from the foundation up: `components` may use `data`, not `islands`. */
const WEB_LAYERS = [['data'], ['domain'], ['engine'], ['components'], ['islands']];
const NOT_TESTS = '\\.test\\.tsx?$|^(core|web)/testing/';
const upwards = (part, layers) =>
  layers.map((rooms, i) => ({
    name: `${part}-${rooms.join('-and-')}-know-nothing-above`,
    severity: 'error',
    from: { path: `^${part}/(${rooms.join('|')})/`, pathNot: NOT_TESTS },
    to: {
      path: `^${part}/(${layers
        .slice(i + 1)
        .flat()
        .join('|')}|testing)/`,
    },
  }));

module.exports = {
  forbidden: [
    {
      name: 'core-imports-nothing-outside',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: {
        pathNot:
          '^core/|^node_modules/(class-validator|class-transformer|reflect-metadata|saxes|fflate)|^node_modules/@types',
      },
    },
    ...upwards('core', LAYERS),
    ...upwards('server', SERVER_LAYERS),
    ...upwards('web', WEB_LAYERS),
    {
      name: 'rooms-are-used-through-their-index',
      severity: 'error',
      from: { path: '^core/([^/]+)/' },
      to: { path: '^core/[^/]+/', pathNot: '^core/$1/|^core/[^/]+/index\\.ts$' },
    },
    {
      name: 'core-is-used-through-its-rooms',
      severity: 'error',
      from: { pathNot: '^core/' },
      to: { path: '^core/[^/]+/', pathNot: '^core/[^/]+/index\\.ts$' },
    },
    {
      name: 'no-circles-in-core',
      severity: 'error',
      from: { path: '^core/' },
      to: { circular: true },
    },
    // Elsewhere two files may still know each other's types.
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'tests-only',
      severity: 'error',
      from: { pathNot: '\\.test\\.ts$|^core/testing/|^e2e/|^bench/' },
      to: { path: '^core/testing/' },
    },
    {
      name: 'islands-and-workers-import-no-server',
      severity: 'error',
      from: { path: islands },
      to: { path: '^server/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'server-imports-no-page',
      severity: 'error',
      from: { path: '^(server|cli)/' },
      to: { path: '^web/' },
    },
    {
      name: 'cli-needs-no-database',
      severity: 'error',
      from: { path: '^cli/' },
      to: {
        path: '^server/(database|jobs|events|projects|footage|looks|clips|inspections|deliveries)',
      },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    // Another language with the same ending.
    exclude: { path: '^dist|^core/trace/source/' },
  },
};
