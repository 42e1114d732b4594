// Shares of a signal at which the speed bends or jumps: a speed that agrees there and between them agrees everywhere.

import { meaningOf } from '../values/index.ts';
import type { FieldDevice } from '../wiring/index.ts';
import { SIGNAL_ENDS } from './circuit.ts';
import type { AnalogInput, Machine } from './machine.ts';

/** Speeds at which something begins to hold. */
const LEVELS = [
  ...(['frequency.minimum', 'frequency.maximum', 'output.level'] as const),
  ...['1', '2', '3'].flatMap((band) => [`skip.${band}.from`, `skip.${band}.to`]),
].map(meaningOf);

/** Shares of a device, from 0 to 1: where one of the machines bends, and one place between any two of these. */
export function cornersOf(device: FieldDevice, machines: readonly Machine[]): readonly number[] {
  const sent = device.kind === 'transmitter' ? device.signal : '0-10-v';
  const [low, high] = SIGNAL_ENDS[sent] ?? [0, 1];
  const bends = machines.flatMap((machine) =>
    machine.analogs.flatMap((input) => {
      const [from, to] = SIGNAL_ENDS[input.signal ?? ''] ?? [low, high];
      return bendsOf(machine, input).map((share) => (from + share * (to - from) - low) / (high - low));
    }),
  );
  const inside = bends.filter((share) => share > 0 && share < 1);
  const corners = [...new Set([0, ...inside, 1])].sort((one, other) => one - other);
  return corners.flatMap((share, at) => {
    const next = corners[at + 1];
    return next === undefined ? [share] : [share, (share + next) / 2];
  });
}

/** In shares of the signal that the input wants. */
function bendsOf({ set }: Machine, { curve }: AnalogInput): readonly number[] {
  if (!curve) return [];
  const levels = LEVELS.flatMap((meaning) => {
    const plain = set.get(meaning);
    return plain.kind === 'number' ? [plain.value, -plain.value] : [];
  });
  return curve.points.flatMap((point, at) => {
    const next = curve.points[at + 1];
    if (!next || next.value === point.value) return [point.signal];
    const crossed = [0, ...levels].map(
      (level) =>
        point.signal + ((next.signal - point.signal) * (level - point.value)) / (next.value - point.value),
    );
    return [point.signal, ...crossed.filter((share) => share >= point.signal && share <= next.signal)];
  });
}
