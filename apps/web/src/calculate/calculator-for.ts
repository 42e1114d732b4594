// Which calculator tells more of a finding or of a parameter, with the values of its position filled in.

import type { CheckFindingView } from '@drive-keep/api';

const OF_MOTOR = [
  'ramp-too-short',
  'braking-too-short',
  'current-over-plate',
  'current-over-unit',
  'limit-over-unit',
  'overload-over-plate',
  'plate-frequency',
  'plate-voltage',
  'v-per-hertz',
  'supply-below',
  'maximum-over-motor',
  'speed-poles',
  'power-contradicts',
  'hp-for-kw',
  'star-for-delta',
  'off-by',
];
const OF_SIGNAL = ['signal-board', 'signal-sender', 'live-zero-unwatched', 'loss-unseen', 'curve-flat'];
const OF_LOOP = ['loop-no-feedback', 'loop-sense', 'loop-setpoint', 'loop-limits'];

interface Way {
  readonly to: string;
  readonly name: string;
}

const motor = (tag: string): Way => ({
  to: `/calculate/motor?position=${encodeURIComponent(tag)}`,
  name: 'Motor calculator',
});
const signal = (tag: string, input: string | undefined): Way => ({
  to: `/calculate/signal?position=${encodeURIComponent(tag)}${input === undefined ? '' : `&input=${input}`}`,
  name: 'Signal calculator',
});

export function calculatorFor(
  { check, identity }: Pick<CheckFindingView, 'check' | 'identity'>,
  tag: string,
): Way | undefined {
  if (OF_MOTOR.includes(check)) return motor(tag);
  const isSignal = OF_SIGNAL.includes(check) || OF_LOOP.includes(check);
  return isSignal ? signal(tag, /signal (\d+)$/.exec(identity)?.[1]) : undefined;
}

const MOTOR = /^(motor|limit\.current|carrier|protect\.overload|ramp\.(up|down)$|frequency\.maximum)/;
const SIGNAL = /^(analog\.(\d+)|loop\.(setpoint|scale|feedback))/;

/** By the meaning of a parameter. */
export function calculatorOf(meaning: string | null, tag: string): Way | undefined {
  if (meaning === null) return undefined;
  if (MOTOR.test(meaning)) return motor(tag);
  const found = SIGNAL.exec(meaning);
  return found ? signal(tag, found[2]) : undefined;
}
