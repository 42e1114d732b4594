// Words of papers: the same as on the screens, in the plant's own time.

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

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const two = (number: number): string => String(number).padStart(2, '0');

/** 24 Nov 2026 14:05 */
export const paperTime = (time: Date): string =>
  `${time.getDate()} ${MONTHS[time.getMonth()] ?? ''} ${time.getFullYear()} ${two(time.getHours())}:${two(time.getMinutes())}`;
