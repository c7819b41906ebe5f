const node = (name, folder) => ({
  displayName: name,
  rootDir: folder,
  testEnvironment: 'node',
  testMatch: ['<rootDir>/test/**/*.test.ts'],
  transform: {
    '\\.[jt]s$': [
      'babel-jest',
      { configFile: false, presets: [['@babel/preset-env', { targets: { node: 'current' } }], '@babel/preset-typescript'] },
    ],
  },
});

/** Core, books, bench and server run in plain Node; components under jest-expo. */
export default {
  projects: [
    node('core', 'packages/core'),
    node('books', 'packages/books'),
    node('commissioning', 'packages/commissioning'),
    node('demo-plant', 'packages/demo-plant'),
    node('bench', 'apps/bench'),
    node('server', 'apps/server'),
    '<rootDir>/apps/pilot/jest.config.js',
  ],
};
