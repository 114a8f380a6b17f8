import { requestOf, type AnswerOf, type ApiProblem, type Asked, type Route } from '@pace-check/contract';
import { noteAnswer } from '../offline/lastSeen';

/** A request that failed, in words for the person. */
export class ApiFailure extends Error {
  constructor(
    readonly status: number,
    readonly problem: ApiProblem,
    options?: ErrorOptions,
  ) {
    super(inPlainWords(problem), options);
  }

  /** Nobody answered. */
  get offline(): boolean {
    return this.status === 0;
  }
}

/** What is wrong without the name that a field has for programs; of several lines which one it was. */
function inPlainWords({ message, field }: ApiProblem): string {
  const said = field === undefined ? message : message.replace(`The field “${field}”: `, '');
  if (said === message) return message;
  const line = /^entries\.(\d+)\b/.exec(field!);
  return line ? `Line ${Number(line[1]) + 1}: ${said}` : said.charAt(0).toUpperCase() + said.slice(1);
}

const OFFLINE: ApiProblem = {
  code: 'offline',
  message: 'The Pace Check server does not answer.',
  remedy: 'Check that the server is running (npm start) and try again. Your text is still here.',
};

/** Asks the server by the table of its routes. @throws ApiFailure */
export function ask<R extends Route>(
  route: R,
  asked: Asked<R>,
  more: Pick<RequestInit, 'signal'> = {},
): Promise<AnswerOf<R>> {
  const { path, init } = requestOf(route, asked);
  return send(path, { ...init, ...more });
}

/** Sends what is no JSON, and reads the answer. @throws ApiFailure */
export async function send<T>(path: string, init: RequestInit): Promise<T> {
  const response = await answerOf(path, init);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** Fetches a file whole. @throws ApiFailure; DOMException "AbortError" when it was given up */
export const fetchFile = async (path: string, signal: AbortSignal): Promise<Blob> =>
  (await answerOf(path, { signal })).blob();

async function answerOf(path: string, init: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch (error) {
    // a request that was given up says nothing of the server
    if (!init.signal?.aborted) noteAnswer(null);
    throw new ApiFailure(0, OFFLINE, { cause: error });
  }
  noteAnswer(response.headers);
  if (!response.ok) throw failure(response.status, await problemOf(response));
  return response;
}

/** Where the server does not know who asks, the page for it comes; what was typed waits in the browser. */
function failure(status: number, problem: ApiProblem): ApiFailure {
  if (problem.code === 'login-needed')
    globalThis.location?.assign(`/enter?then=${encodeURIComponent(globalThis.location.pathname)}`);
  return new ApiFailure(status, problem);
}

async function problemOf(response: Response): Promise<ApiProblem> {
  return (await response.json().catch(() => null)) ?? unreadable(response.status);
}

const unreadable = (status: number): ApiProblem => ({
  code: 'unreadable',
  message: `The server reported an error (status ${status}) without details.`,
  remedy: 'Try again. If it happens again, check the server’s output.',
});

/** What an upload tells on its way. */
export interface UploadOptions {
  /** Share (0–1) of the bytes that are sent. */
  onSent: (share: number) => void;
  signal: AbortSignal;
}

/**
 * Sends a file as it is. (XMLHttpRequest, because fetch tells nothing of the
 * way up.)
 *
 * @throws ApiFailure; DOMException "AbortError" when it was cancelled
 */
export function upload<T>(path: string, file: Blob, { onSent, signal }: UploadOptions): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', path);
    request.setRequestHeader('X-Pace-Check-Upload', '1');
    request.upload.onprogress = (event) => onSent(event.total > 0 ? event.loaded / event.total : 0);
    request.upload.onload = () => onSent(1);
    request.onerror = () => reject(new ApiFailure(0, OFFLINE));
    request.onabort = () => reject(new DOMException('cancelled', 'AbortError'));
    request.onload = () => {
      let answer: unknown = null;
      try {
        answer = JSON.parse(request.responseText);
      } catch {
        // an answer without JSON is told by its status
      }
      if (request.status >= 200 && request.status < 300) resolve(answer as T);
      else reject(failure(request.status, (answer as ApiProblem | null) ?? unreadable(request.status)));
    };
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}
