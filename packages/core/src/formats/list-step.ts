// The smallest step of a parameter as lists tell it.

import { formatResolution } from '../values/index.ts';
import { numberWithUnit, type DecimalMark, type WrittenNumber } from './list-number.ts';

/** `0.01`, `0.01 Hz`, `1/100`, `× 0.1`, `100 = 1.00 Hz`: the step. */
export function stepIn(text: string, mark: DecimalMark): WrittenNumber | undefined {
  const plain = numberWithUnit(text.replace(/^[x×*]\s*/i, ''), mark);
  if (plain) return plain;
  const part = /^1\s*[/:÷]\s*(10{0,6})$/.exec(text)?.[1];
  if (part !== undefined) return { number: formatResolution({ step: 1, places: part.length - 1 }), unit: '' };
  const [, counts = '', says = ''] = /^(\d+)\s*(?:=|≙|→|->)\s*(.+)$/.exec(text) ?? [];
  const value = says === '' ? undefined : numberWithUnit(says, mark);
  const power = /^10*$/.test(counts) ? counts.length - 1 : -1;
  if (!value || power < 0 || Number(value.number) <= 0) return undefined;
  const [whole = '', fraction = ''] = value.number.split('.');
  const digits = Number(`${whole}${fraction}`);
  const places = fraction.length + power;
  // `100 = 1.00` is 0.01: zeros at the end say nothing of the step.
  let [step, count] = [digits, places];
  while (count > 0 && step % 10 === 0) [step, count] = [step / 10, count - 1];
  return { number: formatResolution({ step, places: count }), unit: value.unit };
}
