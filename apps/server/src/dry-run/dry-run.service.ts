// What a dry run needs to know of a position. The computation itself is core's, in the browser's worker.

import { Injectable } from '@nestjs/common';
import type { DryRunView } from '@drive-keep/api';
import { NO_WIRING, wiringRows } from '@drive-keep/core/wiring';
import { PositionSets } from '../compare/position-sets.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';

@Injectable()
export class DryRuns {
  constructor(
    private readonly register: Register,
    private readonly sets: PositionSets,
    private readonly wirings: Wirings,
  ) {}

  async of(tag: string, reference: string): Promise<DryRunView> {
    const at = await this.register.unitAt(tag);
    const { unit, position } = at;
    const { title, when, set } = await this.sets.of(at, reference);
    if (set.dictionary !== unit.dictionaryId)
      throw new ProblemException(
        422,
        'other-model',
        `${title} is of ${set.dictionary}, and ${unit.dictionaryId} sits at ${tag} now: its wiring belongs to that.`,
      );
    const kept = await this.wirings.newest(position.id, tag);
    return {
      ...{ tag, duty: position.duty, title, at: when, reference, dictionary: set.dictionary },
      ...{ rating: unit.rating, region: unit.region },
      readings: [...set.readings],
      wiring: wiringRows(kept?.wiring ?? NO_WIRING),
      wiringRevision: kept?.revision ?? 0,
    };
  }
}
