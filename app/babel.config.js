const { plugin } = require('./barrels');

module.exports = (api) => {
  const test = api.env('test');
  return { presets: ['babel-preset-expo'], plugins: test ? [] : [plugin] };
};
