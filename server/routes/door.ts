import { createHash, randomInt, timingSafeEqual } from 'node:crypto';
import { isIP } from 'node:net';
import express, { type Request, type RequestHandler, type Response, type Router } from 'express';
import helmet from 'helmet';
import { Problem } from '../services/problem';

/** Whom the server lets in. */
export interface DoorOptions {
  /** What it listens on. */
  host: string;
  /** Further names that it is called by, for instance behind a proxy. */
  names: string[];
  /** What it asks for where others than this machine may reach it; null on loopback. */
  code: string | null;
}

/** A server that this machine alone reaches. */
export const LOOPBACK: DoorOptions = { host: '127.0.0.1', names: [], code: null };

/** Where the browser asks for the code. */
const CODE_PATH = '/code';
const COOKIE = 'pace-check';
/** A form of another site cannot send a header of its own. */
export const UPLOAD_HEADER = 'x-pace-check-upload';
/** Programs send the code in a header. */
const CODE_HEADER = 'x-pace-check-code';
/** Letters and digits that are not taken for one another. */
const CODE_LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const CODE_LENGTH = 10;
/** A wrong code is answered so late, one after the other: guessing takes longer than the world. */
const WRONG_CODE_MS = 1000;

export const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || host === '[::1]' || (isIP(host) === 4 && host.startsWith('127.'));

/** A code to be typed from one screen into another. */
export function newCode(): string {
  const letters = Array.from(
    { length: CODE_LENGTH },
    () => CODE_LETTERS[randomInt(CODE_LETTERS.length)],
  ).join('');
  return `${letters.slice(0, CODE_LENGTH / 2)}-${letters.slice(CODE_LENGTH / 2)}`;
}

/** What a request passes: everybody, and those who want more than what was published for all. */
export interface Doors {
  outside: RequestHandler[];
  inside: RequestHandler;
}

/**
 * What every request passes first. The server answers to its own names alone
 * (a name of somebody else's that was made to lead here is refused), nothing is
 * changed on the word of another site's page, and where others than this
 * machine reach it, it asks for its code.
 */
export function door({ host, names, code }: DoorOptions): Doors {
  const known = new Set(['localhost', host, ...names].map((name) => name.toLowerCase()));
  const open = !isLoopback(host);
  const isOurs = (name: string): boolean =>
    known.has(name) || isLoopback(name) || (open && isIP(name.replace(/^\[|\]$/g, '')) > 0);
  const outside: RequestHandler[] = [
    headers(),
    (request, _response, next) => {
      const name = nameOf(request.headers.host);
      if (name === null || !isOurs(name))
        throw new Problem(421, {
          code: 'foreign-host',
          message: `This server is not “${request.headers.host ?? ''}”.`,
          remedy: 'Open it by its own address, or name this one in PACE_HOSTS when it is started.',
        });
      next();
    },
    (request, _response, next) => {
      if (!/^(GET|HEAD|OPTIONS)$/.test(request.method) && comesFromElsewhere(request))
        throw new Problem(403, {
          code: 'foreign-page',
          message: 'A page of another site asked for this.',
          remedy: 'Do it in Pace Check itself.',
        });
      next();
    },
  ];
  return { outside, inside: code === null ? (_request, _response, next) => next() : codeDoor(code) };
}

/** Nothing runs in the page but the app's own files, and no other page may hold it in a frame. */
function headers(): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        // styles are written into the page by the interface library
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'", 'data:'],
        workerSrc: ["'self'", 'blob:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    frameguard: { action: 'deny' },
    referrerPolicy: { policy: 'same-origin' },
    // plain http in the local network is a usual place for it
    strictTransportSecurity: false,
    crossOriginOpenerPolicy: false,
    originAgentCluster: false,
  });
}

/** The host's name without its port; null where it is none. */
function nameOf(host: string | undefined): string | null {
  const match = /^(\[[0-9a-f:.]+\]|[^:\s/@]+)(?::\d{1,5})?$/i.exec(host ?? '');
  return match ? match[1]!.toLowerCase() : null;
}

function comesFromElsewhere({ headers }: Request): boolean {
  const site = headers['sec-fetch-site'];
  if (site !== undefined && site !== 'same-origin' && site !== 'none') return true;
  if (headers.origin === undefined) return false;
  try {
    return new URL(headers.origin).host !== headers.host?.toLowerCase();
  } catch {
    return true;
  }
}

/** What is sent must be what it is taken for: a plain form of another site can send neither JSON nor a header of its own. */
export function bodyDoor(): RequestHandler {
  return (request, _response, next) => {
    const hasBody =
      request.headers['transfer-encoding'] !== undefined ||
      Number(request.headers['content-length'] ?? 0) > 0;
    if (/^(GET|HEAD|OPTIONS)$/.test(request.method)) return next();
    // a source comes with its key
    if (/^\/live(\/|$)/.test(request.path)) return next();
    if (request.path === '/imports' || request.path === '/kit/file') {
      if (request.headers[UPLOAD_HEADER] === undefined)
        throw new Problem(403, {
          code: 'upload-header',
          message: 'An upload needs the header “X-Pace-Check-Upload: 1”.',
          remedy: 'docs/formats.md shows how a file is sent.',
        });
      return next();
    }
    if (hasBody && !request.is('application/json'))
      throw new Problem(415, {
        code: 'not-json',
        message: 'The request is not sent as “Content-Type: application/json”.',
        remedy: 'Send JSON, and say so.',
      });
    next();
  };
}

/** Lets in who has shown the code, sources with their keys, and who only asks whether anybody is here. */
function codeDoor(code: string): Router {
  const router = express.Router();
  const pass = createHash('sha256').update(`pace-check ${code}`).digest('hex');
  let turn: Promise<unknown> = Promise.resolve();
  const isRight = async (given: string): Promise<boolean> => {
    if (same(plain(given), plain(code))) return true;
    // one wrong code at a time
    await (turn = turn.then(() => new Promise((resolve) => setTimeout(resolve, WRONG_CODE_MS))));
    return false;
  };
  router.get(
    CODE_PATH,
    (request, response) => void page(response, 200, backTo(request.query['then']), false),
  );
  router.post(CODE_PATH, express.urlencoded({ extended: false, limit: '2kb' }), async (request, response) => {
    const { code: given, then } = (request.body ?? {}) as Record<string, unknown>;
    const to = backTo(then);
    if (!(await isRight(typeof given === 'string' ? given : ''))) return page(response, 403, to, true);
    response.cookie(COOKIE, pass, { httpOnly: true, sameSite: 'strict', path: '/' });
    response.redirect(303, to);
  });
  router.use((request, response, next) => {
    // the app's own files hold nothing of anybody's
    if (/^\/(_expo|assets)\//.test(request.path)) return next();
    if (request.path === '/api/health' || /^\/api\/live(\/|$)/.test(request.path)) return next();
    const header = request.headers[CODE_HEADER];
    if (same(cookieOf(request), pass) || (typeof header === 'string' && same(plain(header), plain(code))))
      return next();
    if (request.path.startsWith('/api/'))
      throw new Problem(401, {
        code: 'code-needed',
        message: 'The server asks for its code.',
        remedy: 'Open Pace Check’s page anew and type the code that the server printed when it started.',
      });
    if (request.method === 'GET' && request.accepts('html'))
      return response.redirect(303, `${CODE_PATH}?then=${encodeURIComponent(request.originalUrl)}`);
    response.status(401).end();
  });
  return router;
}

const plain = (code: string): string => code.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** In the same time whatever they hold. */
function same(a: string, b: string): boolean {
  const [one, other] = [a, b].map((text) => createHash('sha256').update(text).digest());
  return timingSafeEqual(one!, other!);
}

function cookieOf({ headers }: Request): string {
  return new RegExp(`(?:^|;\\s*)${COOKIE}=([0-9a-f]{64})(?:;|$)`).exec(headers.cookie ?? '')?.[1] ?? '';
}

/** A page of this server's own, or the first one. */
const backTo = (then: unknown): string =>
  typeof then === 'string' && /^\/(?![/\\])[\w\-./?=&%]*$/.test(then) ? then : '/';

const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** The page that asks for the code: plain, so that it needs no file of the app. */
function page(response: Response, status: number, then: string, wrong: boolean): void {
  response.status(status).type('html').set('cache-control', 'no-store').send(`<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Pace Check: the code</title>
<style>
:root{color-scheme:light dark;--paper:#eef1f3;--ink:#182026;--action:#a8430a;--sheet:#fff;--line:#6b7780}
@media(prefers-color-scheme:dark){:root{--paper:#14191d;--ink:#e8edf0;--action:#ffab70;--sheet:#1d2429;--line:#8a969e}}
body{margin:0;background:var(--paper);color:var(--ink);font:18px/1.5 system-ui,sans-serif}
main{max-width:24rem;margin:0 auto;padding:3rem 1rem}
h1{font-size:1.6rem;margin:0 0 .5rem}
input,button{font:inherit;width:100%;min-height:52px;box-sizing:border-box;border-radius:6px;margin-top:.75rem}
input{background:var(--sheet);color:var(--ink);border:1px solid var(--line);padding:0 .75rem;letter-spacing:.1em;text-transform:uppercase}
button{background:var(--action);color:var(--sheet);border:0;font-weight:600}
@media(prefers-color-scheme:dark){button{color:#14191d}}
[role=alert]{color:var(--action);font-weight:600}
</style></head><body><main>
<h1>Pace Check</h1>
<form method="post" action="${CODE_PATH}">
<label for="code">Type the code that the server printed when it was started.</label>
<input id="code" name="code" autocomplete="off" autocapitalize="characters" spellcheck="false" required autofocus>
<input type="hidden" name="then" value="${escaped(then)}">
${wrong ? '<p role="alert">That is not the code. It stands in the window in which Pace Check was started.</p>' : ''}
<button>Open</button>
</form></main></body></html>`);
}
