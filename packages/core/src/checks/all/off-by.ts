// A value that is off by a factor of ten or a hundred from what the plate or nearly all peers say: tenths typed for units,
// seconds for hertz.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';
import type { Look } from '../look.ts';
import { meaningOf } from '../../values/index.ts';

const FACTORS = [10, 100, 0.1, 0.01] as const;
const NEAR = 0.03;
/** Peers that have to agree before they say something. */
const FEWEST_PEERS = 3;

const OF_PLATE = [
  ['motor.ratedPower', 'power'],
  ['motor.ratedVoltage', 'voltage'],
  ['motor.ratedCurrent', 'current'],
  ['motor.ratedSpeed', 'speed'],
  ['motor.baseFrequency', 'frequency'],
] as const;

const OF_PEERS = [
  'ramp.up',
  'ramp.down',
  'ramp.quick',
  'ramp.up2',
  'ramp.down2',
  'frequency.minimum',
  'frequency.maximum',
  'jog.speed',
  'limit.current',
  'protect.stallTime',
  'restart.wait',
  'network.watch',
  'loop.gain',
  'loop.integralTime',
  'stop.dcTime',
] as const;

export const offBy: Check = {
  id: 'off-by',
  look(look) {
    for (const [name, field] of OF_PLATE) {
      const plate = look.ground.plate ? look.plateRating()?.[field] : undefined;
      if (plate !== undefined) against(look, name, plate, 'the plate');
    }
    const { peers } = look.ground;
    if (peers.length < FEWEST_PEERS) return;
    for (const name of OF_PEERS) {
      const told = peers.flatMap(({ set }) => {
        const plain = set.get(meaningOf(name));
        return plain.kind === 'number' ? [plain.value] : [];
      });
      const usual = middleOf(told);
      const agree = told.filter((each) => Math.abs(each / usual - 1) <= NEAR).length;
      if (usual > 0 && agree >= FEWEST_PEERS && agree > told.length / 2)
        against(look, name, usual, `${agree} of its peers`);
    }
  },
};

function against(look: Look, name: string, other: number, who: string): void {
  const plain = look.plain(name);
  if (plain.kind !== 'number' || !(other > 0)) return;
  const factor = FACTORS.find((each) => Math.abs(plain.value / other / each - 1) <= NEAR);
  if (factor === undefined || Math.abs(plain.value - other) <= plain.step) return;
  const usual = { ...plain, value: other };
  look.find(
    said('off-by', {
      what: look.term(name),
      value: look.say(plain),
      factor: factor >= 1 ? `${factor} times` : `a ${factor === 0.1 ? 'tenth' : 'hundredth'} of`,
      other: look.say(usual),
      who,
    }),
    { at: name, attention: 'stop', of: [plain], mends: [{ [name]: other }] },
  );
}

function middleOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}
