/** Arrows between the rooms point one way. */
const islands = '^web/(islands|engine|workers)/';
module.exports = {
  forbidden: [
    {
      name: 'core-imports-nothing-outside',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { pathNot: '^core/|^node_modules/(class-validator|class-transformer|reflect-metadata|saxes|fflate)|^node_modules/@types' },
    },
    { name: 'kernel-stands-alone', severity: 'error', from: { path: '^core/kernel/', pathNot: '\\.test\\.ts$' }, to: { path: '^core/(?!kernel)' } },
    {
      name: 'islands-and-workers-import-no-server',
      severity: 'error',
      from: { path: islands },
      to: { path: '^server/', dependencyTypesNot: ['type-only'] },
    },
    { name: 'server-imports-no-page', severity: 'error', from: { path: '^(server|cli)/' }, to: { path: '^web/' } },
    { name: 'cli-needs-no-database', severity: 'error', from: { path: '^cli/' }, to: { path: '^server/(database|jobs|events)' } },
  ],
  options: { doNotFollow: { path: 'node_modules' }, tsConfig: { fileName: 'tsconfig.json' }, tsPreCompilationDeps: true, exclude: { path: '^dist' } },
};
