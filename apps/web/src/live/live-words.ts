import type { LiveMeaning, LiveSignal } from '@drive-keep/core/live';
import { displayRaw } from '@drive-keep/core/values';

/** What the trade calls them, whatever the maker does. */
export const LIVE_NAMES: Readonly<Record<LiveMeaning, string>> = {
  frequency: 'Output frequency',
  setpoint: 'Set-point',
  speed: 'Speed',
  current: 'Current',
  torque: 'Torque',
  power: 'Power',
  voltage: 'Output voltage',
  busVoltage: 'Bus voltage',
  motorLoad: 'Motor load (thermal)',
  unitTemperature: 'Unit temperature',
  motorTemperature: 'Motor temperature',
  position: 'Position',
  follow: 'Following error',
  loopActual: 'Actual value of the loop',
  loopSetpoint: 'Set-point of the loop',
  loopError: 'Error of the loop',
  analog1: 'Analog input 1',
  analog2: 'Analog input 2',
  analogOutput: 'Analog output',
};

/** The same of a trace, which may have been brought with a name of its own. */
export const liveName = (meaning: string): string => LIVE_NAMES[meaning as LiveMeaning] ?? meaning;

/** Number and unit apart, so that columns of numbers stand under each other. */
export function liveText({ parameter }: LiveSignal, raw: number | undefined): { text: string; unit: string } {
  return raw === undefined ? { text: '–', unit: '' } : displayRaw(parameter.form, raw);
}
