import { isLoopback, type DoorOptions } from './routes/door';

/** What the environment says of whom the server lets in. */
export function doorOptions(env: NodeJS.ProcessEnv): DoorOptions {
  const host = env['HOST'] || '127.0.0.1';
  const names = (env['PACE_HOSTS'] ?? '')
    .split(',')
    .map((name) => name.trim())
    .filter((name) => name !== '');
  const proxies = proxiesOf(env['TRUST_PROXY']);
  return {
    host,
    names,
    proxies,
    // behind a proxy, or called by a name of the network, it is reached by others wherever it listens
    closed: !isLoopback(host) || proxies !== null || names.length > 0,
    startKey: env['PACE_START_KEY'] || null,
  };
}

/** TRUST_PROXY: how many proxies, or which (addresses, networks, “loopback”); nothing, 0 or “no” for none. */
function proxiesOf(text = ''): DoorOptions['proxies'] {
  const said = text.trim();
  if (said === '' || said === '0' || said === 'no') return null;
  return /^\d+$/.test(said) ? Number(said) : said;
}

/** Others would reach the server, and nobody set a passcode. */
export class NoPasscode extends Error {
  constructor() {
    super(
      'Other machines could reach the server, but no passcode is set. Set one with “npm run passcode”, then start again.',
    );
  }
}
