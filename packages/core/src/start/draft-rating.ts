// Which ratings of a model bear a motor: the current of the plate against what each gives in its cabinet.

import type { Dictionary } from '../dictionary/index.ts';
import type { Bridge } from '../meanings/index.ts';
import { deratedBy } from '../rules/index.ts';
import { defaultSet } from '../sets/index.ts';
import { forPeople, meaningOf } from '../values/index.ts';

export interface RatingFit {
  readonly id: string;
  readonly name: string;
  /** `untold` where the plate or the unit does not tell its current. */
  readonly state: 'fits' | 'small' | 'untold';
  readonly text: string;
}

const HERTZ_PER_KILOHERTZ = 1000;
const show = (value: number): string => forPeople(value.toFixed(1));

/** `current` of the plate in A, `ambient` in °C. */
export function ratingsFor(
  bridge: Bridge,
  dictionary: Dictionary,
  region: string,
  current: number | undefined,
  ambient: number | null,
): readonly RatingFit[] {
  return dictionary.ratings.map(({ id, name }) => {
    const delivered = defaultSet(dictionary, { rating: id, region })?.readings;
    const set = delivered && bridge.read(dictionary, { rating: id, region }, delivered);
    const unit = set?.reference('unit.current');
    if (!set || !unit?.ok) return { id, name, state: 'untold', text: 'Its model does not tell its current.' };
    const carrier = set.get(meaningOf('carrier.frequency'));
    const slow = Math.min(...(dictionary.derating?.carrier ?? []).map(({ at }) => at));
    const kilohertz = carrier.kind === 'number' ? Math.min(slow, carrier.value / HERTZ_PER_KILOHERTZ) : slow;
    const share = deratedBy(
      dictionary.derating,
      ambient,
      Number.isFinite(kilohertz) ? kilohertz : null,
    ).share;
    const left = unit.value.value * share;
    const gives =
      ambient === null ? `${show(left)} A` : `${show(left)} A at ${forPeople(String(ambient))} °C`;
    if (current === undefined) return { id, name, state: 'untold', text: `Gives ${gives}.` };
    const fits = current <= left;
    return {
      id,
      name,
      state: fits ? 'fits' : 'small',
      text: `Gives ${gives}, the motor takes ${show(current)} A.`,
    };
  });
}
