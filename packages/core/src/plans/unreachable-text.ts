// Why a line cannot be written, in words.

import { describeRefusal, findParameter, type Dictionary } from '../dictionary/index.ts';
import type { Unreachable } from './write-plan.ts';

export function describeUnreachable({ code, cause }: Unreachable, dictionary: Dictionary): string {
  switch (cause.code) {
    case 'unknown-code':
      return `${code} is not a parameter of ${dictionary.name}.`;
    case 'read-only':
      return `${code} can only be read.`;
    case 'no-register':
      return `${code} cannot be written over the line; set it at the keypad.`;
    case 'nothing-to-write':
      return `${code} has no value on the wanted side.`;
    case 'trigger':
      return `${code} starts a reset when it is written; it is no setting. Plan a reset instead.`;
    case 'own-address':
      return `${code} is the address by which this unit is reached; set it at the keypad and change it in the register.`;
    case 'locked':
      return `${code} is locked by ${cause.by}.`;
    case 'blocked':
      return `${code} cannot be written while ${cause.by} holds the value that is wanted of it.`;
    case 'circle':
      return `${code} is put back by another write of this plan each time; set it at the keypad.`;
    default:
      return `${code}: ${describeRefusal(findParameter(dictionary, code), cause)}`;
  }
}
