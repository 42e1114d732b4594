// How a raw integer reads: as a number with unit and resolution, as one option of a list, or as a word of bits.
// `parseRaw(form, formatRaw(form, raw)) = raw` for every raw value that a form can show.

import { formatDecimal, parseDecimal, type Decimal, type DecimalFault } from './decimal.ts';
import type { OptionMeaning, Saying } from './option-meaning.ts';
import { assertNever, fail, ok, type Result } from './result.ts';

/** A step of 0.25 is `{ step: 25, places: 2 }`: value = raw × step / 10^places. */
export interface Resolution {
  readonly step: number;
  readonly places: number;
}

export interface NumberForm {
  readonly kind: 'number';
  readonly unit: string;
  readonly resolution: Resolution;
}

export interface OptionForm {
  readonly kind: 'option';
  readonly options: readonly Option[];
}

/** The text is the maker's; what the option is whatever the model, its meaning. */
export interface Option extends OptionMeaning {
  readonly raw: number;
  readonly text: string;
}

/** A switch in a word. */
export interface Bit {
  readonly bit: number;
  readonly text: string;
  readonly says?: readonly Saying[];
}

export interface BitsForm {
  readonly kind: 'bits';
  readonly bits: readonly Bit[];
}

export type Form = NumberForm | OptionForm | BitsForm;

export type ValueFault =
  | { readonly code: 'not-a-number'; readonly why: DecimalFault; readonly text: string }
  | { readonly code: 'between-steps'; readonly text: string; readonly step: string }
  | { readonly code: 'not-an-option'; readonly text: string }
  | { readonly code: 'not-bits'; readonly text: string };

/** `0.01` */
export const formatResolution = ({ step, places }: Resolution): string =>
  formatDecimal({ digits: step, places });

/** Reads `0.01`, `0.25` or `10`; nothing for zero, a negative number or text. */
export function parseResolution(text: string): Resolution | undefined {
  const step = parseDecimal(text);
  if (!step.ok || step.value.digits <= 0) return undefined;
  return { step: step.value.digits, places: step.value.places };
}

/** The value in the form's unit, exact. */
export const toDecimal = (form: NumberForm, raw: number): Decimal => ({
  digits: raw * form.resolution.step,
  places: form.resolution.places,
});

/** The raw integer for a value; a value between two steps is a fault, never rounded. */
export function fromDecimal(form: NumberForm, value: Decimal): Result<number, ValueFault> {
  const { step, places } = form.resolution;
  const shift = places - value.places;
  const digits = shift >= 0 ? value.digits * 10 ** shift : value.digits / 10 ** -shift;
  const raw = digits / step;
  if (Number.isSafeInteger(raw)) return ok(raw === 0 ? 0 : raw);
  return fail({ code: 'between-steps', text: formatDecimal(value), step: formatResolution(form.resolution) });
}

const BITS = /^0b([01]{1,32})$/;

/** The raw value as text without unit or option text: `12.50`, `3`, `0b00000101`. */
export function formatRaw(form: Form, raw: number): string {
  switch (form.kind) {
    case 'number':
      return formatDecimal(toDecimal(form, raw));
    case 'option':
      return String(raw);
    case 'bits':
      return `0b${(raw >>> 0).toString(2).padStart(bitCount(form), '0')}`;
    default:
      return assertNever(form);
  }
}

/** The inverse of `formatRaw`; an option may also be given by its exact text. */
export function parseRaw(form: Form, text: string): Result<number, ValueFault> {
  switch (form.kind) {
    case 'number': {
      const value = parseDecimal(text);
      if (!value.ok) return fail({ code: 'not-a-number', why: value.fault, text });
      return fromDecimal(form, value.value);
    }
    case 'option':
      return parseOption(form, text);
    case 'bits': {
      const word = BITS.exec(text.trim())?.[1];
      return word === undefined ? fail({ code: 'not-bits', text }) : ok(Number.parseInt(word, 2));
    }
    default:
      return assertNever(form);
  }
}

function parseOption(form: OptionForm, text: string): Result<number, ValueFault> {
  const trimmed = text.trim();
  if (/^-?\d{1,10}$/.test(trimmed)) return ok(Number(trimmed) === 0 ? 0 : Number(trimmed));
  const named = form.options.find((option) => option.text.toLowerCase() === trimmed.toLowerCase());
  return named ? ok(named.raw) : fail({ code: 'not-an-option', text });
}

/** Words are shown at their full width of 8, 16 or 32 bits. */
export function bitCount(form: BitsForm): 8 | 16 | 32 {
  const highest = Math.max(0, ...form.bits.map((bit) => bit.bit));
  if (highest < 8) return 8;
  return highest < 16 ? 16 : 32;
}

/** The text that belongs to an option or to the bits that are set; nothing for numbers. */
export function describeRaw(form: Form, raw: number): string | undefined {
  switch (form.kind) {
    case 'number':
      return undefined;
    case 'option':
      return form.options.find((option) => option.raw === raw)?.text;
    case 'bits': {
      const set = form.bits.filter((bit) => hasBit(raw, bit.bit));
      return set.length === 0 ? 'none' : set.map((bit) => bit.text).join(', ');
    }
    default:
      return assertNever(form);
  }
}

/** `bit` is 0 to 31. */
export const hasBit = (raw: number, bit: number): boolean => ((raw >>> bit) & 1) === 1;
