// The record of a comparison: what was found, since when, and what was decided about it.

import { PURPOSE_NAMES, type DecisionView, type DifferenceOrigin } from '@drive-keep/api';
import { describeChange, type ComparisonRow } from '@drive-keep/core/compare';
import { findParameter, PURPOSES, type Dictionary } from '@drive-keep/core/dictionary';
import type { Paper, PaperRow } from './paper.ts';
import { paperTime } from './paper-time.ts';
import { readingText } from './settings-record.ts';

export const COMPARISON_COLUMNS = [
  { heading: 'Code', share: 0.08, look: 'code' },
  { heading: 'Parameter', share: 0.16 },
  { heading: 'A', share: 0.13, look: 'value' },
  { heading: 'B', share: 0.13, look: 'value' },
  { heading: 'From A to B', share: 0.12 },
  { heading: 'What it does', share: 0.2 },
  { heading: 'Decision, or since when', share: 0.18 },
] as const;

export interface Found {
  readonly rows: readonly ComparisonRow[];
  readonly decisions: ReadonlyMap<string, DecisionView>;
  readonly origins: ReadonlyMap<string, DifferenceOrigin>;
  /** What a difference alone does with the contacts, by code. */
  readonly does: Readonly<Record<string, string>>;
}

export function comparisonParts(dictionary: Dictionary, found: Found): Paper['parts'] {
  const lines = found.rows.flatMap((row) => {
    const parameter = findParameter(dictionary, row.code);
    return parameter ? [{ row, parameter }] : [];
  });
  return PURPOSES.map((purpose) => ({
    name: PURPOSE_NAMES[purpose],
    rows: lines
      .filter(({ parameter }) => parameter.purpose === purpose)
      .map(({ row, parameter }): PaperRow => ({
        cells: [
          row.code,
          parameter.name,
          readingText(parameter, row.a),
          readingText(parameter, row.b),
          describeChange(parameter, row.a, row.b),
          found.does[row.code] ?? '',
          remarkOf(row.code, found),
        ],
        marked: !found.decisions.has(row.code),
      })),
  })).filter(({ rows }) => rows.length > 0);
}

const DECIDED: Readonly<Record<DecisionView['kind'], string>> = {
  'put-back': 'goes back',
  'take-in': 'into the baseline',
  tolerate: 'tolerated',
  later: 'look later',
};

function remarkOf(code: string, { decisions, origins }: Found): string {
  const decision = decisions.get(code);
  if (decision) {
    const until = decision.until ? ` until ${decision.until}` : '';
    const reason = decision.reason === '' ? '' : `: ${decision.reason}`;
    return `${DECIDED[decision.kind]}${until}, ${decision.person}${reason}`;
  }
  const origin = origins.get(code);
  if (!origin) return 'not decided';
  return `not decided; since ${paperTime(new Date(origin.since))}, ${origin.by}`;
}
