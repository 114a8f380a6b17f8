import {
  BODIES,
  QUERIES,
  ROUTES,
  type AnswerOf,
  type BodyOf,
  type ParamsOf,
  type RouteName,
  type Routes,
} from '@pace-check/contract';
import express, { type Request, type Response, type Router } from 'express';
import type * as z from 'zod';
import { ROUTE } from '../services/metrics';
import { notFound } from '../services/problem';
import { mayAsk } from './entry';
import { idOf, parse } from './parse';

/** JSON of a request at most. */
const LARGEST_JSON = '4mb';

/** Body as its schema gives it; where none stands in the table, as it came. */
type CheckedBody<N extends RouteName> = N extends keyof typeof BODIES
  ? z.infer<(typeof BODIES)[N]>
  : BodyOf<Routes[N]>;
type CheckedQuery<N extends RouteName> = N extends keyof typeof QUERIES
  ? z.infer<(typeof QUERIES)[N]>
  : undefined;

export interface Checked<N extends RouteName> {
  params: Record<ParamsOf<Routes[N]['path']>, string>;
  body: CheckedBody<N>;
  query: CheckedQuery<N>;
  request: Request;
  response: Response;
}

/** Answers a route of the table: what came is checked first, by the table's own schemas. */
export function serve<N extends RouteName>(
  api: Router,
  name: N,
  work: (asked: Checked<N>) => Promise<AnswerOf<Routes[N]>>,
): void {
  const { status = 200 } = ROUTES[name] as { status?: number };
  const body = (BODIES as Partial<Record<RouteName, z.ZodType>>)[name];
  on(api, name, body ? [express.json({ limit: LARGEST_JSON })] : [], async (request, response) => {
    const answer = await work({
      params: paramsOf(name, request),
      body: body && parse(body, request.body),
      query: queryOf(name, request),
      request,
      response,
    } as Checked<N>);
    response.status(status);
    if (status === 204) response.end();
    else response.json(answer);
  });
}

/** Answers a route whose body or answer is no JSON: the work itself reads and writes. */
export function serveRaw<N extends RouteName>(
  api: Router,
  name: N,
  work: (asked: Omit<Checked<N>, 'body'>) => Promise<void>,
  ...before: express.RequestHandler[]
): void {
  on(api, name, before, (request, response) =>
    work({
      params: paramsOf(name, request),
      query: queryOf(name, request),
      request,
      response,
    }),
  );
}

/** What the query says, checked where the table has a schema for it. @throws Problem 400 */
function queryOf<N extends RouteName>(name: N, request: Request): CheckedQuery<N> {
  const schema = (QUERIES as Partial<Record<RouteName, z.ZodType>>)[name];
  return (schema && parse(schema, request.query)) as CheckedQuery<N>;
}

function on(
  api: Router,
  name: RouteName,
  before: express.RequestHandler[],
  handler: (request: Request, response: Response) => Promise<void>,
): void {
  const { method, path } = ROUTES[name];
  const verb = method.toLowerCase() as Lowercase<typeof method>;
  api[verb](path, noteRoute(name), mayAsk(name), ...before, handler);
}

/** For the figures of how long answers take. */
const noteRoute =
  (name: RouteName): express.RequestHandler =>
  (_request, response, next) => {
    response.locals[ROUTE] = name;
    next();
  };

/** Parts of the address, each checked for what it stands for. @throws Problem 404 */
function paramsOf<N extends RouteName>(name: N, request: Request): Checked<N>['params'] {
  const of: Record<string, string | readonly string[]> = ROUTES[name].of;
  return Object.fromEntries(
    Object.entries(of).map(([part, what]) => {
      const value = request.params[part];
      if (typeof what === 'string') return [part, idOf(what, value)];
      if (typeof value !== 'string' || !what.includes(value)) throw notFound(`kind of record`);
      return [part, value];
    }),
  ) as Checked<N>['params'];
}
