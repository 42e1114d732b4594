// What comes from a page of another origin is turned away before anything is read of it, signing in too: a browser says where
// a request comes from, and forms cannot send what the API takes.

import type { NextFunction, Request, Response } from 'express';
import { problemOf } from '../problems/problem.ts';

/** Goes with every form of our own pages; another page's form cannot set it. */
export const FORM_HEADER = 'x-drive-keep';

const READING = ['GET', 'HEAD', 'OPTIONS'];

export function ownPagesOnly(request: Request, response: Response, next: NextFunction): void {
  const problem = READING.includes(request.method)
    ? undefined
    : (strangeOrigin(request) ?? strangeKind(request));
  if (!problem) return next();
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

/** `host` is what a trusted proxy was asked for, or the request itself. */
function strangeOrigin({ headers, host }: Request) {
  const site = headers['sec-fetch-site'];
  const elsewhere = typeof site === 'string' && site !== 'same-origin' && site !== 'none';
  if (!elsewhere && (headers.origin === undefined || hostOf(headers.origin) === host)) return undefined;
  const detail =
    'This request comes from a page of another address. Open Drive Keep itself. Nothing was changed.';
  return problemOf(403, 'other-origin', detail);
}

function strangeKind({ headers }: Request) {
  const hasBody = headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0;
  const [kind = ''] = (headers['content-type'] ?? '').split(';');
  const type = kind.trim().toLowerCase();
  if (!hasBody || type === 'application/json') return undefined;
  if (type === 'multipart/form-data' && headers[FORM_HEADER] !== undefined) return undefined;
  const detail = `The API takes JSON, and files as a form with the header ${FORM_HEADER}. Nothing was changed.`;
  return problemOf(415, 'content-type', detail);
}

function hostOf(origin: string): string | undefined {
  try {
    return new URL(origin).host;
  } catch {
    return undefined;
  }
}
