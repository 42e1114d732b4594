// The sheet of a replacement, worked out from what the server tells of it. Runs in a worker; without one (as in tests) in place.

import type { VocabularyView } from '@drive-keep/api';
import type { Code, Dictionary, Outfit } from '@drive-keep/core/dictionary';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import {
  readCrossReference,
  replacementSheet,
  sayingsFrom,
  type CrossFault,
  type ReplacementSheet,
  type Saying,
} from '@drive-keep/core/replace';
import type { Reading } from '@drive-keep/core/values';
import { wiringOf } from '../dry-run/dry-runner.ts';

export interface SheetQuestion {
  readonly old: Dictionary;
  readonly outfit: Outfit;
  readonly readings: readonly (readonly [code: string, reading: Reading])[];
  /** Rows of its table. */
  readonly wiring: readonly (readonly string[])[];
  readonly onLine: boolean;
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
}

export function sheetAnswer(question: SheetQuestion): SheetAnswer {
  const { vocabulary, old, fresh, outfit, onLine, region, rating } = question;
  const words = new Vocabulary(vocabulary.entries, vocabulary.functions);
  const bridge = new Bridge(words);
  const readings = new Map(question.readings.map(([code, reading]) => [code as Code, reading]));
  const read = question.cross === null ? null : readCrossReference(question.cross, old, fresh);
  const sheet = replacementSheet({
    ...{ bridge, words, fresh, region, rating },
    old: { set: bridge.read(old, outfit, readings), outfit, wiring: wiringOf(question.wiring), onLine },
    cross: read?.ok ? read.value : null,
    sayings: sayingsFrom(question.sayings),
  });
  return { sheet, faults: read && !read.ok ? read.fault : [] };
}
