import type { Purpose } from '@drive-keep/core/dictionary';

export const PURPOSE_NAMES: Readonly<Record<Purpose, string>> = {
  motor: 'Motor',
  ramps: 'Ramps and limits',
  commands: 'Commands',
  io: 'Inputs and outputs',
  loop: 'Control loop',
  protection: 'Protection',
  communication: 'Communication',
  other: 'Not sorted',
  monitor: 'Monitors and counters',
};
