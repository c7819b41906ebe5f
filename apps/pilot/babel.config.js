module.exports = (api) => {
  // in tests a part that comes when first wanted is required when first wanted
  const plugins = api.env('test') ? ['@babel/plugin-transform-dynamic-import'] : [];
  return { presets: ['babel-preset-expo'], plugins };
};
