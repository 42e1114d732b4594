// The motor was measured, and the drive goes on with what it makes of the plate.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const MEASURED = ['motor.statorResistance', 'motor.rotorResistance', 'motor.leakage', 'motor.mainInductance'];

export const identifiedUnused: Check = {
  id: 'identified-unused',
  look(look) {
    const use = look.choice('identify.use');
    if (use !== 'plate') return;
    const measured = MEASURED.map((name) => look.plain(name)).filter(
      (plain) => plain.kind === 'number' && plain.codes.some((code) => !look.reach.isDefault(code)),
    );
    if (measured.length === 0) return;
    look.find(
      said('identified-unused', {
        values: measured.map((plain) => look.say(plain)).join(', '),
        codes: look.codes(...measured).join(', '),
      }),
      { of: [look.plain('identify.use'), ...measured], mends: [{ 'identify.use': 'identified' }] },
    );
  },
};
