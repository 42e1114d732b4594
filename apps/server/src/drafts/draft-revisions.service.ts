// Revisions of drafts as they were kept, each looked at by its hash before anything of it counts, and what they say for one unit.

import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { DraftRecord } from '@drive-keep/api';
import { findMeaning, type Code, type Dictionary } from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import { meaningOf, type Reading } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { notFound, ProblemException } from '../problems/problem.ts';
import { isUuid } from '../storage/uuid.ts';
import { DraftRevision } from './draft-revision.entity.ts';
import { SettingsDraft } from './settings-draft.entity.ts';

export interface KeptRevision {
  readonly revision: DraftRevision;
  readonly record: DraftRecord;
  readonly title: string;
}

@Injectable()
export class DraftRevisions {
  constructor(private readonly dataSource: DataSource) {}

  async get(id: string): Promise<KeptRevision> {
    const revision = isUuid(id)
      ? await this.dataSource
          .getRepository(DraftRevision)
          .createQueryBuilder('r')
          .addSelect('r.record')
          .where('r.id = :id', { id })
          .getOne()
      : null;
    if (!revision) throw notFound('This revision of a draft');
    const { name } = await this.dataSource
      .getRepository(SettingsDraft)
      .findOneByOrFail({ id: revision.draftId });
    const title = titleOf(name, revision.revision);
    if (revisionHash(revision) !== revision.hash) {
      const detail = `${title} is damaged: nothing of it is shown or used. Restore a copy of the database, or keep the draft once more.`;
      throw new ProblemException(500, 'draft-damaged', detail);
    }
    return { revision, title, record: JSON.parse(revision.record) as DraftRecord };
  }

  /** Those whose kept words are not what they were, by their names. */
  async damaged(): Promise<readonly string[]> {
    const all = await this.dataSource
      .getRepository(DraftRevision)
      .createQueryBuilder('r')
      .addSelect('r.record')
      .getMany();
    const names = new Map(
      (await this.dataSource.getRepository(SettingsDraft).find()).map(({ id, name }) => [id, name]),
    );
    return all
      .filter((each) => revisionHash(each) !== each.hash)
      .map(({ draftId, revision }) => titleOf(names.get(draftId) ?? '', revision));
  }
}

const titleOf = (name: string, revision: number): string => `Revision ${revision} of the draft "${name}"`;

export const revisionHash = (kept: Omit<DraftRevision, 'id' | 'hash'>): string => {
  const all = [
    ...[kept.draftId, kept.revision, kept.dictionaryId, kept.rating, kept.region, kept.contentHash],
    ...[
      kept.wiring,
      kept.chosen,
      kept.changes,
      kept.record,
      kept.why,
      kept.keptBy,
      kept.keptAt.toISOString(),
    ],
  ];
  return `sha256:${createHash('sha256').update(JSON.stringify(all)).digest('hex')}`;
};

/** Settings of the one unit, whatever it drives. */
const isOwn = (meaning: string | null): boolean =>
  meaning !== null && (meaning.startsWith('network.') || meaning === 'unit.lock');

/**
 * What the draft says for one unit: how it is reached and locked stays as it is there, and so does what it measured on its motor,
 * but where somebody has chosen it on the sheet.
 */
export function forUnit(
  dictionary: Dictionary,
  set: ParameterSet,
  chosen: readonly string[],
  held: ParameterSet | undefined,
  lineAddress: number | null,
): ParameterSet {
  const readings = new Map<Code, Reading>(set.readings);
  const address = findMeaning(dictionary, meaningOf('network.address'))?.code;
  for (const { code, meaning, keeping } of dictionary.parameters) {
    if (chosen.includes(code) || !(isOwn(meaning) || keeping === 'measured')) continue;
    const own = held?.dictionary === dictionary.id ? held.readings.get(code) : undefined;
    if (own !== undefined) readings.set(code, own);
    else if (code === address && lineAddress !== null) readings.set(code, lineAddress);
    else readings.delete(code);
  }
  return { dictionary: dictionary.id, readings };
}
