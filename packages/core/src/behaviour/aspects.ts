// In what two outcomes differ that the same events have brought about.

import { meaningOf } from '../values/index.ts';
import type { Bare } from './compiled.ts';
import type { Machine } from './machine.ts';
import type { Outcome } from './outcome.ts';

/** The gravest first. */
export const ASPECTS = [
  ...(['starts', 'does-not-start', 'direction', 'untold', 'state'] as const),
  ...(['speed', 'stops', 'outputs', 'ramps'] as const),
] as const;
export type Aspect = (typeof ASPECTS)[number];

/** Half of a tenth of a hertz, where a model tells no step of its own. */
const USUAL_STEP = 0.1;

/** Step of the speeds of a model, in Hz. */
function stepOf({ set }: Machine): number {
  const maximum = set.get(meaningOf('frequency.maximum'));
  return maximum.kind === 'number' && maximum.step > 0 ? maximum.step : USUAL_STEP;
}

/** What of the machine an output switches, and whether it is on while the output is. */
interface Switched {
  readonly output: string;
  readonly closes: boolean;
}

/** Of each device that hangs on one output. */
function switchedBy({ outputs, wiring, devicesAt }: Machine): ReadonlyMap<string, Switched> {
  const found = new Map<string, Switched>();
  const others = new Set(wiring.devices.flatMap(({ kind, name }) => (kind === 'supply' ? [name] : [])));
  for (const { number, closes, opens, common, transistor } of outputs) {
    const ends: [string | undefined, boolean][] = [
      ...([
        [closes, true],
        [transistor?.terminal, true],
        [opens, false],
      ] as [string | undefined, boolean][]),
      // At the common side the contact that is wired decides.
      [common, closes !== undefined && devicesAt.has(closes)],
    ];
    for (const [terminal, isClosing] of ends)
      for (const name of devicesAt.get(terminal ?? '') ?? [])
        if (!others.has(name) && !found.has(name)) found.set(name, { output: number, closes: isClosing });
  }
  return found;
}

export class Comparison {
  private readonly near: number;
  private readonly oneModel: boolean;
  private readonly devices: readonly { readonly a: Switched; readonly b: Switched }[];

  constructor(a: Machine, b: Machine) {
    this.near = Math.max(stepOf(a), stepOf(b)) / 2;
    // Between two sets of one model outputs are compared by their numbers; of others by what hangs on them.
    this.oneModel = a.set.dictionary.model === b.set.dictionary.model;
    const other = switchedBy(b);
    this.devices = [...switchedBy(a)].flatMap(([name, one]) => {
      const same = other.get(name);
      return same ? [{ a: one, b: same }] : [];
    });
  }

  /** `turns`: the shaft of the first is not at rest. */
  aspectOf(a: Bare, b: Bare, turns: boolean): Aspect | undefined {
    if (a.kind === 'untold' || b.kind === 'untold') return a.kind === b.kind ? undefined : 'untold';
    if (a.kind !== b.kind) {
      if (b.kind === 'runs') return 'starts';
      return a.kind === 'runs' ? 'does-not-start' : 'state';
    }
    if (a.kind === 'fault' || a.kind === 'runs' || a.kind === 'stopped') {
      if (a.direction !== b.direction) return 'direction';
      if (!this.sameSpeed(a, b)) return 'speed';
      // How it would stop says nothing of a shaft that rests.
      if (turns && a.stops !== b.stops) return 'stops';
      if (a.ramps !== b.ramps) return 'ramps';
    }
    return this.sameOutputs(a, b) ? undefined : 'outputs';
  }

  private sameSpeed({ setPoint: a }: Bare, { setPoint: b }: Bare): boolean {
    if (!a || !b) return a === b;
    if (a.hertz === null || b.hertz === null) return a.hertz === b.hertz && a.from.kind === b.from.kind;
    return Math.abs(a.hertz - b.hertz) <= this.near + 1e-9;
  }

  private sameOutputs({ outputs: a }: Bare, { outputs: b }: Bare): boolean {
    if (this.oneModel) return JSON.stringify(a) === JSON.stringify(b);
    const isOn = (outputs: Outcome['outputs'], { output, closes }: Switched) => {
      const on = outputs[output] ?? null;
      return on === null ? null : on === closes;
    };
    return this.devices.every((each) => {
      const [one, other] = [isOn(a, each.a), isOn(b, each.b)];
      return one === null || other === null || one === other;
    });
  }
}

/** What of an outcome makes a difference one of its kind. */
export function tellingOf(aspect: Aspect, outcome: Bare): unknown {
  switch (aspect) {
    case 'stops':
      return outcome.stops;
    case 'ramps':
      return outcome.ramps;
    case 'outputs':
      return outcome.outputs;
    case 'speed':
      return outcome.setPoint?.from;
    default:
      return [outcome.kind, outcome.direction];
  }
}
