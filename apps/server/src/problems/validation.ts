// Bodies and queries are checked against their DTOs; unknown fields are refused, so that a misspelt one is noticed.

import { ValidationPipe, type ValidationError } from '@nestjs/common';
import { ProblemException } from './problem.ts';

export const validation = (): ValidationPipe =>
  new ValidationPipe({
    whitelist: true,
    forbidNonWhitelisted: true,
    transform: true,
    exceptionFactory: (errors) => {
      const findings = errors.flatMap((error) => describe(error));
      return new ProblemException(
        400,
        'bad-request',
        `The request cannot be taken: ${findings.join('; ')}.`,
        findings,
      );
    },
  });

function describe(error: ValidationError, path = ''): string[] {
  const at = path === '' ? error.property : `${path}.${error.property}`;
  const own = Object.values(error.constraints ?? {}).map((text) => text.replace(error.property, at));
  return [...own, ...(error.children ?? []).flatMap((child) => describe(child, at))];
}
