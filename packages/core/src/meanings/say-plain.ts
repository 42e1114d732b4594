// Plain values in words: the value with its unit, how it was told, and why nothing is. `term` gives the trade's word for a
// meaning or a reference.

import { assertNever, forPeople } from '../values/index.ts';
import type { How, Plain, UsedFact, Untold } from './plain.ts';

export type Term = (what: string) => string;

/** Names of what is no meaning of its own. */
export const REFERENCE_TERMS: Readonly<Record<string, string>> = {
  'unit.current': 'rated current of the unit',
  'motor.ratedSlip': 'slip of the plate',
  'motor.polePairs': 'pole pairs',
  maker: 'the maker’s own scale',
};

const MOST_PLACES = 4;
/** Digits of a number whose step is not known. */
const DIGITS = 4;

/** With as many places as its step gives, no more. */
export function sayNumber(value: number, step: number): string {
  const places =
    step > 0 ? Math.min(MOST_PLACES, Math.max(0, Math.ceil(-Math.log10(step) - 1e-9))) : undefined;
  const text = places === undefined ? String(Number(value.toPrecision(DIGITS))) : value.toFixed(places);
  return forPeople((Number(text) === 0 ? text.replace('-', '') : text).replace('-', '−'));
}

const withUnit = (number: string, unit: string): string => (unit === '' ? number : `${number} ${unit}`);

/** `6.15 A`, `coast`, `4.0 Hz to 96.0 Hz`, `5 Hz/s`. */
export function sayPlain(plain: Plain, term: Term): string {
  switch (plain.kind) {
    case 'number':
      return plain.unit === 's/Hz'
        ? saySlope(plain.value)
        : withUnit(sayNumber(plain.value, plain.step), plain.unit);
    case 'choice':
      return plain.option.replace(/[-.]/g, ' ');
    case 'curve': {
      const ends = plain.points.map(({ signal, value }) => ({
        percent: sayNumber(signal * 100, 1),
        value: withUnit(sayNumber(value, plain.step), plain.unit),
      }));
      const [first, last] = [ends[0], ends.at(-1)];
      if (ends.length === 2) return `${first?.value ?? ''} to ${last?.value ?? ''}`;
      return ends.map(({ percent, value }) => `${value} at ${percent} %`).join(', ');
    }
    case 'nothing':
      return sayUntold(plain.why, term);
    default:
      return assertNever(plain);
  }
}

/** Seconds for each hertz as a slope; no time at all is a jump. */
const saySlope = (secondsPerHertz: number): string =>
  secondsPerHertz === 0
    ? 'a jump'
    : `${sayNumber(Number((1 / secondsPerHertz).toPrecision(DIGITS)), 0)} Hz/s`;

const sayFact = ({ what, value, unit, code }: UsedFact, term: Term): string =>
  `${term(what)} ${withUnit(sayNumber(value, 0), unit)}${code === null ? '' : ` (${code})`}`;

/** How a value was told: `150 % of rated current of the unit 4.1 A is 6.15 A`; nothing where it stands as it is. */
export function sayHow(plain: Plain, term: Term): string | undefined {
  if (plain.kind === 'nothing' || !plain.how) return undefined;
  const { own, facts, conversion }: How = plain.how;
  const said = sayPlain(plain, term);
  const value = own ? withUnit(sayNumber(own.value, 0), own.unit) : '';
  const all = facts.map((fact) => sayFact(fact, term)).join(', ');
  switch (conversion) {
    case 'reference':
      if (plain.kind === 'number' && plain.unit === 's/Hz') return `${value} to ${all} is ${said}`;
      if (plain.kind === 'number' && plain.unit === 'Hz/%')
        return `a gain of ${value} on an output of ${all} is ${said}`;
      return own?.unit.startsWith('%') || own?.unit === '‰'
        ? `${value} of ${all} is ${said}`
        : `${value} against ${all} is ${said}`;
    case 'fixed':
      return own ? `always ${value} of ${all}: ${said}` : `always so on this model: ${said}`;
    case 'same-as':
      return `set together with another value on this model: ${said}`;
    case 'poles-from-plate':
      return `from ${all}: ${said} poles`;
    case 'lower-of-torque':
      return `the lower of ${value} and ${all}: ${said}`;
    case 'middle-and-width':
      return `${value} in the middle, ${all}: ${said}`;
    case 'band':
      return `a band of ${value} over an output of ${all} is ${said}`;
    case 'loop-unit':
      return `${value} of a range from ${all} is ${said}`;
    case 'as-it-is':
    case 'poles':
    case 'increments':
    case 'pairs':
    case 'edges':
    case 'end-points':
    case 'gain-and-bias':
    case 'two-points':
    case 'full-scale':
    case 'output-gain':
    case 'output-share':
    case 'integral-gain':
    case 'derivative-gain':
      return `${value}${all === '' ? '' : ` with ${all}`} is ${said}`;
    default:
      return assertNever(conversion);
  }
}

export function sayUntold(why: Untold, term: Term): string {
  switch (why.code) {
    case 'no-such-thing':
      return 'not on this model';
    case 'not-kept':
      return 'not in this set';
    case 'unreadable':
      return 'could not be read';
    case 'missing':
      return `cannot be told without ${term(why.what)}`;
    case 'reference-not-stated':
      return 'nobody states what it counts to';
    case 'maker-scale':
      return 'a share of the maker’s own scale';
    case 'divisor':
      return `cannot be told: ${term(why.what)} stands at a value that nothing can be divided by`;
    case 'plate-slip':
      return 'cannot be told: rated speed and base frequency do not belong to one motor';
    case 'points-equal':
      return 'cannot be told: both points lie at the same signal';
    case 'other-use':
      return 'not used for the speed here';
    case 'unsaid':
      return 'this setting does not say it';
    case 'unit':
      return `cannot be told in ${why.unit === '' ? 'its own unit' : why.unit}`;
    default:
      return assertNever(why);
  }
}
