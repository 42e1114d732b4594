// What a dictionary does not tell, and what therefore does not work with its model. Nothing of it stops the rest.

import { finding, type Finding, type FindingCode } from '../findings/index.ts';
import type { Dictionary, LineFacts } from './dictionary.ts';

/** The sections in which a model is completed; the first of each pair is the key in model.yaml. */
export const MODEL_SECTIONS = [
  'names',
  'ratings',
  'regions',
  'line',
  'conventions',
  'behaviour',
  'derating',
  'keypad',
  'procedures',
  'effects',
  'terminals',
  'parameters',
  'faults',
] as const;
export type ModelSection = (typeof MODEL_SECTIONS)[number];

/** Gaps that are told without a count. */
type PlainGap = Exclude<Extract<FindingCode, `gap-${string}`>, 'gap-some-registers' | 'gap-meanings'>;
type Gap = (section: ModelSection, code: PlainGap) => void;

/** `column` is the section in which it would be told. In the order of the sections. */
export function gapsOf(dictionary: Dictionary): readonly Finding[] {
  const gaps: Finding[] = [];
  const gap: Gap = (section, code) => gaps.push(finding('look', { column: section }, code, {}));
  const { line, keypad, procedures, conventions, terminals, effects, parameters } = dictionary;
  const { behaviour, ratings } = dictionary;
  if (ratings.every(({ facts }) => Object.keys(facts).length === 0)) gap('ratings', 'gap-ratings');
  if (!line) gap('line', 'gap-line');
  else lineGaps(line, gap);
  if (Object.keys(conventions).length === 0) gap('conventions', 'gap-conventions');
  if (Object.keys(behaviour).length === 0) gap('behaviour', 'gap-behaviour');
  if (!keypad) gap('keypad', 'gap-keypad');
  if (procedures.every(({ purpose }) => purpose !== 'reset')) gap('procedures', 'gap-reset');
  if (effects.length === 0) gap('effects', 'gap-effects');
  if (!terminals) gap('terminals', 'gap-terminals');
  if (line && parameters.every(({ register }) => register === null)) gap('parameters', 'gap-registers');
  if (dictionary.faults.length === 0) gap('faults', 'gap-faults');
  return [...gaps, ...countedGaps(dictionary)];
}

function lineGaps({ identity, status, fault, save, restart }: LineFacts, gap: Gap): void {
  if (!identity.serial) gap('line', 'gap-serial');
  if (!identity.model) gap('line', 'gap-model-number');
  if (identity.firmware === null) gap('line', 'gap-firmware');
  if (!status) gap('line', 'gap-status');
  if (!fault) gap('line', 'gap-fault');
  if (!save) gap('line', 'gap-save');
  if (!restart) gap('line', 'gap-restart');
}

function countedGaps({ line, parameters }: Dictionary): readonly Finding[] {
  const settings = parameters.filter(({ access, keeping }) => access !== 'read' && keeping === 'setting');
  const silent = settings.filter(({ register }) => register === null).length;
  const unnamed = settings.filter(({ meaning }) => meaning === null).length;
  const of = settings.length;
  const place = { column: 'parameters' };
  return [
    ...(line && silent > 0 && silent < of
      ? [finding('look', place, 'gap-some-registers', { count: silent, of })]
      : []),
    ...(unnamed > 0 ? [finding('look', place, 'gap-meanings', { count: unnamed, of })] : []),
  ];
}
