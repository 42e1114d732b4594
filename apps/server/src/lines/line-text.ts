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

export function describeFault(fault: ReadFault, unit: UnitName): string {
  switch (fault.code) {
    case 'no-connection':
      return `The gateway at ${fault.where} does not accept a connection. Is it switched on? ${NOTHING}`;
    case 'no-answer':
      return `${unit.tag} did not answer within ${seconds(fault.afterMs)}. Is its supply on? ${NOTHING}`;
    case 'late':
      return `${unit.tag} answers, but later than ${seconds(fault.afterMs)}. Is the line overloaded? ${NOTHING}`;
    case 'broke-off':
      return `The connection to ${unit.tag} broke off in the middle. Run it again. ${NOTHING}`;
    case 'wrong-answer':
      return `${unit.tag} gave answers that do not belong to the requests. Check the cable, the address and the gateway. ${NOTHING}`;
    case 'refused':
      return `${unit.tag} refuses to be read. ${NOTHING}`;
    case 'busy':
      return `${unit.tag} is busy with something else. Try again in a minute. ${NOTHING}`;
    case 'no-identity':
      return `${unit.tag} has no register ${showRegister(fault.register)}, in which ${unit.modelName} tells who it is. Is it this model, and is its dictionary right? ${NOTHING}`;
    case 'other-model':
      return `Another model answers at ${unit.tag} (model number ${fault.found}, wanted ${unit.modelName}). Was the unit swapped? ${NOTHING}`;
    case 'other-serial':
      return `Serial number ${fault.found} answers at ${unit.tag}; the register has ${unit.serial}. Was the unit swapped without a record? ${NOTHING}`;
    case 'identity-changed':
      return `While ${unit.tag} was read, another unit (serial number ${fault.found}) took over. ${NOTHING}`;
    case 'stopped':
      return `Stopped before ${unit.tag} was read to its end. ${NOTHING}`;
    default:
      return assertNever(fault);
  }
}

/** Outcomes have the names of the faults; a refusal of everything counts as a wrong answer. */
export const outcomeOf = (fault: ReadFault): OutcomeCode =>
  fault.code === 'refused' ? 'wrong-answer' : fault.code === 'no-identity' ? 'other-model' : fault.code;

const seconds = (ms: number): string => `${ms / 1000} s`;
