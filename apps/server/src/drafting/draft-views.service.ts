// A draft as people see it: what it begins with, the last word of each field, what was kept of it and made of that.

import { Injectable } from '@nestjs/common';
import type { DraftFieldView, DraftMark, DraftUseView, SettingsDraftView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { StartingPoints } from '../catalogue/starting-points.service.ts';
import { DraftField } from '../drafts/draft-field.entity.ts';
import { DraftRevision } from '../drafts/draft-revision.entity.ts';
import { SettingsDraft } from '../drafts/settings-draft.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';

@Injectable()
export class DraftViews {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly points: StartingPoints,
    private readonly contents: ContentStore,
  ) {}

  async of(draft: SettingsDraft): Promise<SettingsDraftView> {
    const { id, name, owner, version, state, region, rating } = draft;
    const { endedBy, endedAt, endedWhy } = draft;
    return {
      ...{ id, name, owner, version, state, region, rating },
      startedAt: draft.startedAt.toISOString(),
      ended:
        endedBy !== null && endedAt !== null
          ? { by: endedBy, at: endedAt.toISOString(), why: endedWhy ?? '' }
          : null,
      tag: draft.position?.tag ?? null,
      dictionary: draft.dictionaryId,
      newerDictionary: await this.newer(draft),
      point: await this.point(draft),
      base: await this.base(draft),
      from: await this.from(draft),
      fields: await this.fields(id),
      revisions: await this.revisions(id),
      uses: await this.uses(id),
    };
  }

  /** Last words, each with what somebody else said before where that was something else. */
  async fields(draftId: string): Promise<readonly DraftFieldView[]> {
    const all = await this.dataSource
      .getRepository(DraftField)
      .find({ where: { draftId }, order: { id: 'ASC' } });
    const byKey = new Map<string, DraftField[]>();
    for (const each of all) byKey.set(each.key, [...(byKey.get(each.key) ?? []), each]);
    return [...byKey.values()].flatMap((words): DraftFieldView[] => {
      const last = words.at(-1);
      if (!last) return [];
      const other = words.findLast(({ saidBy }) => saidBy !== last.saidBy);
      const differs = other !== undefined && other.text !== last.text;
      return [
        {
          ...{ key: last.key, text: last.text, why: last.why, id: last.id, by: last.saidBy },
          at: last.saidAt.toISOString(),
          other: differs ? { by: other.saidBy, at: other.saidAt.toISOString(), text: other.text } : null,
        },
      ];
    });
  }

  async marks(tag?: string): Promise<readonly DraftMark[]> {
    const rows: {
      id: string;
      changed_at: Date;
      changed_by: string;
      revisions: number;
    }[] = await this.dataSource.query(
      `select d.id, coalesce(f.said_at, d.started_at) as changed_at, coalesce(f.said_by, d.owner) as changed_by,
              (select count(*)::int from draft_revision r where r.draft_id = d.id) as revisions
       from settings_draft d
       left join lateral (select said_at, said_by from draft_field where draft_id = d.id order by id desc limit 1) f on true`,
    );
    const drafts = await this.dataSource.getRepository(SettingsDraft).find({
      where: tag === undefined ? {} : { position: { tag } },
      relations: { position: true },
      order: { startedAt: 'DESC' },
    });
    const names = new Map(
      (await this.dictionaries.all()).map((each) => [each.id, `${each.maker} ${each.name}`]),
    );
    return drafts.flatMap((draft): DraftMark[] => {
      const row = rows.find(({ id }) => id === draft.id);
      if (!row) return [];
      return [
        {
          ...{ id: draft.id, name: draft.name, owner: draft.owner, state: draft.state },
          ...{ tag: draft.position?.tag ?? null, model: names.get(draft.dictionaryId) ?? draft.dictionaryId },
          ...{ rating: draft.rating, begins: this.beginsOf(draft), revisions: row.revisions },
          startedAt: draft.startedAt.toISOString(),
          ...{ changedAt: row.changed_at.toISOString(), changedBy: row.changed_by },
        },
      ];
    });
  }

  beginsOf({ pointContent, baseTitle }: SettingsDraft): string {
    if (baseTitle !== null) return `As ${baseTitle}`;
    if (pointContent === null) return 'As delivered';
    return this.points.ofText(pointContent)?.name ?? 'A starting point';
  }

  /** What came in while the draft was worked on; versions for other firmware that were there before are no news. */
  private async newer({ dictionaryId, startedAt }: SettingsDraft): Promise<string | null> {
    const all = await this.dictionaries.all();
    const own = all.find(({ id }) => id === dictionaryId);
    const newest = own && all.find(({ model, version }) => model === own.model && version > own.version);
    return newest && newest.importedAt > startedAt ? newest.id : null;
  }

  private async point({ pointId, pointContent }: SettingsDraft): Promise<SettingsDraftView['point']> {
    if (pointId === null || pointContent === null) return null;
    const now = await this.points.textOf(pointId);
    return { id: pointId, text: pointContent, isOlder: now !== undefined && now !== pointContent };
  }

  private async base(draft: SettingsDraft): Promise<SettingsDraftView['base']> {
    const { baseHash, baseTitle, baseRating, baseRegion, baseWiring, crossContent } = draft;
    if (baseHash === null) return null;
    const set = await this.contents.get(baseHash);
    return {
      ...{
        title: baseTitle ?? '',
        dictionary: set.dictionary,
        rating: baseRating ?? '',
        region: baseRegion ?? '',
      },
      ...{ readings: [...set.readings], wiring: baseWiring ?? '', cross: crossContent },
    };
  }

  private async from({ fromId }: SettingsDraft): Promise<SettingsDraftView['from']> {
    if (fromId === null) return null;
    const { id, name } = await this.dataSource.getRepository(SettingsDraft).findOneByOrFail({ id: fromId });
    return { id, name };
  }

  private async revisions(draftId: string): Promise<SettingsDraftView['revisions']> {
    const all = await this.dataSource
      .getRepository(DraftRevision)
      .find({ where: { draftId }, order: { revision: 'DESC' } });
    return all.map((each) => ({
      ...{
        id: each.id,
        revision: each.revision,
        why: each.why,
        by: each.keptBy,
        at: each.keptAt.toISOString(),
      },
      ...{ dictionary: each.dictionaryId, rating: each.rating, region: each.region },
      ...{ hash: each.contentHash, changes: each.changes },
    }));
  }

  private async uses(draftId: string): Promise<readonly DraftUseView[]> {
    const rows: {
      kind: DraftUseView['kind'];
      tag: string;
      revision: number;
      made_id: string | null;
      used_by: string;
      used_at: Date;
    }[] = await this.dataSource.query(
      `select u.kind, p.tag, r.revision, u.made_id, u.used_by, u.used_at from draft_use u
       join draft_revision r on r.id = u.revision_id join position p on p.id = u.position_id
       where r.draft_id = $1 order by u.used_at desc`,
      [draftId],
    );
    return rows.map((each) => ({
      ...{ kind: each.kind, tag: each.tag, revision: each.revision, madeId: each.made_id, by: each.used_by },
      at: each.used_at.toISOString(),
    }));
  }
}
