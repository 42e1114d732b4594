// What the manual knows of a fault: its number on the keypad, what it means, what causes it, and what to look at.

import type { Code } from './parameter.ts';

/** What kind of fault it is, in the words of the catalogue; `restart.fault.…` of the meanings says the same. */
export const FAULT_KINDS = [
  'overcurrent',
  'overvoltage',
  'undervoltage',
  'motorOverload',
  'motorHot',
  'unitHot',
  'earth',
  'inputPhase',
  'outputPhase',
  'stall',
  'underload',
  'external',
  'signalLost',
  'networkLost',
  'sto',
  'dry',
  'shaftOverload',
  'damper',
  'following',
  'encoder',
  'brake',
  'limit',
  'memory',
  'hardware',
  'other',
] as const;
export type FaultKind = (typeof FAULT_KINDS)[number];

/** The fault with the number that a register holds; nothing for 0, and for one that the model does not know. */
export const faultOf = (
  { faults }: { readonly faults: readonly Fault[] },
  number: number,
): Fault | undefined => faults.find((each) => each.number === number);

/** The fault that a value of this parameter names; nothing where it is no register of faults. */
export const faultIn = (
  dictionary: { readonly faults: readonly Fault[] },
  { meaning }: { readonly meaning: string | null },
  raw: number,
): Fault | undefined =>
  meaning === 'monitor.fault' || meaning?.startsWith('monitor.faultHistory.')
    ? faultOf(dictionary, raw)
    : undefined;

export interface Fault {
  /** As the unit's fault register holds it; 0 is no fault and never stands here. */
  readonly number: number;
  /** As the keypad shows it. */
  readonly shown: string;
  readonly name: string;
  readonly kind: FaultKind;
  readonly meaning: string;
  /** The likeliest first. */
  readonly causes: readonly string[];
  readonly check: readonly string[];
  /** Parameters that bear on it. */
  readonly parameters: readonly Code[];
  /** Whether the unit may start again by itself after it, where its settings allow it. */
  readonly restarts: boolean;
}
