const { join } = require('node:path');
const { getDefaultConfig } = require('expo/metro-config');

const noNavigators = join(__dirname, 'bundle/noNavigators.js');

/** Parts of the libraries that no page uses and that the bundler cannot leave out by itself, with what stands in their place. */
const unused = [
  // lists of React Native: the sheets have their own
  [/react-native-web\/dist\/(exports|vendor\/react-native)\/(FlatList|SectionList|VirtualizedList|VirtualizedSectionList)\//, null],
  [/expo-router\/build\/fork\/native-stack\/createNativeStackNavigator\.js$/, noNavigators],
  [/expo-router\/build\/react-navigation\/bottom-tabs\/index\.js$/, noNavigators],
  [/expo-router\/build\/layouts\/(experimental-stack|stack-utils)\/index\.js$/, null],
];

const config = getDefaultConfig(__dirname);
const resolve = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, name, platform) => {
  const found = (resolve ?? context.resolveRequest)(context, name, platform);
  if (platform !== 'web' || found.type !== 'sourceFile') return found;
  const [, instead] = unused.find(([pattern]) => pattern.test(found.filePath)) ?? [null, undefined];
  if (instead === undefined) return found;
  return instead === null ? { type: 'empty' } : { type: 'sourceFile', filePath: instead };
};

module.exports = config;
