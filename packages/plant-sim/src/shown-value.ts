// A live value in the unit in which the model shows it.

import type { Memory } from './memory.ts';
import type { DriveReadings } from './drive-train.ts';

const WATTS: Readonly<Record<string, number>> = { kW: 1000, hp: 745.7 };
const PER_MILLE = 1000;

/** `value` is in the unit of its name: Hz, A, V, W, percent, rpm, °C. */
export function shownValue(name: keyof DriveReadings, value: number, unit: string, memory: Memory): number {
  const fact = (meaning: string, otherwise: number) => memory.value(meaning) ?? otherwise;
  switch (unit) {
    case 'kW':
    case 'hp':
      return value / (WATTS[unit] ?? 1);
    case 'mA':
    case 'mV':
      return value * PER_MILLE;
    case '‰':
      return name === 'current' ? (value / ratedCurrent(memory)) * PER_MILLE : value * 10;
    case 'inc/s':
      return ((value / 60) * fact('scale.increments', 1)) / fact('scale.turns', 1);
    case '%':
      return name === 'setpoint' ? (value / fact('motor.baseFrequency', 50)) * 100 : value;
    default:
      return value;
  }
}

/** In A, whether the model keeps it in A or mA. */
export function ratedCurrent(memory: Memory): number {
  const value = memory.value('motor.ratedCurrent') ?? 1;
  return memory.unitOf('motor.ratedCurrent') === 'mA' ? value / PER_MILLE : value;
}
