const barrels = require('./barrels');

module.exports = (api) => {
  // files that were made with other lists are made anew
  api.cache.using(() => barrels.version);
  return { presets: ['babel-preset-expo'], plugins: [barrels.plugin] };
};
