import { isIP } from 'node:net';
import type pg from 'pg';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { Problem } from './problem';

/** Wrong tries are forgiven after so long, s. */
const FORGIVEN_AFTER_S = 15 * 60;
/** Wrong tries of one address. */
const MOST_OF_ONE = 10;
/** Wrong tries of all together: many who guess from many places gain nothing by it. */
const MOST_OF_ALL = 100;
/** Of an IPv6 address so many groups name a network: one household has all the rest. */
const NETWORK_GROUPS = 4;

/**
 * Wrong tries at the door, counted in the database: a restart forgets none,
 * and every server knows of those at the others.
 */
export class Tries {
  private readonly ofOne: RateLimiterPostgres;
  private readonly ofAll: RateLimiterPostgres;

  constructor(pool: pg.Pool) {
    const limiter = (keyPrefix: string, points: number): RateLimiterPostgres =>
      new RateLimiterPostgres({
        storeClient: pool,
        storeType: 'pool',
        tableName: 'tries',
        tableCreated: true,
        // spent ones go when a server starts
        clearExpiredByTimeout: false,
        keyPrefix,
        points,
        duration: FORGIVEN_AFTER_S,
      });
    this.ofOne = limiter('one', MOST_OF_ONE);
    this.ofAll = limiter('all', MOST_OF_ALL);
  }

  /**
   * Tries what is `what`: counted before it is looked at, so that many at once
   * are as many tries, and given back where it was right.
   *
   * @param what keeps the passcode's tries and those of codes apart
   * @param address whose try it is
   * @throws Problem 429 while there were too many
   */
  async attempt<T>(what: string, address: string, work: () => Promise<T | null>): Promise<T | null> {
    const one = `${what} ${networkOf(address)}`;
    await spend(this.ofOne, one);
    await spend(this.ofAll, what);
    const result = await work();
    if (result !== null) {
      await this.ofOne.delete(one);
      await this.ofAll.reward(what);
    }
    return result;
  }
}

async function spend(limiter: RateLimiterPostgres, key: string): Promise<void> {
  try {
    await limiter.consume(key);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    const minutes = Math.max(1, Math.ceil(error.msBeforeNext / 60_000));
    throw new Problem(429, {
      code: 'too-many-tries',
      message: 'Too many wrong attempts.',
      remedy: `Try again in ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}. Devices already signed in are not affected.`,
      retryAfterS: Math.ceil(error.msBeforeNext / 1000),
    });
  }
}

/** An IPv4 address, or the network of an IPv6 one. */
function networkOf(address: string): string {
  const plain = address.replace(/^::ffff:/, '');
  if (isIP(plain) !== 6) return plain;
  const [head = '', tail] = plain.split('%')[0]!.split('::');
  const groups = head === '' ? [] : head.split(':');
  if (tail !== undefined) {
    const behind = tail === '' ? [] : tail.split(':');
    while (groups.length + behind.length < 8) groups.push('0');
    groups.push(...behind);
  }
  return groups.slice(0, NETWORK_GROUPS).join(':');
}
