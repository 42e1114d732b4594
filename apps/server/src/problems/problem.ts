// Errors that people see, as RFC 9457 has them. `detail` says what happened and what to do.

import { HttpException } from '@nestjs/common';
import type { Problem } from '@drive-keep/api';

const TITLES: Readonly<Record<number, string>> = {
  400: 'Not understood',
  401: 'Not signed in',
  403: 'Not allowed',
  404: 'Not found',
  409: 'Not possible now',
  413: 'Too large',
  415: 'Wrong kind of content',
  422: 'Not acceptable as it is',
  429: 'Too many attempts',
  500: 'Fault in Drive Keep',
  502: 'No usable answer from the unit',
  503: 'Not now',
};

export class ProblemException extends HttpException {
  constructor(
    status: number,
    type: string,
    detail: string,
    readonly findings?: readonly string[],
  ) {
    super(detail, status);
    this.problem = problemOf(status, type, detail, findings);
  }

  readonly problem: Problem;
}

export function problemOf(
  status: number,
  type: string,
  detail: string,
  findings?: readonly string[],
): Problem {
  const title = TITLES[status] ?? 'Not possible';
  return { type: `urn:drive-keep:${type}`, title, status, detail, ...(findings ? { findings } : {}) };
}

export const notFound = (what: string): ProblemException =>
  new ProblemException(
    404,
    'not-found',
    `${what} does not exist. Check the address, or search for it in the register.`,
  );
