import type { Answer } from '../running-plant.ts';

/** The answer of a request that has to succeed. */
export function must<T>({ status, body }: Answer<T>): T {
  if (status >= 300) throw new Error(`${status}: ${JSON.stringify(body)}`);
  return body;
}
