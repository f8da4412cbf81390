import next from '@next/eslint-plugin-next';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const forbid = (...patterns) => ({
  'no-restricted-imports': ['error', { patterns: patterns.map(([group, message]) => ({ group, message })) }],
});
const outside = [
  ['**/web/**', '**/cli/**', '@ovrel/web', '@ovrel/cli'],
  'Dependencies point one way: cli → core ← web.',
];
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
    plugins: { 'react-hooks': hooks, '@next/next': next },
    rules: {
      ...hooks.configs.recommended.rules,
      ...next.configs.recommended.rules,
      '@next/next/no-img-element': 'off',
      '@next/next/no-html-link-for-pages': 'off',
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
      'react-hooks/set-state-in-effect': 'off',
      'react-hooks/refs': 'off',
      // Async keeps a signature uniform (routes, generators of test data).
      '@typescript-eslint/require-await': 'off',
      '@typescript-eslint/use-unknown-in-catch-callback-variable': 'off',
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts', 'core/src/node/**'],
    rules: forbid(outside, noNode, noInterface),
  },
  {
    files: ['core/src/formats/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: forbid(outside, noNode, noInterface, [
      ['**/kinds/**', '**/match/**', '**/causes/**'],
      'Formats know nothing of comparing.',
    ]),
  },
  {
    files: ['core/src/match/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: forbid(outside, noNode, noInterface, [['**/formats/**'], 'Matching knows nothing of formats.']),
  },
  {
    files: ['core/src/**/*.ts', 'web/src/**/*.{ts,tsx}', 'cli/src/**/*.ts'],
    ignores: [
      '**/*.test.ts',
      'core/src/formats/**',
      // Forms of reports have the names of formats.
      'web/src/contract/report.ts',
      'web/src/server/reports/service.ts',
      'web/src/features/files/changed/Reports.tsx',
    ],
    rules: noFormatIds,
  },
  {
    files: ['cli/src/**/*.ts'],
    rules: forbid([['**/web/**', '@ovrel/web'], 'Dependencies point one way: cli → core ← web.']),
  },
  {
    files: ['web/src/{app,features,pages}/**/*.{ts,tsx}'],
    rules: forbid(
      [['**/cli/**', '@ovrel/cli'], 'Dependencies point one way: cli → core ← web.'],
      [['pg', 'pg-*'], 'SQL lives in server/.'],
    ),
  },
  {
    files: ['web/src/features/**/*.{ts,tsx}'],
    rules: forbid([['**/server/**', 'pg'], 'The interface talks to the server over the API.']),
  },
  {
    files: ['**/*.test.ts', 'e2e/**/*.ts', 'web/src/server/testing/**'],
    rules: { '@typescript-eslint/no-non-null-assertion': 'off', '@typescript-eslint/no-unsafe-assignment': 'off' },
  },
);
