// Requests to the server. A problem document becomes a ProblemError whose message can be shown as it is.

import type { Problem } from '@drive-keep/api';

export class ProblemError extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

const UNREACHABLE: Problem = {
  type: 'urn:drive-keep:unreachable',
  title: 'No connection',
  status: 0,
  detail: 'Drive Keep does not answer. Is the network there? What you entered is still on the screen.',
};

/** The server takes forms from our own pages alone: a form of another page cannot set a header. */
const FORM_HEADER = { 'x-drive-keep': '1' };

async function request<T>(method: string, path: string, body?: unknown): Promise<T> {
  const form = body instanceof FormData;
  const init: RequestInit = { method, credentials: 'same-origin' };
  if (body !== undefined) {
    init.body = form ? body : JSON.stringify(body);
    init.headers = form ? FORM_HEADER : { 'content-type': 'application/json' };
  }
  const response = await fetch(`/api/${path}`, init).catch(() => undefined);
  if (!response) throw new ProblemError(UNREACHABLE);
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => undefined);
  if (response.ok && answer !== undefined) return answer as T;
  throw new ProblemError((answer as Problem | undefined) ?? UNREACHABLE);
}

export const get = <T>(path: string): Promise<T> => request('GET', path);
export const post = <T>(path: string, body: unknown = {}): Promise<T> => request('POST', path, body);
export const patch = <T>(path: string, body: unknown): Promise<T> => request('PATCH', path, body);
export const put = <T>(path: string, body: unknown): Promise<T> => request('PUT', path, body);
export const remove = <T>(path: string): Promise<T> => request('DELETE', path);
