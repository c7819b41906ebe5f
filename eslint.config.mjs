import js from '@eslint/js';
import boundaries from 'eslint-plugin-boundaries';
import imports from 'eslint-plugin-import';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** Which part of the tree a file belongs to, and which parts it may import from: the arrows of the architecture. */
const elements = [
  { type: 'packageTest', pattern: 'packages/*/test/**', mode: 'full' },
  { type: 'packageTest', pattern: 'packages/*/bench/**', mode: 'full' },
  { type: 'core', pattern: 'packages/core/**', mode: 'full' },
  { type: 'contract', pattern: 'packages/contract/**', mode: 'full' },
  { type: 'books', pattern: 'packages/books/**', mode: 'full' },
  { type: 'commissioning', pattern: 'packages/commissioning/**', mode: 'full' },
  { type: 'words', pattern: 'packages/words/**', mode: 'full' },
  { type: 'demoPlant', pattern: 'packages/demo-plant/**', mode: 'full' },
  { type: 'serverTest', pattern: 'apps/server/test/**', mode: 'full' },
  { type: 'server', pattern: 'apps/server/**', mode: 'full' },
  { type: 'truth', pattern: 'apps/bench/truth/**', mode: 'full' },
  { type: 'accuracy', pattern: 'apps/bench/accuracy/**', mode: 'full' },
  { type: 'benchTest', pattern: 'apps/bench/test/**', mode: 'full' },
  { type: 'bench', pattern: 'apps/bench/**', mode: 'full' },
  { type: 'routes', pattern: 'apps/pilot/app/**', mode: 'full' },
  { type: 'feature', pattern: 'apps/pilot/src/features/*/**', capture: ['feature'], mode: 'full' },
  // every page but the plant's own, fetched together
  { type: 'pages', pattern: 'apps/pilot/src/pages/**', mode: 'full' },
  { type: 'machine', pattern: 'apps/pilot/src/machine/**', mode: 'full' },
  { type: 'ui', pattern: 'apps/pilot/src/ui/**', mode: 'full' },
  { type: 'data', pattern: 'apps/pilot/src/data/**', mode: 'full' },
  { type: 'workers', pattern: 'apps/pilot/src/workers/**', mode: 'full' },
  { type: 'appTest', pattern: 'apps/pilot/test/**', mode: 'full' },
  { type: 'e2e', pattern: 'e2e/**', mode: 'full' },
  { type: 'drill', pattern: 'drills/**', mode: 'full' },
];

/** What knows of drives and motors, and nothing of pages or machines of wire. */
const rules = ['books', 'core', 'contract'];

/** What is read by a person, by the name it is passed under. */
const saidBy = '/^(text|second|label|title|sentence|note|placeholder|how|caption|question|accessibilityLabel)$/';

export default ts.config(
  { ignores: ['**/node_modules/**', '**/dist/**', '.data/**', '**/.expo/**', 'packages/contract/compiled/**', 'test-results/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    plugins: { boundaries, import: imports, 'react-hooks': hooks },
    settings: {
      'boundaries/elements': elements,
      'import/resolver': { typescript: { project: 'tsconfig.json' } },
      'import/parsers': { '@typescript-eslint/parser': ['.ts', '.tsx'] },
    },
    rules: {
      ...hooks.configs.recommended.rules,
      // every workspace declares what it imports, types too
      'import/no-extraneous-dependencies': ['error', { includeInternal: true, includeTypes: true }],
      // following every import takes a minute: npm run circles
      ...(process.env.CIRCLES && { 'import/no-cycle': 'error' }),
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true }],
      'boundaries/element-types': [
        'error',
        {
          default: 'disallow',
          rules: [
            { from: 'packageTest', allow: ['packageTest', 'words', 'commissioning', 'demoPlant', ...rules] },
            { from: 'core', allow: ['core'] },
            { from: 'contract', allow: ['contract'] },
            { from: 'books', allow: ['books', 'core', 'contract'] },
            // words are made of codes and figures, and last
            { from: 'words', allow: ['words', 'core', 'contract'] },
            { from: 'commissioning', allow: ['commissioning', 'words', ...rules] },
            { from: 'demoPlant', allow: ['demoPlant', 'books', 'core', 'contract'] },
            { from: 'server', allow: ['server', 'commissioning', 'words', 'demoPlant', ...rules] },
            { from: 'serverTest', allow: ['serverTest', 'server', 'packageTest', 'bench', 'truth', 'commissioning', 'demoPlant', ...rules] },
            { from: 'truth', allow: ['truth', 'core'] },
            { from: 'bench', allow: ['bench', 'truth', 'demoPlant', ...rules] },
            { from: 'accuracy', allow: ['accuracy', 'bench', 'truth', 'commissioning', 'demoPlant', ...rules] },
            { from: 'benchTest', allow: ['benchTest', 'accuracy', 'bench', 'truth', 'packageTest', 'demoPlant', ...rules] },
            { from: 'routes', allow: ['pages', 'feature', 'ui', 'data', 'words'] },
            { from: 'pages', allow: ['pages', 'feature', 'ui'] },
            { from: 'feature', allow: [['feature', { feature: '${from.feature}' }], 'machine', 'ui', 'data', 'words', 'commissioning', ...rules] },
            { from: 'machine', allow: ['machine', 'ui', 'data', 'words', 'commissioning', ...rules] },
            // the kit knows figures and units, and nothing of machines
            { from: 'ui', allow: ['ui', 'words', 'core'] },
            { from: 'data', allow: ['data', 'workers', 'words', 'commissioning', ...rules] },
            { from: 'workers', allow: ['words', 'commissioning', 'core', 'workers'] },
            {
              from: 'appTest',
              allow: ['appTest', 'packageTest', 'feature', 'machine', 'ui', 'data', 'workers', 'words', 'commissioning', 'demoPlant', ...rules],
            },
            { from: 'e2e', allow: ['e2e', 'demoPlant', 'commissioning', ...rules] },
            // a drill speaks to the server as the server's tests do, and looks at the bench's true shafts
            { from: 'drill', allow: ['drill', 'serverTest', 'bench', ...rules] },
          ],
        },
      ],
    },
  },
  {
    // the bench's truth may take data, settings and standards from the core, and no equation: what is judged by it must not be made of it
    files: ['apps/bench/truth/**/*.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          paths: [
            {
              name: '@yare/core',
              allowImportNames: [
                ...['clampReference', 'stepPowerState', 'watchDrive', 'ratedTorqueOf', 'tripMachine', 'usualSpread', 'nth'],
                ...['Control', 'ControlMethod', 'ControlWord', 'DriveState', 'Holding', 'MotorCooling', 'Phase', 'StartMode', 'StopMode', 'Switch'],
                ...[
                  'ConveyorLoad',
                  'FanLoad',
                  'HoistLoad',
                  'Learnable',
                  'Load',
                  'LoadState',
                  'Machine',
                  'MachineSpec',
                  'PumpLoad',
                  'Random',
                  'TorqueLoad',
                ],
              ],
              message: 'The truth is coded separately.',
            },
          ],
        },
      ],
    },
  },
  {
    // the page carries no schema library: of the contract it takes types, the compiled validators and plain constants
    files: ['apps/pilot/**/*.{ts,tsx}', 'packages/{books,commissioning}/src/**/*.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': ['error', { paths: [{ name: '@yare/contract', allowTypeImports: true, message: 'Types only.' }] }],
    },
  },
  {
    // what is said on a page stands in packages/words
    files: ['apps/pilot/{app,src}/**/*.tsx', 'packages/commissioning/src/{stages,lookAhead,command,process}/**/*.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...[
          'JSXText[value=/[A-Za-z]{2}/]',
          ...['Literal[value=/[a-z] [a-z]/]', 'TemplateLiteral > TemplateElement[value.raw=/[a-z] [a-z]/]'].flatMap((said) => [
            `JSXAttribute[name.name=${saidBy}] > ${said}`,
            `JSXAttribute[name.name=${saidBy}] > JSXExpressionContainer > ${said}`,
            `JSXAttribute[name.name=${saidBy}] > JSXExpressionContainer > ConditionalExpression > ${said}`,
            `Property[key.name=${saidBy}] > ${said}`,
            `Property[key.name=${saidBy}] > ConditionalExpression > ${said}`,
          ]),
        ].map((selector) => ({ selector, message: 'Words stand in packages/words.' })),
      ],
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
