// Which calculator tells more of a finding, with the values of its position filled in.

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

export function calculatorFor(
  { check, identity }: Pick<CheckFindingView, 'check' | 'identity'>,
  tag: string,
): { readonly to: string; readonly name: string } | undefined {
  const position = `position=${encodeURIComponent(tag)}`;
  if (OF_MOTOR.includes(check)) return { to: `/calculate/motor?${position}`, name: 'Motor calculator' };
  if (!OF_SIGNAL.includes(check) && !OF_LOOP.includes(check)) return undefined;
  const input = /signal (\d+)$/.exec(identity)?.[1];
  return {
    to: `/calculate/signal?${position}${input === undefined ? '' : `&input=${input}`}`,
    name: 'Signal calculator',
  };
}
