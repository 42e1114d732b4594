// Values as a person reads them: with unit, option text, and a true minus sign. Never more places than the resolution.

import { formatDecimal, type Decimal } from './decimal.ts';
import { describeRaw, formatRaw, type Form } from './form.ts';
import { forPeople } from './number-language.ts';

export interface DisplayedValue {
  readonly text: string;
  /** Unit or option text, shown a shade lighter; may be empty. */
  readonly unit: string;
}

/** Value and unit apart. A raw value that is no option of its list is told as such and never left out. */
export function displayRaw(form: Form, raw: number): DisplayedValue {
  if (form.kind === 'number') return { text: forPeople(withMinus(formatRaw(form, raw))), unit: form.unit };
  return { text: formatRaw(form, raw), unit: describeRaw(form, raw) ?? 'unknown option' };
}

/** One string: `12.50 s`, `2 Terminals`. */
export function showRaw(form: Form, raw: number): string {
  const { text, unit } = displayRaw(form, raw);
  return unit === '' ? text : `${text} ${unit}`;
}

/** With a sign in any case: `+12.0`, `−0.5`. */
export const showSigned = (value: Decimal): string =>
  forPeople(value.digits > 0 ? `+${formatDecimal(value)}` : withMinus(formatDecimal(value)));

const withMinus = (text: string): string => text.replace('-', '−');
