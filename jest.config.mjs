import pilot from './apps/pilot/jest.config.js';

/**
 * Jest runs a test file in a context of its own, where looking up a global costs a call; what computation asks for
 * in its inner loops is handed in instead. The heavy tests take a third of the time.
 */
const quickGlobals = ['Math', 'Number', 'Object', 'Array'];

const node = (name, folder) => ({
  displayName: name,
  rootDir: folder,
  testEnvironment: 'node',
  sandboxInjectedGlobals: quickGlobals,
  testMatch: ['<rootDir>/test/**/*.test.ts'],
  transform: {
    '\\.[jt]s$': [
      'babel-jest',
      {
        configFile: false,
        assumptions: { constantReexports: true },
        presets: [['@babel/preset-env', { targets: { node: 'current' } }], '@babel/preset-typescript'],
      },
    ],
  },
});

/**
 * Contract, core, books, bench and server run in plain Node; components under jest-expo. A test ends with what it waits for: the limit is there to end one
 * that waits for what will never come, on a busy machine too.
 */
export default {
  testTimeout: 300_000,
  projects: [
    node('contract', 'packages/contract'),
    node('core', 'packages/core'),
    node('books', 'packages/books'),
    node('commissioning', 'packages/commissioning'),
    node('words', 'packages/words'),
    node('demo-plant', 'packages/demo-plant'),
    node('bench', 'apps/bench'),
    node('server', 'apps/server'),
    { ...pilot, rootDir: 'apps/pilot', sandboxInjectedGlobals: quickGlobals },
  ],
};
