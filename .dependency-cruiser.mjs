/** Which rooms may know which: no circles, and dependencies that point one way (docs/architecture.md). */
const one = (name, comment, from, to) => ({ name, severity: 'error', comment, from, to });

/** @type {import('dependency-cruiser').IConfiguration} */
export default {
  forbidden: [
    one(
      'no-circles',
      'A module that needs itself cannot be read, tested or moved alone. What is loaded lazily closes no circle.',
      {},
      { circular: true, viaOnly: { dependencyTypesNot: ['dynamic-import', 'type-only'] } },
    ),
    one(
      'core-stands-alone',
      'Dependencies point one way: cli → core ← web.',
      { path: '^core/' },
      { path: '^(web|cli)/' },
    ),
    one('cli-and-web-apart', 'Dependencies point one way: cli → core ← web.', { path: '^cli/src' }, { path: '^web/' }),
    one(
      'formats-know-no-kinds',
      'Formats read and write. What is done with what they read is a matter of kinds.',
      { path: '^core/src/formats/', pathNot: '\\.test\\.ts$' },
      { path: '^core/src/(kinds|causes|match|report)/' },
    ),
    one(
      'cards-are-light',
      'Cards are in the first load of the browser: what they need to read is loaded through them.',
      { path: '^core/src/formats/[^/]+/card\\.ts$' },
      {
        path: '^core/src/formats/(?!shared/)[^/]+/(?!card\\.ts|starts\\.ts|sniff\\.ts)',
        dependencyTypesNot: ['dynamic-import', 'type-only'],
      },
    ),
    one(
      'kinds-know-no-formats',
      'Kinds ask the card.',
      { path: '^core/src/kinds/[^/]+/', pathNot: '\\.test\\.ts$' },
      { path: '^core/src/formats/(?!registry|shared)[^/]+/' },
    ),
    one(
      'interface-over-the-api',
      'The interface talks to the server over the API.',
      { path: '^web/src/(features|workers)/' },
      { path: '^web/src/server/', dependencyTypesNot: ['type-only'] },
    ),
    one(
      'contract-is-ground',
      'The contract knows neither side.',
      { path: '^web/src/contract/', pathNot: '\\.test\\.ts$' },
      { path: '^web/src/(server|features|app)/' },
    ),
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(node_modules|\\.next|public)/' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] },
  },
};
