import { once } from 'node:events';
import { createServer, request, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { buffer } from 'node:stream/consumers';

export interface RoundRobin {
  address: string;
  close: () => void;
}

/** A stand-in for the proxy of a team: each request goes to the next server. Where one cannot be reached the next is asked; one that dies in the middle ends the answer. */
export async function roundRobin(addresses: () => string[]): Promise<RoundRobin> {
  let turn = 0;
  const pass = (incoming: IncomingMessage, body: Buffer, answer: ServerResponse, tries: number): void => {
    const all = addresses();
    const target = all[turn++ % all.length];
    if (target === undefined || tries === 0) {
      if (!answer.headersSent) answer.writeHead(502);
      return void answer.end();
    }
    const { hostname, port } = new URL(target);
    const passed = request({
      hostname,
      port,
      method: incoming.method,
      path: incoming.url,
      // the name that it was asked by goes along: a page of another site must be told from one of its own
      headers: incoming.headers,
    });
    let reached = false;
    passed.on('socket', (socket) => {
      if (socket.connecting) socket.once('connect', () => (reached = true));
    });
    passed.on('response', (response) => {
      reached = true;
      answer.writeHead(response.statusCode!, response.headers);
      response.pipe(answer);
      response.on('error', () => answer.destroy());
      response.on('aborted', () => answer.destroy());
    });
    passed.on('error', () => {
      // nothing of the request was taken: another one may have it
      if (!reached && !passed.reusedSocket) return pass(incoming, body, answer, tries - 1);
      answer.destroy();
    });
    answer.on('close', () => passed.destroy());
    passed.end(body);
  };
  // all of it is here before it is passed on: whoever is asked next needs it from its beginning
  const server = createServer((incoming, answer) => {
    buffer(incoming).then(
      (body) => pass(incoming, body, answer, addresses().length),
      () => answer.destroy(),
    );
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () => {
      server.close();
      server.closeAllConnections();
    },
  };
}
