// Identification of the motor by a model: what asks for it, what it measures, and what has to be selected afterwards.

import type { Dictionary, Parameter } from '../dictionary/index.ts';
import type { Option } from '../values/index.ts';

export interface Identification {
  /** Asks for it; it begins with the next run command, which is given at the machine. */
  readonly start: Parameter;
  readonly off: Option | null;
  /** `standing`, `turning`, or at each start. */
  readonly ways: readonly Option[];
  /** Selects what was measured; nothing where the model always uses it. */
  readonly use: Parameter | null;
  readonly identified: Option | null;
  readonly measured: readonly Parameter[];
  /** What has to be entered before. */
  readonly plate: readonly Parameter[];
}

const PLATE = [
  'motor.kind',
  'motor.ratedPower',
  'motor.ratedVoltage',
  'motor.ratedCurrent',
  'motor.baseFrequency',
  'motor.ratedSpeed',
  'motor.poles',
  'motor.powerFactor',
];

/** Nothing where the model has no identification that a parameter asks for. */
export function identificationOf({ parameters }: Dictionary): Identification | undefined {
  const of = (name: string) => parameters.find(({ meaning }) => meaning === name);
  const start = of('identify.start');
  if (start?.form.kind !== 'option') return undefined;
  const use = of('identify.use') ?? null;
  const chosen = (parameter: Parameter | null, meaning: string): Option | null =>
    parameter?.form.kind === 'option'
      ? (parameter.form.options.find((option) => option.meaning === meaning) ?? null)
      : null;
  return {
    start,
    off: chosen(start, 'off'),
    ways: start.form.options.filter(({ meaning }) => meaning !== 'off'),
    use,
    identified: chosen(use, 'identified'),
    measured: parameters.filter(
      ({ keeping, meaning, register }) =>
        keeping === 'measured' && (meaning?.startsWith('motor.') ?? false) && register !== null,
    ),
    plate: PLATE.flatMap((name) => of(name) ?? []),
  };
}
