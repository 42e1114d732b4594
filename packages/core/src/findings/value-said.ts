// Why a text is no value of a parameter.

import { assertNever, type ValueFault } from '../values/index.ts';
import { said, type Said } from './finding.ts';

/** Facts are quoted as they were typed. */
export function valueSaid(fault: ValueFault): Said {
  switch (fault.code) {
    case 'not-a-number':
      return said(fault.why === 'comma' ? 'has-a-comma' : fault.code, { text: fault.text });
    case 'between-steps':
      return said(fault.code, { text: fault.text, step: fault.step });
    case 'not-an-option':
    case 'not-bits':
      return said(fault.code, { text: fault.text });
    default:
      return assertNever(fault);
  }
}
