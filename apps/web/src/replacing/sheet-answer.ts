// The sheet of a replacement, worked out from what the server tells of it. Runs in a worker; without one (as in tests) in place.

import type { VocabularyView } from '@drive-keep/api';
import type { Code, Dictionary, Outfit } from '@drive-keep/core/dictionary';
import { Bridge, Vocabulary, type PlainSet } from '@drive-keep/core/meanings';
import {
  readCrossReference,
  replacementSheet,
  sayingsFrom,
  type CrossFault,
  type ReplacementSheet,
  type Saying,
} from '@drive-keep/core/replace';
import type { TableFacts, TableKey } from '@drive-keep/core/tables';
import { meaningOf, type Reading } from '@drive-keep/core/values';
import { wiringOf } from '../dry-run/dry-runner.ts';

export interface SheetQuestion {
  readonly old: Dictionary;
  readonly outfit: Outfit;
  readonly readings: readonly (readonly [code: string, reading: Reading])[];
  /** Rows of its table. */
  readonly wiring: readonly (readonly string[])[];
  readonly onLine: boolean;
  /** In its cabinet, in °C; nothing where it is not known. */
  readonly ambient: number | null;
  readonly fresh: Dictionary;
  readonly region: string;
  /** Nothing: the smallest rating that fits. */
  readonly rating: string | null;
  /** The cross-reference; nothing where there is none. */
  readonly cross: string | null;
  readonly vocabulary: VocabularyView;
  readonly sayings: readonly Saying[];
}

export interface SheetAnswer {
  readonly sheet: ReplacementSheet;
  /** Of the cross-reference, where it cannot be read. */
  readonly faults: readonly CrossFault[];
  /** The plate of the motor, as the old unit holds it. */
  readonly motor: TableFacts;
}

export function sheetAnswer(question: SheetQuestion): SheetAnswer {
  const { vocabulary, old, fresh, outfit, onLine, ambient, region, rating } = question;
  const words = new Vocabulary(vocabulary.entries, vocabulary.functions);
  const bridge = new Bridge(words);
  const readings = new Map(question.readings.map(([code, reading]) => [code as Code, reading]));
  const read = question.cross === null ? null : readCrossReference(question.cross, old, fresh);
  const set = bridge.read(old, outfit, readings);
  const sheet = replacementSheet({
    ...{ bridge, words, fresh, region, rating },
    old: { set, outfit, wiring: wiringOf(question.wiring), onLine, ambient },
    cross: read?.ok ? read.value : null,
    sayings: sayingsFrom(question.sayings),
  });
  return { sheet, faults: read && !read.ok ? read.fault : [], motor: motorOf(set) };
}

const PLATE = {
  motor_kw: 'motor.ratedPower',
  motor_a: 'motor.ratedCurrent',
  motor_v: 'motor.ratedVoltage',
  motor_rpm: 'motor.ratedSpeed',
} as const satisfies Partial<Record<TableKey, string>>;

/** Rounded as a plate is: the way through another unit leaves dust behind. */
function motorOf(set: PlainSet): TableFacts {
  const facts = Object.entries(PLATE).flatMap(([key, meaning]): [string, number][] => {
    const plain = set.get(meaningOf(meaning));
    return plain.kind === 'number' ? [[key, Number(plain.value.toPrecision(6))]] : [];
  });
  return Object.fromEntries(facts);
}
