import next from '@next/eslint-plugin-next';
import boundaries from 'eslint-plugin-boundaries';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const noImports = (...patterns) => ({
  'no-restricted-imports': ['error', { patterns: patterns.map(([group, message]) => ({ group, message })) }],
});

/**
 * Rooms by their folders, and which others each may know. Everything else is forbidden. docs/architecture.md tells
 * why.
 */
const rooms = {
  'core/geometry': ['core/model'],
  'core/model': ['core/contract', 'core/geometry', 'core/raster', 'core/references'],
  'core/raster': [],
  'core/text': [],
  'core/contract': [],
  'core/bytes': [],
  'core/storage': ['core/bytes'],
  'core/desk': [],
  'core/references': ['core/formats'],
  'core/match': ['core/geometry', 'core/model', 'core/text'],
  'core/causes': ['core/contract', 'core/text'],
  'core/formats': ['core/bytes', 'core/geometry', 'core/model', 'core/raster', 'core/references', 'core/text'],
  'core/kinds': [
    ...['core/causes', 'core/contract', 'core/formats', 'core/geometry', 'core/match', 'core/model'],
    ...['core/raster', 'core/text'],
  ],
  'core/history': ['core/desk', 'core/formats', 'core/kinds', 'core/model', 'core/raster', 'core/text'],
  'core/join': ['core/bytes', 'core/contract', 'core/geometry', 'core/kinds', 'core/match', 'core/model'],
  'core/report': ['core/contract', 'core/formats', 'core/geometry', 'core/kinds', 'core/model'],
  'core/node': ['core/contract', 'core/formats', 'core/kinds', 'core/model', 'core/raster'],
  'web/contract': [],
  'web/features': ['web/contract', 'web/workers'],
  'web/workers': ['web/features'],
  'web/server': ['web/contract'],
  'web/app': ['web/contract', 'web/features', 'web/server'],
  'web/pages': ['web/contract', 'web/server'],
  cli: [],
};
/** The core, through what its package gives. */
const core = Object.keys(rooms).filter((room) => room.startsWith('core/'));
const knownTo = (room) => [room, ...rooms[room], ...(core.includes(room) ? [] : core)];
const folderOf = (room) => (room === 'cli' ? 'cli/src' : room.replace('/', '/src/'));
const walls = {
  plugins: { boundaries },
  settings: {
    'import/resolver': {
      typescript: { project: ['./tsconfig.json', './web/tsconfig.json'], noWarnOnMultipleProjects: true },
    },
    'boundaries/elements': Object.keys(rooms).map((type) => ({ type, pattern: folderOf(type) })),
  },
  rules: {
    'boundaries/dependencies': [
      'error',
      {
        default: 'disallow',
        message: 'This room does not know that one (eslint.config.mjs, rooms).',
        policies: Object.keys(rooms).map((type) => ({
          from: { element: { type } },
          allow: { to: { element: { types: { anyOf: knownTo(type) } } } },
        })),
      },
    ],
  },
};
const noNode = [['node:*', 'fs', 'path'], 'Only core/src/node may use Node.'];
/** Facts about formats stand on their cards: nobody else goes by an id. `text` is a kind, too. */
const formatIds =
  'svg|dxf|pdf|png|jpeg|gif|webp|avif|tiff|ora|psd|zip|gzip|glb|gltf|html|markdown|obj|mtl|ifc|ooxml|odf';
const noFormatIds = {
  'no-restricted-syntax': [
    'error',
    {
      selector: `Literal[value=/^(${formatIds})$/]`,
      message: 'What is particular to a format stands on its card (core/src/formats/<id>/card.ts).',
    },
  ],
};
const noInterface = [['react', 'react-dom', 'next', 'next/*', 'pg'], 'The core has no interface and no database.'];

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/',
      '**/.next/',
      '**/next-env.d.ts',
      '.ovrel*/',
      'test-results/',
      'playwright-report/',
      '.shot.mts',
    ],
  },
  {
    files: ['**/*.{ts,tsx}'],
    extends: [tseslint.configs.strictTypeChecked],
    languageOptions: {
      parserOptions: { project: ['./tsconfig.json', './web/tsconfig.json'], tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      // One statement says one thing.
      'one-var': ['error', 'never'],
      'no-nested-ternary': 'error',
      'no-cond-assign': ['error', 'always'],
      'no-multi-assign': 'error',
      'no-return-assign': ['error', 'always'],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true, allowBoolean: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/no-unnecessary-condition': 'off',
      '@typescript-eslint/no-unnecessary-type-parameters': 'off',
      // Async keeps a signature uniform (routes, generators of test data).
      '@typescript-eslint/require-await': 'off',
      '@typescript-eslint/use-unknown-in-catch-callback-variable': 'off',
    },
  },
  {
    files: ['web/src/{app,features,pages}/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks, '@next/next': next },
    rules: {
      ...hooks.configs.recommended.rules,
      ...next.configs.recommended.rules,
      '@next/next/no-img-element': 'off',
      '@next/next/no-html-link-for-pages': 'off',
      'react-hooks/set-state-in-effect': 'off',
      'react-hooks/refs': 'off',
    },
  },
  { files: ['{core,web,cli}/src/*/**/*.{ts,tsx}'], ignores: ['**/*.test.{ts,tsx}'], ...walls },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts', 'core/src/node/**'],
    rules: noImports(noNode, noInterface),
  },
  {
    files: ['core/src/**/*.ts', 'web/src/**/*.{ts,tsx}', 'cli/src/**/*.ts'],
    ignores: [
      '**/*.test.ts',
      'core/src/formats/**',
      // Forms of reports and of films have the names of formats.
      'core/src/contract/film.ts',
      'web/src/contract/report.ts',
      'web/src/features/files/changed/Reports.tsx',
    ],
    rules: noFormatIds,
  },
  {
    files: ['web/src/{app,features,pages,workers}/**/*.{ts,tsx}'],
    rules: noImports([['pg', 'pg-*'], 'SQL lives in server/.']),
  },
  {
    files: ['**/*.test.ts', 'e2e/**/*.ts', 'web/src/server/testing/**'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off', '@typescript-eslint/no-unsafe-assignment': 'off' },
  },
);
