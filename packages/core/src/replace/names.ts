// What the parts of a sheet are called, on the screen and on paper alike.

import type { FitState, FitSubject } from './fit.ts';
import type { Group } from './settings.ts';
import type { Phase } from './tasks.ts';

export const GROUP_NAMES: Readonly<Record<Group, string>> = {
  asked: 'Asked',
  converted: 'Converted',
  carried: 'Carried as it is',
  plate: 'By motor and supply',
  check: 'Check only',
  left: 'Left behind',
  new: 'Only the successor has it',
};

export const PHASE_NAMES: Readonly<Record<Phase, string>> = {
  before: 'Before a hand goes in',
  off: 'Off the old unit',
  board: 'Links and switches of the new unit',
  on: 'On the new unit',
  closing: 'Before the supply is on again',
  proof: 'With the supply on',
};

export const FIT_STATES: Readonly<Record<FitState, { readonly shape: string; readonly text: string }>> = {
  good: { shape: '✓', text: 'fits' },
  change: { shape: '△', text: 'fits with changes' },
  ask: { shape: '?', text: 'to be looked at' },
  bad: { shape: '✕', text: 'does not fit' },
};

export const FIT_SUBJECTS: Readonly<Record<FitSubject, string>> = {
  current: 'Current of the motor',
  inputs: 'Inputs',
  contacts: 'Load on a contact',
  burden: 'Burden of a transmitter',
  brake: 'Brake output',
  heat: 'Heat in the cabinet',
  relays: 'Relays',
  outputs: 'Transistor outputs',
  signals: 'Analog signals',
  'safe-inputs': 'Safe torque off',
  line: 'Line',
  logic: 'Side of the contacts',
  size: 'Room (width, height, depth)',
  fuse: 'Fuse',
  resistor: 'Braking resistor',
  filter: 'Mains filter',
};
