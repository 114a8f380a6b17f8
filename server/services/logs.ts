import { AsyncLocalStorage } from 'node:async_hooks';
import { randomUUID } from 'node:crypto';
import type { RequestHandler } from 'express';
import pino from 'pino';
import pinoHttp from 'pino-http';

/**
 * What the server says of itself: in words on the terminal, or with
 * PACE_LOG=json as one line of JSON for each request and each trouble. No
 * headers, no queries, no bodies: so no keys, no codes and no names.
 */
const logger =
  process.env['PACE_LOG'] === 'json'
    ? pino({ base: { pid: process.pid }, timestamp: pino.stdTimeFunctions.isoTime })
    : null;

/** The request that is being answered. */
const answering = new AsyncLocalStorage<string>();

/** Tells of trouble that is not told to whoever asked. */
export function report(message: string, error?: unknown): void {
  const request = answering.getStore();
  if (logger) logger.error({ ...(request === undefined ? {} : { request }), err: error }, message);
  else if (error === undefined) console.error(message);
  else console.error(message, error);
}

const ID_HEADER = 'x-request-id';
/** An id that a proxy gives is taken over, where it is one. */
const ID = /^[\w-]{8,64}$/;

/** Gives each request an id, which its answer bears, and notes each answer. */
export function requestLog(): RequestHandler {
  const note = logger
    ? pinoHttp({
        logger,
        genReqId: (_request, response) => String(response.getHeader(ID_HEADER)),
        serializers: {
          req: ({ id, method, url }: { id: string; method: string; url: string }) => ({
            id,
            method,
            path: url.split('?')[0],
          }),
          res: ({ statusCode }: { statusCode: number }) => ({ status: statusCode }),
        },
      })
    : null;
  return (request, response, next) => {
    const given = request.headers[ID_HEADER];
    const id = typeof given === 'string' && ID.test(given) ? given : randomUUID();
    response.setHeader(ID_HEADER, id);
    note?.(request, response);
    answering.run(id, next);
  };
}
