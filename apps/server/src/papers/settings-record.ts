// The settings record of a position: every setting of one kept set, with its default and a mark where it differs.

import { PURPOSE_NAMES } from '@drive-keep/api';
import {
  defaultOf,
  isNoise,
  PURPOSES,
  type Dictionary,
  type Facts,
  type Parameter,
} from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import { showRaw, type Reading } from '@drive-keep/core/values';
import type { Paper, PaperRow } from './paper.ts';

export const SETTINGS_COLUMNS = [
  { heading: 'Code', share: 0.1, look: 'code' },
  { heading: 'Parameter', share: 0.36 },
  { heading: 'Value', share: 0.27, look: 'value' },
  { heading: 'Default', share: 0.27, look: 'value' },
] as const;

export function settingsParts(dictionary: Dictionary, facts: Facts, set: ParameterSet): Paper['parts'] {
  return PURPOSES.map((purpose) => ({
    name: PURPOSE_NAMES[purpose],
    rows: dictionary.parameters
      .filter((parameter) => parameter.purpose === purpose && !isNoise(parameter))
      .map((parameter) => rowOf(parameter, facts, set.readings.get(parameter.code))),
  })).filter(({ rows }) => rows.length > 0);
}

function rowOf(parameter: Parameter, facts: Facts, reading: Reading | undefined): PaperRow {
  const usual = defaultOf(parameter, facts);
  return {
    cells: [
      parameter.code,
      parameter.name,
      readingText(parameter, reading),
      usual === undefined ? '–' : showRaw(parameter.form, usual),
    ],
    marked: typeof reading === 'number' && reading !== usual,
  };
}

/** What could not be read is never printed as a value. */
export function readingText({ form }: Parameter, reading: Reading | undefined): string {
  if (reading === undefined) return 'not there';
  return typeof reading === 'number' ? showRaw(form, reading) : `? not readable (${reading.unreadable})`;
}
