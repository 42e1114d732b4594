// What the differences between two sets of one unit do, in a worker.

import type { DryRunView } from '@drive-keep/api';
import { effectsOf, type EffectLimits, type Effects } from '@drive-keep/core/behaviour';
import type { Code } from '@drive-keep/core/dictionary';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import { wiringOf, type DryRunInput } from './dry-runner.ts';

export interface DifferenceInput extends DryRunInput {
  /** The set before; `view` is the one that is compared with it. */
  readonly before: DryRunView;
}

const LIMITS: EffectLimits = { together: 200_000, alone: 30_000 };

export function behaviourDifference({ view, before, dictionary, vocabulary }: DifferenceInput): Effects {
  const bridge = new Bridge(new Vocabulary(vocabulary.entries, vocabulary.functions));
  const readingsOf = ({ readings }: DryRunView) =>
    new Map(readings.map(([code, reading]) => [code as Code, reading]));
  return effectsOf(
    bridge,
    {
      ...{ dictionary, wiring: wiringOf(view.wiring), before: readingsOf(before), after: readingsOf(view) },
      outfit: { rating: view.rating, region: view.region },
    },
    LIMITS,
  );
}
