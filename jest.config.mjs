const transform = {
  '^.+\\.(t|j|mj)sx?$': [
    '@swc/jest',
    {
      jsc: {
        parser: { syntax: 'typescript', tsx: true },
        transform: { react: { runtime: 'automatic' } },
        target: 'es2023',
      },
      module: { type: 'commonjs' },
    },
  ],
};
// Packages that are published as ES modules only.
const modules = [
  'earcut',
  'flatbush',
  'flatqueue',
  'munkres',
  'fast-myers-diff',
  'css-tree',
  'color-name',
  '@ovrel',
  '@noble',
  'pg-boss',
  'serialize-error',
  'non-error',
  'tagged-tag',
  'rrule-temporal',
  'temporal-polyfill',
  'temporal-spec',
  'csv-stringify',
  'range-parser',
  'content-disposition',
  'cookie',
  'three',
  'three-mesh-bvh',
  'manifold-3d',
  'property-graph',
  'hucre',
];
const shared = {
  rootDir: '.',
  testEnvironment: 'node',
  setupFilesAfterEnv: ['<rootDir>/jest.setup.mjs'],
  transform,
  // What they give to those who require them is on its way out, or is not there.
  moduleNameMapper: {
    '^three$': '<rootDir>/node_modules/three/build/three.module.js',
    '^manifold-3d$': '<rootDir>/node_modules/manifold-3d/manifold.js',
  },
  transformIgnorePatterns: [`/node_modules/(?!(${modules.join('|')})/)`],
};

/** Units need nothing but Node; server tests need PostgreSQL (OVREL_TEST_DATABASE, set by npm test). */
export default {
  projects: [
    {
      ...shared,
      displayName: 'units',
      testPathIgnorePatterns: ['/node_modules/', '\\.db\\.test\\.ts$'],
      testMatch: ['<rootDir>/{core,cli,demo,bin,bench,fuzz}/**/*.test.ts', '<rootDir>/web/src/**/*.test.{ts,tsx}'],
    },
    { ...shared, displayName: 'server', testMatch: ['<rootDir>/web/src/server/**/*.db.test.ts'] },
  ],
};
