// In place of the router's stack and tab navigators, which no page has: routes stand in a slot. The error page asks how high a tab bar is.
const { createContext } = require('react');

const none = () => ({ Navigator: () => null, Screen: () => null });

module.exports = {
  createNativeStackNavigator: none,
  createBottomTabNavigator: none,
  BottomTabBarHeightContext: createContext(undefined),
};
