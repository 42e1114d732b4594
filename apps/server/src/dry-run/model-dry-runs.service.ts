// A set and a wiring out of files, for a model of which no drive stands anywhere. Nothing is kept.

import { Injectable } from '@nestjs/common';
import type { DryRunSetView, DryRunWiringView } from '@drive-keep/api';
import { factsOf, type Outfit } from '@drive-keep/core/dictionary';
import { hasStop } from '@drive-keep/core/findings';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import type { UploadedFile } from '../file-content/uploaded-file.ts';
import { MOST_FINDINGS, SetImport } from '../files/set-import.service.ts';
import { findingView } from '../problems/finding-view.ts';
import { ProblemException } from '../problems/problem.ts';
import { Wirings } from '../wiring/wirings.service.ts';

@Injectable()
export class ModelDryRuns {
  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly sets: SetImport,
    private readonly wirings: Wirings,
  ) {}

  async set(id: string, outfit: Outfit, file: UploadedFile): Promise<DryRunSetView> {
    const dictionary = await this.dictionaries.get(id);
    if (!factsOf(dictionary, outfit))
      throw new ProblemException(
        422,
        'no-such-outfit',
        `${dictionary.name} has no rating ${outfit.rating} in region ${outfit.region}. Choose one that it has.`,
      );
    const { read } = await this.sets.readFor(dictionary, outfit, file);
    const acceptable = !hasStop(read.findings);
    return {
      ...{ title: file.originalname, acceptable },
      findings: read.findings.slice(0, MOST_FINDINGS).map(findingView),
      readings: acceptable ? [...read.set.readings] : [],
    };
  }

  async wiring(id: string, file: UploadedFile): Promise<DryRunWiringView> {
    return this.wirings.readFor(await this.dictionaries.get(id), file);
  }
}
