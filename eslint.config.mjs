import js from '@eslint/js';
import boundaries from 'eslint-plugin-boundaries';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** Which part of the tree a file belongs to, and which parts it may import from: the arrows of the architecture. */
const elements = [
  { type: 'core', pattern: 'packages/core/**', mode: 'full' },
  { type: 'contract', pattern: 'packages/contract/**', mode: 'full' },
  { type: 'books', pattern: 'packages/books/**', mode: 'full' },
  { type: 'serverTest', pattern: 'apps/server/test/**', mode: 'full' },
  { type: 'server', pattern: 'apps/server/**', mode: 'full' },
  { type: 'bench', pattern: 'apps/bench/**', mode: 'full' },
  { type: 'routes', pattern: 'apps/pilot/app/**', mode: 'full' },
  { type: 'feature', pattern: 'apps/pilot/src/features/*/**', capture: ['feature'], mode: 'full' },
  { type: 'ui', pattern: 'apps/pilot/src/ui/**', mode: 'full' },
  { type: 'data', pattern: 'apps/pilot/src/data/**', mode: 'full' },
  { type: 'workers', pattern: 'apps/pilot/src/workers/**', mode: 'full' },
  { type: 'appTest', pattern: 'apps/pilot/test/**', mode: 'full' },
  { type: 'e2e', pattern: 'e2e/**', mode: 'full' },
  { type: 'drill', pattern: 'drills/**', mode: 'full' },
];

export default ts.config(
  { ignores: ['**/node_modules/**', '**/dist/**', '.data/**', '**/.expo/**', 'packages/contract/compiled/**', 'test-results/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    plugins: { boundaries, 'react-hooks': hooks },
    settings: { 'boundaries/elements': elements, 'import/resolver': { typescript: { project: 'tsconfig.json' } } },
    rules: {
      ...hooks.configs.recommended.rules,
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true }],
      'boundaries/element-types': [
        'error',
        {
          default: 'disallow',
          rules: [
            { from: 'core', allow: ['core'] },
            { from: 'contract', allow: ['contract'] },
            { from: 'books', allow: ['books', 'core', 'contract'] },
            { from: 'server', allow: ['server', 'core', 'contract', 'books'] },
            { from: 'serverTest', allow: ['serverTest', 'server', 'bench', 'contract', 'books', 'core'] },
            { from: 'bench', allow: ['bench', 'core', 'books', 'contract'] },
            { from: 'routes', allow: ['feature', 'ui', 'data'] },
            { from: 'feature', allow: [['feature', { feature: '${from.feature}' }], 'ui', 'data', 'core', 'contract', 'books'] },
            { from: 'ui', allow: ['ui', 'data', 'core', 'contract', 'books'] },
            { from: 'data', allow: ['data', 'workers', 'core', 'contract', 'books'] },
            { from: 'workers', allow: ['core', 'workers'] },
            { from: 'appTest', allow: ['appTest', 'feature', 'ui', 'data', 'core', 'contract', 'books'] },
            { from: 'e2e', allow: ['e2e', 'books', 'contract'] },
            // a drill speaks to the server as the server's tests do
            { from: 'drill', allow: ['drill', 'serverTest', 'books', 'contract'] },
          ],
        },
      ],
    },
  },
  {
    // the page carries no schema library: of the contract it takes types, the compiled validators and plain constants
    files: ['apps/pilot/**/*.{ts,tsx}', 'packages/books/src/**/*.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': ['error', { paths: [{ name: '@yare/contract', allowTypeImports: true, message: 'Types only.' }] }],
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: ['node:*', 'react*', '@yare/*'] }],
      'no-restricted-globals': ['error', 'Date', 'performance', 'process', 'window', 'document', 'fetch', 'setTimeout'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
  {
    files: ['**/*.{mjs,js}'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        URL: 'readonly',
        module: 'writable',
        require: 'readonly',
        __dirname: 'readonly',
        window: 'readonly',
        Object: 'readonly',
        fetch: 'readonly',
        localStorage: 'readonly',
        performance: 'readonly',
        document: 'readonly',
        requestAnimationFrame: 'readonly',
        PerformanceObserver: 'readonly',
      },
    },
    rules: { '@typescript-eslint/no-require-imports': 'off' },
  },
);
