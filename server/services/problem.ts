import type { ApiProblem } from '@pace-check/contract';

/** An error that the person on the other side can do something about. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly body: ApiProblem,
  ) {
    super(body.message);
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, {
    code: 'not-found',
    message: `This ${what} does not exist.`,
    remedy: 'It may have been deleted. Go back to the list.',
  });
