const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);

// `npm run dev`: what the app asks its own address of /api goes on to the server beside it
const server = process.env.PACE_DEV_SERVER;
if (server) {
  const { createProxyMiddleware } = require('http-proxy-middleware');
  const toServer = createProxyMiddleware({ target: server, pathFilter: ['/api', '/code'] });
  config.server.enhanceMiddleware = (metro) => (request, response, next) =>
    toServer(request, response, () => metro(request, response, next));
}

module.exports = config;
