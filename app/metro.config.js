const { getDefaultConfig } = require('expo/metro-config');

const barrels = require('./barrels');

const config = getDefaultConfig(__dirname);
config.cacheVersion = barrels.version;
config.resolver.assetExts.push('woff2');

/** The interface library can show icons of any family; the app draws its own, and the tables of those are half a megabyte. */
const OTHER_ICONS = /^(@expo\/vector-icons|@?react-native-vector-icons)\//;
/** The validator’s messages in forty languages; the app writes its own. */
const OTHER_LANGUAGES = /\/locales\/index\.js$/;
const resolve = config.resolver.resolveRequest;
config.resolver.resolveRequest = (context, name, platform) =>
  OTHER_ICONS.test(name) || (OTHER_LANGUAGES.test(name) && /[\\/]zod[\\/]/.test(context.originModulePath))
    ? { type: 'empty' }
    : (resolve ?? context.resolveRequest)(context, name, platform);

// `npm run dev`: what the app asks its own address of /api goes on to the server beside it
const server = process.env.PACE_DEV_SERVER;
if (server) {
  const { createProxyMiddleware } = require('http-proxy-middleware');
  const toServer = createProxyMiddleware({ target: server, pathFilter: ['/api', '/code'] });
  config.server.enhanceMiddleware = (metro) => (request, response, next) =>
    toServer(request, response, () => metro(request, response, next));
}

module.exports = config;
