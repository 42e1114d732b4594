// Ramps of a set as a measured course is held against them: seconds for the whole way, and Hz to which they count.

import type { Outcome } from '../behaviour/index.ts';
import type { PlainSet } from '../meanings/index.ts';
import type { RampSetting } from '../signals/index.ts';
import { meaningOf } from '../values/index.ts';

type Ramps = NonNullable<Outcome['ramps']>;

const NAMES: Readonly<Record<Ramps, readonly [up: string, down: string]>> = {
  first: ['ramp.up', 'ramp.down'],
  second: ['ramp.up2', 'ramp.down2'],
  jog: ['ramp.jog', 'ramp.jog'],
};
/** Each above 0 only where it is another ramp than the usual. */
const OTHERS = ['ramp.first', 'ramp.last', 'ramp.changeover'];
/** Hz, where a set tells none: any will do, as long as the times count to it. */
const USUAL_TOP = 50;

/** Nothing where the set tells none of both times, or a shape that cannot be reckoned. */
export function rampSettingOf(set: PlainSet, ramps: Ramps): RampSetting | undefined {
  const number = (name: string): number | null => {
    const plain = set.get(meaningOf(name));
    return plain.kind === 'number' ? plain.value : null;
  };
  const top = number('motor.baseFrequency') ?? USUAL_TOP;
  const [up, down] = NAMES[ramps].map(number).map((perHertz) => (perHertz === null ? null : perHertz * top));
  if (up === undefined || down === undefined || (up === null && down === null)) return undefined;
  // Other ramps below or above some speed: one time says nothing of the whole way.
  if (OTHERS.some((name) => (number(name) ?? 0) > 0)) return undefined;
  const shape = set.choice(meaningOf('ramp.shape'));
  // How its corners are rounded nobody says: no course can be reckoned.
  if (shape === 'rounded-unstated') return undefined;
  const rounding = (name: string, whole: number | null): number =>
    shape === 'rounded-by-fifths'
      ? (whole ?? 0) / 5
      : shape !== undefined && shape !== 'straight'
        ? (number(name) ?? 0)
        : 0;
  return {
    up,
    down,
    top,
    roundUp: rounding('ramp.roundUp', up),
    roundDown: rounding('ramp.roundDown', down),
  };
}
