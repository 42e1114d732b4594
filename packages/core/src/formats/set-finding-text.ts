// Findings in set files as sentences: what is wrong and what to do.

import { describeRefusal, findParameter, type Dictionary } from '../dictionary/index.ts';
import { assertNever, type ValueFault } from '../values/index.ts';
import type { SetFinding } from './set-file.ts';

/** Long lists are cut after so many codes. */
const MOST_CODES = 8;

export function describeSetFinding(finding: SetFinding, dictionary: Dictionary): string {
  switch (finding.code) {
    case 'file-empty':
      return 'The file is empty. Export a set to see what it should hold.';
    case 'file-broken':
      return `The file cannot be read as ${finding.wanted} from here on. Export it again from where it came.`;
    case 'format-unknown':
      return `This is not a parameter set that can be read (found "${finding.found}"). Use a JSON or CSV file of Drive Keep.`;
    case 'column-missing':
      return `The column "${finding.column}" is missing. A set needs "code" and "value" or "raw".`;
    case 'other-dictionary':
      return `The file holds a set of ${finding.found}; this position has ${finding.wanted}. Choose the right position.`;
    case 'code-missing':
      return 'The code is empty. Every line needs the code of its parameter.';
    case 'code-is-date':
      return `"${finding.text}" is a date: a spreadsheet program has changed a code such as 4/12. Format the column as text and enter the code again.`;
    case 'value-is-date':
      return `${finding.text}: "${finding.value}" is a date: a spreadsheet program has changed the value. Format the column as text and enter it again.`;
    case 'unit-converted':
      return `${finding.text}: ${finding.from} was taken as ${finding.to}${finding.exact ? '' : ', rounded to the resolution'}.`;
    case 'unit-differs':
      return `${finding.text}: the value is in ${finding.found}, which cannot be converted to ${finding.wanted || 'a number without unit'}. Give it in that unit.`;
    case 'code-unknown':
      return `${finding.text} is not a code of ${dictionary.name}. Check its spelling, or the model of the file.`;
    case 'code-twice':
      return `${finding.text} is there twice. Remove one of the lines.`;
    case 'formula':
      return `The cell "${finding.column}" holds a formula. Put the plain value there.`;
    case 'value-missing':
      return `${finding.text} has no value. Give one, or take the line out.`;
    case 'value-unreadable':
      return `${finding.text}: ${describeValueFault(finding.fault)}`;
    case 'raw-unreadable':
      return `${finding.text}: the raw value is not a whole number.`;
    case 'reason-unknown':
      return `"${finding.text}" is no reason for an unreadable parameter.`;
    case 'value-and-raw-differ':
      return `${finding.text}: value ${finding.value} and raw value (${finding.fromRaw}) contradict each other. Correct one, or empty "raw".`;
    case 'out-of-range':
      return `${finding.text}: ${describeRefusal(findParameter(dictionary, finding.text), finding.refusal)}`;
    case 'parameters-missing':
      return `${finding.codes.length} parameters are missing and stay missing: ${shortened(finding.codes)}.`;
    case 'hash-differs':
      return 'The content was changed after the file was written: its hash no longer fits.';
    default:
      return assertNever(finding);
  }
}

export function describeValueFault(fault: ValueFault): string {
  switch (fault.code) {
    case 'not-a-number':
      if (fault.why === 'comma') return `"${fault.text}" has a comma. Write decimals with a point.`;
      return `"${fault.text}" is not a number.`;
    case 'between-steps':
      return `${fault.text} lies between two steps; the resolution is ${fault.step}.`;
    case 'not-an-option':
      return `"${fault.text}" is not an option.`;
    case 'not-bits':
      return `"${fault.text}" is not a word of bits. Write it as 0b0101.`;
    default:
      return assertNever(fault);
  }
}

function shortened(codes: readonly string[]): string {
  const rest = codes.length - MOST_CODES;
  return codes.slice(0, MOST_CODES).join(', ') + (rest > 0 ? ` and ${rest} more` : '');
}
