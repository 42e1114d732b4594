// What a write does to other parameters, in words. The manual's own reason stands before it.

import { changedBy, type Effect } from '@drive-keep/core/dictionary';

/** Codes that an effect is about. */
export const codesOf = (effect: Effect): readonly string[] =>
  effect.kind === 'blocks' || effect.kind === 'idles' ? effect.codes : changedBy(effect);

export function showEffect(effect: Effect): string {
  const codes = codesOf(effect).join(', ');
  switch (effect.kind) {
    case 'puts-back':
      return `Puts back to default: ${codes}.`;
    case 'sets':
      return `Sets: ${effect.values.map(({ code, raw }) => `${code} to ${raw}`).join(', ')}.`;
    case 'chooses':
      return 'Decides defaults and ranges of others.';
    case 'narrows':
      return `Is the ${effect.bound} value of: ${codes}.`;
    case 'blocks':
      return `At ${effect.is?.join(' or ')}, these cannot be changed: ${codes}.`;
    case 'idles':
      return `At ${effect.is?.join(' or ')}, these do nothing: ${codes}.`;
  }
}
