const preset = { ...require('jest-expo/web/jest-preset') };
// for the whole run, not for one of its projects
delete preset.watchPlugins;

/** Components in a DOM, as react-native-web draws them. */
module.exports = {
  ...preset,
  displayName: 'pilot',
  testMatch: ['<rootDir>/test/**/*.test.{ts,tsx}'],
  setupFilesAfterEnv: [...(preset.setupFilesAfterEnv ?? []), '<rootDir>/test/limit.js'],
  setupFiles: [...(preset.setupFiles ?? []), '<rootDir>/test/setup.js'],
  moduleNameMapper: { '^react-native$': 'react-native-web', ...preset.moduleNameMapper },
  transform: { ...preset.transform, '\\.mjs$': preset.transform['\\.[jt]sx?$'] },
  transformIgnorePatterns: [
    '/node_modules/(?!((jest-)?react-native|@react-native(-community)?|expo(nent)?|@expo(nent)?/.*|@expo-google-fonts/.*|react-navigation|@react-navigation/.*|@tamagui/.*|tamagui|react-native-svg|d3-.*|internmap|ml-.*|is-any-array))',
  ],
};
