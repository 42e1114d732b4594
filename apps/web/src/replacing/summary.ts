import { openOf, type ReplacementSheet } from '@drive-keep/core/replace';

/** One sentence for the head of a sheet. */
export function sumOf({ open, behaviour }: ReplacementSheet): string {
  const left = openOf(open);
  const first = left === 0 ? 'Nothing is open' : left === 1 ? 'One thing is open' : `${left} things are open`;
  return `${first}; ${behaviour.same ? 'it does the same' : 'it does not do the same in everything'}`;
}
