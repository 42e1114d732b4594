// One successor held against many positions of an old model: which rating each would take, whether it fits, and what would be
// asked. Without the walk: that is for the sheet of one of them.

import { sayingsFrom, type Saying } from './sayings.ts';
import { replaceBy, type SheetInput } from './sheet.ts';
import { cautionsOf } from './cautions.ts';
import type { FitState } from './fit.ts';

export interface Surveyed {
  readonly rating: string;
  readonly state: FitState;
  /** Lines of the settings that wait for somebody. */
  readonly open: readonly SurveyedQuestion[];
  /** Wires without a place on the successor. */
  readonly lost: number;
}

/** The same line of another position asks the same. */
export interface SurveyedQuestion {
  readonly part: 'setting' | 'point';
  readonly line: string;
  readonly text: string;
  /** Nothing where only a reason is asked. */
  readonly choices: readonly string[] | null;
}

export function survey(input: Omit<SheetInput, 'sayings'>, said: readonly Saying[]): Surveyed {
  const sayings = sayingsFrom(said);
  const { ratings, rating, replacement } = replaceBy({ ...input, sayings });
  const { settings, wires } = replacement;
  const asked = settings.lines
    .filter(({ open }) => open)
    .map(({ id, code, question }): SurveyedQuestion => ({
      ...{ part: 'setting', line: id },
      text: question ? question.ask : `What becomes of ${code}?`,
      choices: question ? question.choices.map(({ text }) => text) : null,
    }));
  const cautions = cautionsOf(input.old.set.dictionary, input.fresh, input.old.wiring, wires)
    .map(({ id, text }): SurveyedQuestion => ({ part: 'point', line: `caution ${id}`, text, choices: null }))
    .filter(({ line }) => !sayings.accepted.has(line));
  return {
    rating,
    state: ratings.find(({ id }) => id === rating)?.state ?? 'ask',
    open: [...asked, ...cautions],
    lost: wires.moves.filter(({ to }) => to === null).length,
  };
}
