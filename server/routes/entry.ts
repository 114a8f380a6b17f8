import { createHash, timingSafeEqual } from 'node:crypto';
import { mayDo, nameIn, ROUTES, type Role, type RouteName } from '@pace-check/contract';
import express, { type Request, type RequestHandler, type Response, type Router } from 'express';
import { IDLE_DAYS, type Access } from '../services/access';
import type { Author } from '../services/author';
import { Problem } from '../services/problem';
import type { DoorOptions } from './door';
import { entryPage, joinPage } from './entryPages';
import { ENTER_PATH, JOIN_PATH } from './entryPaths';

const COOKIE = 'pace-check';
/** What the program that started this server shows. */
const START_HEADER = 'x-pace-check-start';
/** A browser keeps its cookie as long as the session lives without use, and a day more. */
const COOKIE_MS = (IDLE_DAYS + 1) * 24 * 3600_000;
/** A session that gives itself no name. */
const UNNAMED = 'with passcode';

/** Who asks. */
export interface Asker {
  role: Role;
  /** Their session; null where the server asks nobody who they are. */
  session: { id: string; name: string } | null;
}

/** The machine's own, where nobody else reaches the server, and the program that started it. */
const OWN: Asker = { role: 'reviewer', session: null };

/** Who asks; null where that is not known. */
export const askerOf = (response: Response): Asker | null =>
  (response.locals['asker'] as Asker | undefined) ?? null;

/** Who changes something. */
export const authorOf = (response: Response): Author => {
  const asker = askerOf(response);
  return { mayAll: asker?.role === 'reviewer', session: asker?.session?.id ?? null };
};

/** Finds out who asks, and has who is not known show it: pages lead to where that is done. */
export function entry(access: Access, { closed, startKey, proxies }: DoorOptions): Router {
  const router = express.Router();
  if (!closed) {
    router.use((_request, response, next) => {
      response.locals['asker'] = OWN;
      next();
    });
    return router;
  }
  // a proxy that does not speak TLS would send passcode and cookie over the network as they are
  router.post([ENTER_PATH, JOIN_PATH], (request, response, next) => {
    if (proxies === null || request.secure) return next();
    send(response, 403, entryPage('/', NEEDS_TLS));
  });
  const form = express.urlencoded({ extended: false, limit: '2kb' });
  router.get(ENTER_PATH, (request, response) =>
    send(response, 200, entryPage(backTo(request.query['then']), null)),
  );
  router.post(ENTER_PATH, form, async (request, response) => {
    const { passcode, name, then } = textsOf(request.body);
    const to = backTo(then);
    const token = await orSay(
      response,
      (said) => entryPage(to, said),
      () => access.enter(passcode ?? '', request.ip ?? '', nameIn(name) ?? UNNAMED),
    );
    if (token === undefined) return;
    if (token === null) return send(response, 403, entryPage(to, 'Wrong passcode.'));
    letIn(request, response, token, to);
  });
  router.get(JOIN_PATH, (request, response) =>
    send(response, 200, joinPage(tokenOf(request.query['token']), null)),
  );
  router.post(JOIN_PATH, form, async (request, response) => {
    const { code, token: given } = textsOf(request.body);
    const token = await orSay(
      response,
      (said) => joinPage(null, said),
      () => access.join(code ?? given ?? '', request.ip ?? ''),
    );
    if (token === undefined) return;
    if (token === null)
      return send(
        response,
        403,
        joinPage(null, 'This code is no longer valid: it was used or has expired. Ask for a new one.'),
      );
    letIn(request, response, token, '/');
  });
  router.use(async (request, response, next) => {
    const token = cookieOf(request);
    const own = startKey !== null && same(String(request.headers[START_HEADER] ?? ''), startKey);
    if (own) response.locals['asker'] = OWN;
    // the app's own files hold nothing of anybody's
    else if (token !== null && !PUBLIC_FILES.test(request.path)) {
      const session = await access.who(token);
      if (session)
        response.locals['asker'] = { role: session.role, session: { id: session.id, name: session.name } };
    }
    next();
  });
  router.use((request, response, next) => {
    if (askerOf(response) !== null || PUBLIC_FILES.test(request.path)) return next();
    // each address of the API says itself whom it needs
    if (/^\/api\//.test(request.path)) return next();
    if (request.method === 'GET' && request.accepts('html'))
      return response.redirect(303, `${ENTER_PATH}?then=${encodeURIComponent(request.originalUrl)}`);
    response.status(401).end();
  });
  return router;
}

/** The app's files by names that change with what is in them. */
const PUBLIC_FILES = /^\/(_expo|assets)\//;

/** Refuses who may not what an address is for. @throws Problem 401 for who is not known, 403 for who may less */
export function mayAsk(name: RouteName): RequestHandler {
  const { needs } = ROUTES[name];
  return (_request, response, next) => {
    const asker = askerOf(response);
    if (mayDo(asker?.role ?? null, needs)) return next();
    if (asker === null) throw unknown();
    throw new Problem(403, {
      code: 'not-for-this-role',
      message: `Only ${needs === 'bench' ? 'an assistant or a reviewer' : 'a reviewer'} can do this; you are signed in as ${ROLE_WORDS[asker.role]}.`,
      remedy: 'Nothing was changed. Ask the reviewer to do it, or to give you another role.',
    });
  };
}

const unknown = (): Problem =>
  new Problem(401, {
    code: 'login-needed',
    message: 'You are not signed in.',
    remedy: 'Reload Pace Check and sign in with the passcode or a code from the reviewer.',
  });

const ROLE_WORDS: Record<Role, string> = {
  reader: 'a viewer',
  bench: 'an assistant',
  reviewer: 'a reviewer',
};

/** What was asked of the entry; where it refuses for now, the page says so. @returns undefined where it did */
async function orSay(
  response: Response,
  page: (said: string) => string,
  work: () => Promise<string | null>,
): Promise<string | null | undefined> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    if (error.body.retryAfterS !== undefined) response.set('retry-after', String(error.body.retryAfterS));
    send(response, error.status, page(`${error.body.message} ${error.body.remedy}`));
    return undefined;
  }
}

const NEEDS_TLS =
  'Sign-in is not possible here: the connection to the proxy is not encrypted. Open the address with https; the proxy must send X-Forwarded-Proto.';

/** The cookie goes to this server alone, is read by no script, and behind TLS travels by it alone. */
function letIn(request: Request, response: Response, token: string, to: string): void {
  response.cookie(COOKIE, token, {
    httpOnly: true,
    sameSite: 'strict',
    secure: request.secure,
    path: '/',
    maxAge: COOKIE_MS,
  });
  response.redirect(303, to);
}

/** The browser forgets who it was. */
export const forgetIn = (response: Response): void => {
  response.clearCookie(COOKIE, { httpOnly: true, sameSite: 'strict', path: '/' });
};

function send(response: Response, status: number, html: string): void {
  response.status(status).type('html').set('cache-control', 'no-store').send(html);
}

/** In the same time whatever they hold. */
function same(a: string, b: string): boolean {
  const [one, other] = [a, b].map((text) => createHash('sha256').update(text).digest());
  return timingSafeEqual(one!, other!);
}

function cookieOf({ headers }: Request): string | null {
  return new RegExp(`(?:^|;\\s*)${COOKIE}=([\\w-]{20,100})(?:;|$)`).exec(headers.cookie ?? '')?.[1] ?? null;
}

/** Fields of a form; what is no text is none. */
function textsOf(body: unknown): Record<string, string | undefined> {
  return Object.fromEntries(
    Object.entries((body ?? {}) as Record<string, unknown>).filter(([, value]) => typeof value === 'string'),
  ) as Record<string, string>;
}

const tokenOf = (value: unknown): string | null =>
  typeof value === 'string' && /^[\w-]{20,100}$/.test(value) ? value : null;

/** A page of this server's own, or the first one. */
const backTo = (then: unknown): string =>
  typeof then === 'string' && /^\/(?![/\\])[\w\-./?=&%]*$/.test(then) ? then : '/';
