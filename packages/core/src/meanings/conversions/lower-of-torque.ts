// The current limit of a servo axis: the lower of its own limit and the torque limit, whose share of the rated torque takes
// the same share of the rated current (CiA 402: 6072h in thousandths, 6075h in mA).

import { meaningOf } from '../../values/index.ts';
import { nothing, tidy } from '../plain.ts';
import { asItIs } from './scale.ts';
import type { Conversion } from './conversion.ts';

const PERCENT = 100;

export const lowerOfTorque: Conversion = {
  read(at) {
    const own = asItIs.read(at);
    if (own.kind !== 'number') return own;
    const [torque, current] = [
      at.set.fact(meaningOf('limit.torque')),
      at.set.fact(meaningOf('motor.ratedCurrent')),
    ];
    if (!torque.ok) return nothing(torque.fault, own.codes);
    if (!current.ok) return nothing(current.fault, own.codes);
    const share = at.set.get(meaningOf('limit.torque'));
    const byTorque = tidy((torque.value.value * current.value.value) / PERCENT);
    const torqueStep = share.kind === 'number' ? (share.step * current.value.value) / PERCENT : 0;
    const facts = [torque.value, current.value];
    const codes = [...own.codes, ...facts.flatMap(({ code }) => code ?? [])];
    const value = Math.min(own.value, byTorque);
    return {
      ...own,
      value,
      step: byTorque < own.value ? tidy(torqueStep) : own.step,
      codes,
      how: { conversion: 'lower-of-torque', own: { value: at.own, unit: 'A' }, facts },
    };
  },
  write: (at) => asItIs.write(at),
};
