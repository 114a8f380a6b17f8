import { networkInterfaces } from 'node:os';
import type { Router } from 'express';
import type { Access } from '../services/access';
import type { DoorOptions } from './door';
import { askerOf, forgetIn } from './entry';
import { serve } from './serve';

export interface AccessParts {
  access: Access;
  door: DoorOptions;
}

/** Who asks, who is in, and letting one more in. */
export function accessRoutes(api: Router, { access, door: { closed, host } }: AccessParts): void {
  serve(api, 'me', async ({ response }) => {
    const { role, session } = askerOf(response)!;
    return { role, name: session?.name ?? null, closed };
  });
  serve(api, 'leave', async ({ response }) => {
    const { session } = askerOf(response)!;
    if (session) await access.revoke(session.id);
    forgetIn(response);
  });
  serve(api, 'sessions', async ({ request, response }) => ({
    closed,
    addresses: closed ? addressesOf(host, request.socket.localPort ?? 0) : [],
    sessions: await access.sessions(askerOf(response)!.session?.id ?? null),
  }));
  serve(api, 'revokeSession', ({ params }) => access.revoke(params.id));
  serve(api, 'newJoinCode', ({ body }) => access.invite(body));
}

/** Where others reach this machine: an address that stands for all of its own is none to be typed. */
function addressesOf(host: string, port: number): string[] {
  if (host !== '0.0.0.0' && host !== '::')
    return [`http://${host.includes(':') ? `[${host}]` : host}:${port}`];
  return Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .filter(({ family, internal }) => family === 'IPv4' && !internal)
    .map(({ address }) => `http://${address}:${port}`);
}
