/** A request as the stand-in heard it. */
export interface Heard {
  method: string;
  path: string;
  /** JSON that was sent. */
  body: any; // eslint-disable-line @typescript-eslint/no-explicit-any -- tests look at it field by field
}
/** What is answered: 200 where no status is said; null where nobody answers. */
export type Answer = { status?: number; body?: unknown } | null;

/**
 * Stands in for the server: every request of the page goes to `answer`.
 *
 * @returns what was asked, in its order
 */
export function standInServer(answer: (heard: Heard) => Answer): Heard[] {
  const all: Heard[] = [];
  global.fetch = jest.fn((path: string, init: RequestInit = {}) => {
    const heard: Heard = {
      method: init.method ?? 'GET',
      path,
      body: typeof init.body === 'string' ? JSON.parse(init.body) : undefined,
    };
    all.push(heard);
    const said = answer(heard);
    if (said === null) return Promise.reject(new TypeError('Failed to fetch'));
    const status = said.status ?? 200;
    return Promise.resolve({
      ok: status < 400,
      status,
      headers: new Headers(),
      // a text is what no JSON comes as
      json: () =>
        Promise.resolve().then(() => (typeof said.body === 'string' ? JSON.parse(said.body) : said.body)),
    });
  }) as never;
  return all;
}
