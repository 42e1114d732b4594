// Why a line of a plan cannot be written, in words.

import { findParameter, refusalSaid, type Dictionary } from '../dictionary/index.ts';
import { describe, said, type Said } from '../findings/index.ts';
import type { Unreachable } from './write-plan.ts';

/** With the code of the parameter and what to do instead. */
export const describeUnreachable = (unreachable: Unreachable, dictionary: Dictionary): string =>
  describe(unreachableSaid(unreachable, dictionary));

function unreachableSaid({ code, cause }: Unreachable, dictionary: Dictionary): Said {
  switch (cause.code) {
    case 'unknown-code':
      return said('no-parameter', { code, model: dictionary.name });
    case 'locked':
    case 'blocked':
      return said(cause.code, { code, by: cause.by });
    case 'read-only':
    case 'no-register':
    case 'nothing-to-write':
    case 'trigger':
    case 'own-address':
    case 'circle':
      return said(cause.code, { code });
    default:
      return said('cannot-hold', { code, why: refusalSaid(findParameter(dictionary, code), cause) });
  }
}
