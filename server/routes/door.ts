import type { IncomingHttpHeaders } from 'node:http';
import { isIP } from 'node:net';
import type { Request, RequestHandler } from 'express';
import helmet from 'helmet';
import { Problem } from '../services/problem';

/** Whom the server lets in. */
export interface DoorOptions {
  /** What it listens on. */
  host: string;
  /** Further names that it is called by, for instance behind a proxy. */
  names: string[];
  /** Others than this machine reach it: it asks who they are. */
  closed: boolean;
  /** Which proxies stand before it, as express's “trust proxy” takes it; null for none. */
  proxies: string | number | null;
  /** What the program that started it may show instead of a session; null where none is to. */
  startKey: string | null;
}

/** A server that this machine alone reaches. */
export const LOOPBACK: DoorOptions = {
  host: '127.0.0.1',
  names: [],
  closed: false,
  proxies: null,
  startKey: null,
};

/** A form of another site cannot send a header of its own. */
export const UPLOAD_HEADER = 'x-pace-check-upload';

export const isLoopback = (host: string): boolean =>
  host === 'localhost' || host === '::1' || host === '[::1]' || (isIP(host) === 4 && host.startsWith('127.'));

/**
 * What every request passes first. The server answers to its own names alone
 * (a name of somebody else's that was made to lead here is refused), and nothing
 * is changed on the word of another site's page. Who asks is the entry's matter.
 */
export function door({ host, names, proxies, closed }: DoorOptions): RequestHandler[] {
  const known = new Set(['localhost', host, ...names].map((name) => name.toLowerCase()));
  const open = !isLoopback(host);
  const isOurs = (name: string): boolean =>
    known.has(name) || isLoopback(name) || (open && isIP(name.replace(/^\[|\]$/g, '')) > 0);
  return [
    headers(proxies !== null),
    (request, _response, next) => {
      const name = nameOf(request.headers.host);
      if (name === null || !isOurs(name))
        throw new Problem(421, {
          code: 'foreign-host',
          message: `This server does not answer to the name “${request.headers.host ?? ''}”.`,
          remedy: 'Open Pace Check at its own address, or add this name to PACE_HOSTS and restart.',
        });
      next();
    },
    ({ headers: sent }, _response, next) => {
      // a proxy on this machine brings in the world, as if it were this machine
      if (!closed && cameByProxy(sent))
        throw new Problem(403, {
          code: 'unknown-proxy',
          message:
            'The request came through a proxy, but the server accepts requests from its own machine only.',
          remedy: 'Start it with TRUST_PROXY and set a passcode; see docs/operations.md.',
        });
      next();
    },
    (request, _response, next) => {
      if (!/^(GET|HEAD|OPTIONS)$/.test(request.method) && comesFromElsewhere(request))
        throw new Problem(403, {
          code: 'foreign-page',
          message: 'The request came from another website.',
          remedy: 'Do this in Pace Check itself.',
        });
      next();
    },
  ];
}

/** What proxies add of themselves, and of whom they speak for. */
const FORWARDED =
  /^(x-forwarded(-.+)?|forwarded|via|x-real-ip|x-client-ip|x-cluster-client-ip|true-client-ip|.+-connecting-ip)$/;

/** Whether somebody else's request was handed on. */
export const cameByProxy = (headers: IncomingHttpHeaders): boolean =>
  Object.keys(headers).some((name) => FORWARDED.test(name));

/** Browsers that came by TLS come back by it for so long, s. */
const HSTS_S = 180 * 24 * 3600;

/** Nothing runs in the page but the app's own files, and no other page may hold it in a frame. */
function headers(behindProxy: boolean): RequestHandler {
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
    // plain http in the local network is a usual place for it; behind a proxy browsers heed it over TLS alone
    strictTransportSecurity: behindProxy ? { maxAge: HSTS_S, includeSubDomains: false } : false,
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

/** Addresses that take a file. */
const UPLOADS = ['/imports', '/kit/file', '/everything'];

/** A page of another site can have a browser fetch what is large, though it may not read it: such an address is asked by our own page, or with a header of one's own. */
export const ownPageOnly: RequestHandler = ({ headers: sent }, _response, next) => {
  const site = sent['sec-fetch-site'];
  if (site === 'same-origin' || site === 'none' || sent[UPLOAD_HEADER] !== undefined) return next();
  throw new Problem(403, {
    code: 'foreign-page',
    message: 'This is asked for by Pace Check’s own page.',
    remedy: 'Send the header “X-Pace-Check-Upload: 1” with it.',
  });
};

/** What is sent must be what it is taken for: a plain form of another site can send neither JSON nor a header of its own. */
export function bodyDoor(): RequestHandler {
  return (request, _response, next) => {
    const hasBody =
      request.headers['transfer-encoding'] !== undefined ||
      Number(request.headers['content-length'] ?? 0) > 0;
    if (/^(GET|HEAD|OPTIONS)$/.test(request.method)) return next();
    // a source comes with its key
    if (/^\/live(\/|$)/.test(request.path)) return next();
    if (UPLOADS.includes(request.path)) {
      if (request.headers[UPLOAD_HEADER] === undefined)
        throw new Problem(403, {
          code: 'upload-header',
          message: 'An upload needs the header “X-Pace-Check-Upload: 1”.',
          remedy: 'See docs/formats.md on how to send a file.',
        });
      return next();
    }
    if (hasBody && !request.is('application/json'))
      throw new Problem(415, {
        code: 'not-json',
        message: 'The request has no header “Content-Type: application/json”.',
        remedy: 'Send JSON with this header.',
      });
    next();
  };
}
