// What a file says otherwise than the newest backup and the baseline: seen before anything of it is kept.

import { Injectable } from '@nestjs/common';
import type { FileDifferences } from '@drive-keep/api';
import { compareSets, describeChange } from '@drive-keep/core/compare';
import { findParameter, type Dictionary } from '@drive-keep/core/dictionary';
import { isPartial } from '@drive-keep/core/formats';
import type { ParameterSet } from '@drive-keep/core/sets';
import { showRaw, type Reading } from '@drive-keep/core/values';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { History } from '../sets/history.service.ts';

const MOST_TOLD = 200;

@Injectable()
export class FilesAgainstKept {
  constructor(
    private readonly backups: Backups,
    private readonly history: History,
    private readonly contents: ContentStore,
  ) {}

  async of(
    positionId: string,
    dictionary: Dictionary,
    set: ParameterSet,
  ): Promise<readonly FileDifferences[]> {
    const newest = await this.backups.newest(positionId);
    const baseline = (await this.history.baselines(positionId)).at(-1);
    const kept = [
      ...(newest
        ? [
            {
              reference: 'newest' as const,
              title: 'the newest backup',
              at: newest.takenAt,
              hash: newest.contentHash,
            },
          ]
        : []),
      ...(baseline
        ? [
            {
              ...{ reference: 'baseline' as const, title: `baseline ${baseline.revision}` },
              ...{ at: baseline.signedAt, hash: baseline.contentHash },
            },
          ]
        : []),
    ];
    const told: FileDifferences[] = [];
    for (const { hash, at, ...each } of kept) {
      const before = await this.contents.get(hash);
      // Of another model: nothing of it can be held against the file.
      if (before.dictionary !== set.dictionary) continue;
      const count = rowsOf(dictionary, before, set);
      told.push({ ...each, at: at.toISOString(), count: count.length, first: count.slice(0, MOST_TOLD) });
    }
    return told;
  }
}

function rowsOf(dictionary: Dictionary, before: ParameterSet, after: ParameterSet): FileDifferences['first'] {
  const untold = isPartial(dictionary, after.readings)
    ? new Set(dictionary.parameters.map(({ code }) => code).filter((code) => !after.readings.has(code)))
    : new Set<never>();
  return compareSets(dictionary, before, after, { noise: false, untold }).rows.flatMap(({ code, a, b }) => {
    const parameter = findParameter(dictionary, code);
    if (!parameter) return [];
    const show = (reading: Reading | undefined) =>
      reading === undefined
        ? 'not told'
        : typeof reading === 'object'
          ? 'unreadable'
          : showRaw(parameter.form, reading);
    const change = describeChange(parameter, a, b);
    return [{ code, name: parameter.name, before: show(a), after: show(b), change }];
  });
}
