// The sheet of a draft as it is kept, worked out in a process of its own.

import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { Injectable } from '@nestjs/common';
import type { DraftFieldView } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import type { DraftSheet, KeptDraft } from '@drive-keep/core/start';
import type { Reading } from '@drive-keep/core/values';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import type { SettingsDraft } from '../drafts/settings-draft.entity.ts';
import { inOwnProcess, type Bounds } from '../file-content/own-process.ts';
import { ProblemException } from '../problems/problem.ts';
import { ContentStore } from '../sets/content-store.service.ts';

const PROGRAM = fileURLToPath(new URL('../../workers/draft-process.mjs', import.meta.url));
const BOUNDS: Bounds = { memoryMb: 512, ms: 30_000 };

export interface WorkedDraft {
  readonly sheet: Omit<DraftSheet, 'readings'>;
  readonly set: ParameterSet;
}

@Injectable()
export class DraftSheets {
  private readonly underWay = new Map<string, Promise<WorkedDraft>>();

  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
    private readonly contents: ContentStore,
  ) {}

  /** Many people may look at one draft at the same time: what stands alike is worked out once for all who wait for it. */
  of(draft: SettingsDraft, fields: readonly DraftFieldView[]): Promise<WorkedDraft> {
    const state = JSON.stringify([{ ...draft, position: null }, fields]);
    const key = createHash('sha256').update(state).digest('hex');
    const under = this.underWay.get(key);
    if (under) return under;
    const working = this.work(draft, fields).finally(() => this.underWay.delete(key));
    this.underWay.set(key, working);
    return working;
  }

  private async work(draft: SettingsDraft, fields: readonly DraftFieldView[]): Promise<WorkedDraft> {
    const kept = await this.kept(draft, fields);
    const { entries, functions } = this.meanings.vocabulary;
    const task = { entries, functions, kept };
    const made = await inOwnProcess<{ sheet: WorkedDraft['sheet']; readings: [Code, number][] }>(
      PROGRAM,
      task,
      BOUNDS,
    );
    if (!made)
      throw new ProblemException(
        503,
        'sheet-takes-too-long',
        'The sheet could not be worked out in half a minute. Try again when the server has less to do. Nothing was changed.',
      );
    const readings = new Map<Code, Reading>(made.readings);
    return { sheet: made.sheet, set: { dictionary: kept.dictionary.id, readings } };
  }

  private async kept(draft: SettingsDraft, fields: readonly DraftFieldView[]): Promise<KeptDraft> {
    const { region, rating, pointContent: point } = draft;
    const dictionary = await this.dictionaries.get(draft.dictionaryId);
    return { dictionary, region, rating, point, base: await this.base(draft), fields };
  }

  private async base(draft: SettingsDraft): Promise<KeptDraft['base']> {
    const { baseHash, baseTitle, baseRating, baseRegion, baseWiring, crossContent: cross } = draft;
    if (baseHash === null) return null;
    const set = await this.contents.get(baseHash);
    return {
      dictionary: await this.dictionaries.get(set.dictionary),
      ...{ title: baseTitle ?? '', rating: baseRating ?? '', region: baseRegion ?? '', cross },
      ...{ readings: [...set.readings], wiring: baseWiring ?? '' },
    };
  }
}
