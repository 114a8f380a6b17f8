import type { Duplex } from 'node:stream';

/** What is said of requests that Node refuses before they are any: HTTP has a number for each. */
const SAYS: Record<string, [status: string, message: string, remedy: string]> = {
  HPE_HEADER_OVERFLOW: [
    '431 Request Header Fields Too Large',
    'The headers of the request are too long.',
    'Send less in cookies and headers, or a shorter address.',
  ],
  ERR_HTTP_REQUEST_TIMEOUT: ['408 Request Timeout', 'The request took too long.', 'Send it again.'],
};
const OTHERWISE: [string, string, string] = [
  '400 Bad Request',
  'This is not an HTTP request.',
  'Check what sends it.',
];

/** Answers what is no request, in the form of every other answer. */
export function answerBroken(error: NodeJS.ErrnoException, socket: Duplex): void {
  if (!socket.writable || error.code === 'ECONNRESET') return void socket.destroy();
  const [status, message, remedy] = SAYS[error.code ?? ''] ?? OTHERWISE;
  const body = JSON.stringify({ code: 'bad-request', message, remedy });
  socket.end(
    `HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Type: application/json; charset=utf-8\r\nContent-Length: ${Buffer.byteLength(body)}\r\n\r\n${body}`,
  );
}
