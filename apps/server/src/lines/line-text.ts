// How the reading of a unit ended, in a technician's words: what happened, what to look at, and that nothing was kept.

import type { OutcomeCode } from '@drive-keep/api';
import { assertNever, showRegister } from '@drive-keep/core/values';
import type { ReadFault } from './unit-reader.ts';

export interface UnitName {
  readonly tag: string;
  readonly serial: number;
  readonly modelName: string;
}

const NOTHING = 'Nothing was kept.';
export const COPY =
  'This is a restored copy of the plant, and it talks to no unit until an engineer says, under The plant, that it is the one now.';

export const describeFault = (fault: ReadFault, unit: UnitName): string =>
  `${faultText(fault, unit)} ${NOTHING}`;

/** The same where nothing was meant to be kept. */
export function faultText(fault: ReadFault, unit: UnitName): string {
  switch (fault.code) {
    case 'no-connection':
      return `The gateway at ${fault.where} does not accept a connection. Is it switched on?`;
    case 'no-answer':
      return `${unit.tag} did not answer within ${seconds(fault.afterMs)}. Is its supply on?`;
    case 'late':
      return `${unit.tag} answers, but later than ${seconds(fault.afterMs)}. Is the line overloaded?`;
    case 'copy':
      return COPY;
    case 'broke-off':
      return `The connection to ${unit.tag} broke off in the middle. Run it again.`;
    case 'wrong-answer':
      return `${unit.tag} gave answers that do not belong to the requests. Check the cable, the address and the gateway.`;
    case 'refused':
      return `${unit.tag} refuses to be read.`;
    case 'busy':
      return `${unit.tag} is busy with something else. Try again in a minute.`;
    case 'no-identity':
      return `${unit.tag} has no register ${showRegister(fault.register)}, in which ${unit.modelName} tells who it is. Is it this model, and is its dictionary right?`;
    case 'other-model':
      return `Another model answers at ${unit.tag} (model number ${fault.found}, wanted ${unit.modelName}). Was the unit swapped?`;
    case 'other-serial':
      return `Serial number ${fault.found} answers at ${unit.tag}; the register has ${unit.serial}. Was the unit swapped without a record?`;
    case 'identity-changed':
      return `While ${unit.tag} was read, another unit (serial number ${fault.found}) took over.`;
    case 'stopped':
      return `Stopped before ${unit.tag} was read to its end.`;
    default:
      return assertNever(fault);
  }
}

const OUTCOMES_OF: Readonly<Partial<Record<ReadFault['code'], OutcomeCode>>> = {
  refused: 'wrong-answer',
  'no-identity': 'other-model',
  copy: 'no-line',
};

/** Outcomes have the names of the faults; a refusal of everything counts as a wrong answer. */
export const outcomeOf = (fault: ReadFault): OutcomeCode =>
  OUTCOMES_OF[fault.code] ?? (fault.code as OutcomeCode);

const seconds = (ms: number): string => `${ms / 1000} s`;
