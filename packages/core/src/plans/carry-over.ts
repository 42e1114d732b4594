// A set of one version of a model on a unit of another version: same codes, but not always the same resolution, options or
// ranges. Values are carried in engineering units and options by their texts; what has no home is named, never guessed.

import { findParameter, type Code, type Dictionary, type Parameter } from '../dictionary/index.ts';
import type { ParameterSet } from '../sets/index.ts';
import { formatRaw, hasBit, parseRaw, type Reading } from '../values/index.ts';

export interface CarriedOver {
  readonly readings: ReadonlyMap<Code, Reading>;
  /** Codes with a value for which the other version has no place. */
  readonly homeless: readonly Code[];
}

/** `from` is the dictionary of the set, `to` that of the unit. */
export function carryOver(from: Dictionary, to: Dictionary, { readings }: ParameterSet): CarriedOver {
  const carried = new Map<Code, Reading>();
  const homeless: Code[] = [];
  for (const [code, reading] of readings) {
    const [old, fresh] = [findParameter(from, code), findParameter(to, code)];
    const value = old && fresh ? carry(old, fresh, reading) : undefined;
    if (value === undefined) homeless.push(code);
    else carried.set(code, value);
  }
  return { readings: carried, homeless };
}

function carry({ form: old }: Parameter, { form: fresh }: Parameter, reading: Reading): Reading | undefined {
  if (typeof reading !== 'number') return reading;
  if (old.kind === 'option' && fresh.kind === 'option') {
    const text = old.options.find(({ raw }) => raw === reading)?.text;
    return fresh.options.find((option) => option.text === text)?.raw;
  }
  if (old.kind === 'bits' && fresh.kind === 'bits') {
    const on = old.bits.filter(({ bit }) => hasBit(reading, bit));
    const bits = on.map(({ text }) => fresh.bits.find((each) => each.text === text)?.bit);
    if (bits.some((bit) => bit === undefined)) return undefined;
    return bits.reduce<number>((word, bit) => word + 2 ** (bit ?? 0), 0);
  }
  if (old.kind !== 'number' || fresh.kind !== 'number' || old.unit !== fresh.unit) return undefined;
  const raw = parseRaw(fresh, formatRaw(old, reading));
  return raw.ok ? raw.value : undefined;
}
