// Reads a unit of which nobody knows yet who it is: all parameters of a dictionary that is being made, and what it says of
// itself. Nothing of it is kept, and nothing depends on who answers.

import type { Dictionary, LineFacts } from '@drive-keep/core/dictionary';
import { ok, type Result } from '@drive-keep/core/values';
import type { DriveLine } from './drive-line.ts';
import { readIdentity, type Identity } from './identity.ts';
import { readUnit, type ReadFault, type UnitReading } from './unit-reader.ts';

const NO_IDENTITY = { model: null, rating: null, firmware: null, serial: null } as const;
const QUIET = { progress: () => undefined, stopped: () => false };

export interface Whoever {
  readonly reading: UnitReading;
  /** Nothing where a register of its identity is refused. */
  readonly who: Identity | undefined;
}

export async function readWhoever(
  drive: DriveLine,
  address: number,
  dictionary: Dictionary,
  facts: LineFacts,
): Promise<Result<Whoever, ReadFault>> {
  const anybody = { ...facts, identity: NO_IDENTITY };
  const read = await readUnit(drive, dictionary, anybody, { address, serial: 0 }, QUIET);
  if (!read.ok) return read;
  const who = await readIdentity(drive, address, dictionary, facts);
  return ok({ reading: read.value, who: who.ok ? who.value : undefined });
}
