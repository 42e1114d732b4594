// Presets that are chosen by bits on the old unit and by an input each on the successor. A bit that is on alone is an input of
// its own with the speed that this bit chooses; two bits on together choose a speed that such a successor cannot, and whether the
// devices can do that, the proof of same behaviour finds.

import type { Plain } from '../meanings/index.ts';
import { meaningOf, type Meaning } from '../values/index.ts';

/** As the rules of the models answer: `bits`, `each`. */
export interface PresetWays {
  readonly old: string | undefined;
  readonly fresh: string | undefined;
  /** While no preset is chosen: `preset-1` or `minimum`. */
  readonly none: string | undefined;
  /** On the successor: whether a preset counts whatever gives the speed. */
  readonly acts: string | undefined;
}

const BIT = /^preset\.bit\.(\d+)$/;

/** The function that an input of the successor gets for one of the old unit. */
export function functionFor(does: string, { old, fresh }: PresetWays): string {
  const bit = BIT.exec(does)?.[1];
  return old === 'bits' && fresh === 'each' && bit !== undefined ? `preset.${Number(bit) + 1}` : does;
}

/** `wanted` is changed in place; answers which meaning took the place of which. */
export function adjustPresets(wanted: Map<Meaning, Plain>, ways: PresetWays): ReadonlyMap<Meaning, Meaning> {
  const moved = new Map<Meaning, Meaning>();
  if (ways.old !== 'bits' || ways.fresh !== 'each') return moved;
  const speeds = new Map<Meaning, Plain>();
  for (const [meaning, plain] of wanted) {
    if (plain.kind !== 'choice' || !/^input\.\d+\.function$/.test(meaning)) continue;
    const bit = BIT.exec(plain.option)?.[1];
    if (bit === undefined) continue;
    wanted.set(meaning, { ...plain, option: functionFor(plain.option, ways) });
    const [before, now] = [`preset.${2 ** Number(bit) + 1}`, `preset.contact.${Number(bit) + 1}`].map(
      meaningOf,
    );
    const speed = before && wanted.get(before);
    if (!speed || !now) continue;
    speeds.set(now, speed);
    moved.set(before, now);
  }
  withoutPreset(wanted, moved, speeds, ways);
  for (const meaning of [...wanted.keys()]) if (/^preset\.\d+$/.test(meaning)) wanted.delete(meaning);
  for (const [meaning, speed] of speeds) wanted.set(meaning, speed);
  return moved;
}

/**
 * Preset 1 of the old unit is the speed with no bit on. Where the successor has none for that, but its presets count whatever
 * gives the speed, the keypad gives it.
 */
function withoutPreset(
  wanted: Map<Meaning, Plain>,
  moved: Map<Meaning, Meaning>,
  speeds: Map<Meaning, Plain>,
  { none, acts }: PresetWays,
): void {
  const [source, first, keypad] = ['speed.source', 'preset.1', 'speed.keypad'].map(meaningOf);
  const [from, speed] = [source && wanted.get(source), first && wanted.get(first)];
  if (!source || !first || !keypad || !speed || from?.kind !== 'choice') return;
  if (from.option !== 'source.presets' || none === 'preset-1' || acts !== 'any-on') return;
  wanted.set(source, { ...from, option: 'source.keypad' });
  speeds.set(keypad, speed);
  moved.set(first, keypad);
}
