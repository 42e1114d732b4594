import type { FieldClash, MotorPlate, PlateText } from '@drive-keep/core/motor';

export interface MotorView {
  readonly id: string;
  readonly name: string;
  readonly plate: MotorPlate;
  /** As it stands in the fields of the form. */
  readonly text: PlateText;
  readonly line: string;
  /** Name of the motor whose plate it started from; empty for none. */
  readonly startedFrom: string;
  readonly positions: readonly string[];
  /** Goes with a change, so that the later of two people is told. */
  readonly version: number;
  readonly changedBy: string;
  readonly changedAt: string;
  /** Other motors of the library with the same numbers. */
  readonly twins: readonly string[];
}

export interface MotorBody {
  readonly name: string;
  readonly plate: PlateText;
}

/**
 * A motor that a backup tells of and that the library does not know like this: nobody has it, it has other numbers, or
 * its numbers are there under another name.
 */
export interface MotorArrival {
  readonly tag: string;
  readonly duty: string;
  readonly kind: 'new' | 'other-numbers' | 'known-numbers';
  /** Motor of the library that it is held against; nothing for a new one. */
  readonly against: { readonly id: string; readonly name: string } | null;
  /** Name that the position gives it. */
  readonly name: string;
  readonly fields: readonly FieldClash[];
  readonly line: string;
  readonly backupAt: string;
  /** Of what it tells; whoever leaves it as it is leaves this one. */
  readonly fingerprint: string;
}
