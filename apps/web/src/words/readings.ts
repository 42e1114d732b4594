import type { Parameter } from '@drive-keep/core/dictionary';
import { displayRaw, type Reading } from '@drive-keep/core/values';

/** A reading in a line of text, with its unit. What could not be read is said in words and never looks like a value. */
export function showReading({ form }: Parameter, reading: Reading | null): string {
  if (reading === null) return 'not there';
  if (typeof reading !== 'number') return '? unreadable';
  const { text, unit } = displayRaw(form, reading);
  if (form.kind === 'bits') return unit;
  return unit === '' ? text : `${text} ${unit}`;
}
