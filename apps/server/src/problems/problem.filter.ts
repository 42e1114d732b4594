// Turns every error into a problem document. What is our own fault is logged in full and told in one plain sentence.

import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import type { Problem } from '@drive-keep/api';
import type { Response } from 'express';
import { problemOf, ProblemException } from './problem.ts';

@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const problem = this.toProblem(error);
    if (response.headersSent) return void response.end();
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  }

  private toProblem(error: unknown): Problem {
    if (error instanceof ProblemException) return error.problem;
    const status = statusOf(error);
    if (status === 413) {
      return problemOf(
        413,
        'too-large',
        'The file or request is too large: at most 5 MB are taken at once. Nothing was changed.',
      );
    }
    if (status === 404) return problemOf(404, 'not-found', 'There is nothing at this address.');
    if (status !== undefined && status < 500) return problemOf(status, 'bad-request', messageOf(error));
    if (isDatabaseGone(error)) {
      const detail =
        'The database does not answer. Drive Keep waits for it and goes on by itself. Nothing was changed; try again in a moment.';
      return problemOf(503, 'database-gone', detail);
    }
    this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    const detail =
      'Something went wrong inside Drive Keep. Nothing was changed. Try again; if it comes back, report the time.';
    return problemOf(500, 'internal', detail);
  }
}

function statusOf(error: unknown): number | undefined {
  if (error instanceof HttpException) return error.getStatus();
  const { status, statusCode } = (error ?? {}) as { status?: unknown; statusCode?: unknown };
  const known = status ?? statusCode;
  return typeof known === 'number' ? known : undefined;
}

/** Classes 08 and 57P of SQLSTATE, and what the socket says (node-postgres). */
function isDatabaseGone(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code = '' } = error as { code?: string };
  if (/^(08|57P)/.test(code) || ['ECONNREFUSED', 'ECONNRESET', 'EPIPE'].includes(code)) return true;
  return /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/.test(
    error.message,
  );
}

const messageOf = (error: unknown): string =>
  error instanceof SyntaxError
    ? 'The request is not JSON. Nothing was changed.'
    : `The request cannot be understood: ${error instanceof Error ? error.message : String(error)}.`;
