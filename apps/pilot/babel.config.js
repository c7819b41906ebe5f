module.exports = (api) => {
  const test = api.env('test');
  return {
    presets: ['babel-preset-expo'],
    // in tests a part that comes when first wanted is required when first wanted
    plugins: test ? ['@babel/plugin-transform-dynamic-import'] : [],
    // and what passes through an index is the thing itself, not a getter that is asked in every step of a run
    assumptions: test ? { constantReexports: true } : {},
  };
};
