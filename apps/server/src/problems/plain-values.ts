// What no text of ours has and no database takes: NUL characters and halves of characters. And nothing is so deep that looking
// at it would cost the server its stack, and no field stands in the place of what every object can do. Refused before anything
// else looks at a request.

import { Injectable, type ArgumentMetadata, type PipeTransform } from '@nestjs/common';
import { ProblemException } from './problem.ts';

/** No request has objects within objects deeper than this. */
const DEEPEST = 32;
/** A field of these names takes from an object what code counts on: to be told as a text or a number. */
const OF_EVERY_OBJECT = new Set(['__proto__', 'constructor', 'toString', 'valueOf']);

@Injectable()
export class PlainValues implements PipeTransform {
  transform(value: unknown, { type }: ArgumentMetadata): unknown {
    if (type === 'custom') return value;
    const trouble = troubleIn(value);
    if (trouble === undefined) return value;
    throw new ProblemException(
      400,
      'bad-request',
      `The request cannot be taken: ${trouble}. Nothing was changed.`,
    );
  }
}

function troubleIn(whole: unknown): string | undefined {
  let level: unknown[] = [whole];
  for (let depth = 0; level.length > 0; depth += 1) {
    if (depth > DEEPEST) return 'it is nested too deep';
    const next: unknown[] = [];
    for (const each of level) {
      if (typeof each === 'string' && !isPlain(each)) return 'a text has characters that are none';
      if (typeof each !== 'object' || each === null || Buffer.isBuffer(each)) continue;
      for (const [key, inner] of Object.entries(each)) {
        if (OF_EVERY_OBJECT.has(key)) return `no field is called ${key}`;
        next.push(key, inner);
      }
    }
    level = next;
  }
  return undefined;
}

/** Without NUL, and without half of a pair of surrogates. */
export const isPlain = (text: string): boolean => !text.includes('\u0000') && text.isWellFormed();
