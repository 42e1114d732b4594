// A replacement as people see it: what it is computed from, what was said, and how far the doing is, each from what was kept.

import { isDeepStrictEqual } from 'node:util';
import { Injectable } from '@nestjs/common';
import type {
  DoingView,
  EarlierSaying,
  ReplacementMark,
  ReplacementView,
  SayingView,
  UnitMark,
} from '@drive-keep/api';
import { compareSets } from '@drive-keep/core/compare';
import { defaultSet, hashOf } from '@drive-keep/core/sets';
import { wiringRows } from '@drive-keep/core/wiring';
import { DataSource } from 'typeorm';
import { CrossReferences } from '../catalogue/cross-references.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { BaselineDraft } from '../decisions/baseline-draft.entity.ts';
import { KeyInSheet } from '../key-in/key-in-sheet.entity.ts';
import type { Unit } from '../register/unit.entity.ts';
import { Backup } from '../sets/backup.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { StoredWritePlan } from '../writing/write-plan.entity.ts';
import { promiseOf, ReplacementGround, type Ground } from './replacement-ground.service.ts';
import type { ReplacementSaying } from './replacement-saying.entity.ts';
import type { Replacement } from './replacement.entity.ts';

/** Of what others have answered before, as much as anybody looks at. */
const MOST_EARLIER = 400;

@Injectable()
export class ReplacementViews {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly references: CrossReferences,
    private readonly contents: ContentStore,
    private readonly ground: ReplacementGround,
  ) {}

  async of(replacement: Replacement): Promise<ReplacementView> {
    const { position, oldUnit, endedBy, endedAt } = replacement;
    const ground = await this.ground.of(replacement);
    const cross = await this.references.of(ground.old.model, ground.fresh.model);
    return {
      ...{ id: replacement.id, tag: position.tag, duty: position.duty, state: replacement.state },
      ...{ version: replacement.version, why: replacement.why, startedBy: replacement.startedBy },
      startedAt: replacement.startedAt.toISOString(),
      ended:
        endedBy !== null && endedAt !== null
          ? { by: endedBy, at: endedAt.toISOString(), why: replacement.endedWhy ?? '' }
          : null,
      old: await this.unitMark(oldUnit),
      source: {
        ...{ reference: replacement.sourceReference, title: replacement.sourceTitle },
        at: replacement.sourceAt?.toISOString() ?? null,
      },
      oldDictionary: ground.old.id,
      ambient: ground.input.old.ambient ?? null,
      readings: [...ground.source.readings],
      wiring: wiringRows(ground.wiring.wiring),
      wiringRevision: ground.wiring.revision,
      fresh: { dictionary: ground.fresh.id, region: replacement.region, rating: replacement.rating },
      cross: { revision: replacement.crossRevision, text: replacement.crossContent, newest: cross.revision },
      sayings: lastWords(await this.ground.sayings(replacement.id), replacement.attemptFrom),
      earlier: await this.earlier(replacement, ground),
      doing: await this.doing(replacement, ground),
    };
  }

  /** Of every model, by the id of its dictionary. */
  async names(): Promise<ReadonlyMap<string, string>> {
    return new Map((await this.dictionaries.all()).map(({ id, name }) => [id, name]));
  }

  markOf(replacement: Replacement, names: ReadonlyMap<string, string>): ReplacementMark {
    const { oldDictionaryId: from, dictionaryId: to } = replacement;
    return {
      ...{ id: replacement.id, tag: replacement.position.tag, state: replacement.state },
      ...{ from: names.get(from) ?? from, to: names.get(to) ?? to, startedBy: replacement.startedBy },
      startedAt: replacement.startedAt.toISOString(),
      endedAt: replacement.endedAt?.toISOString() ?? null,
    };
  }

  async doing(replacement: Replacement, ground: Ground): Promise<DoingView> {
    const { newUnit, swappedBy, swappedAt, promisedHash } = replacement;
    const nothing: DoingView = {
      ...{ swap: null, asFound: null, plan: null, sheet: null, planOutdated: false, readBack: null },
      draft: null,
    };
    if (!newUnit || swappedBy === null || swappedAt === null) return nothing;
    return {
      swap: { ...(await this.unitMark(newUnit)), by: swappedBy, at: swappedAt.toISOString() },
      asFound: await this.asFound(newUnit, ground),
      plan: await this.plan(replacement),
      sheet: await this.sheet(replacement),
      planOutdated: promisedHash !== null && promisedHash !== hashOf(promiseOf(ground, replacement).set),
      readBack: await this.readBack(replacement, newUnit, ground),
      draft: await this.draft(replacement),
    };
  }

  private async asFound(unit: Unit, { fresh }: Ground): Promise<DoingView['asFound']> {
    const first = await this.dataSource.getRepository(Backup).findOne({
      where: { unit: { id: unit.id } },
      order: { seq: 'ASC' },
    });
    if (!first) return null;
    const delivered = defaultSet(fresh, unit);
    const found = await this.contents.get(first.contentHash);
    const changed =
      delivered && found.dictionary === fresh.id ? compareSets(fresh, delivered, found).rows : [];
    return { id: first.id, at: first.takenAt.toISOString(), changed: changed.map(({ code }) => code) };
  }

  private async plan({ writePlanId }: Replacement): Promise<DoingView['plan']> {
    if (writePlanId === null) return null;
    // A plan that broke off is gone on with by another one, which names it.
    const [row]: { id: string }[] = await this.dataSource.query(
      `with recursive line as (
         select id, planned_at from write_plan where id = $1
         union select w.id, w.planned_at from write_plan w join line l on w.follows = l.id)
       select id from line order by planned_at desc limit 1`,
      [writePlanId],
    );
    const plan = row && (await this.dataSource.getRepository(StoredWritePlan).findOneBy({ id: row.id }));
    return plan ? { id: plan.id, state: plan.state } : null;
  }

  private async sheet({ keyInSheetId }: Replacement): Promise<DoingView['sheet']> {
    if (keyInSheetId === null) return null;
    const sheet = await this.dataSource.getRepository(KeyInSheet).findOneBy({ id: keyInSheetId });
    return sheet ? { id: sheet.id, state: sheet.finishedAt ? 'finished' : 'open' } : null;
  }

  /** The newest look at the new unit, once there is a promise to hold it against. */
  async readBack(
    { promisedHash, position }: Replacement,
    unit: Unit,
    { fresh }: Ground,
  ): Promise<DoingView['readBack']> {
    if (promisedHash === null) return null;
    const [look]: { id: string; at: Date; hash: string }[] = await this.dataSource.query(
      `select b.id, l.at, b.content_hash as hash from last_look l join backup b on b.id = l.backup_id
       where l.position_id = $1 and b.unit_id = $2`,
      [position.id, unit.id],
    );
    if (!look) return null;
    const [promised, found] = await Promise.all([
      this.contents.get(promisedHash),
      this.contents.get(look.hash),
    ]);
    if (found.dictionary !== fresh.id) return null;
    // What the unit measures by itself was promised by nobody.
    const measured = new Set<string>(
      fresh.parameters
        .filter(({ keeping, access }) => keeping !== 'setting' || access === 'read')
        .map(({ code }) => code),
    );
    const { rows } = compareSets(fresh, promised, found);
    const codes = rows.map(({ code }): string => code).filter((code) => !measured.has(code));
    return { id: look.id, at: look.at.toISOString(), codes };
  }

  private async draft({ draftId }: Replacement): Promise<DoingView['draft']> {
    const draft =
      draftId === null ? null : await this.dataSource.getRepository(BaselineDraft).findOneBy({ id: draftId });
    if (!draft) return null;
    if (draft.state !== 'signed') return draft.state;
    return {
      ...{ revision: draft.basisRevision + 1, by: draft.closedBy ?? '' },
      at: (draft.closedAt ?? draft.madeAt).toISOString(),
    };
  }

  private async unitMark(unit: Unit): Promise<UnitMark> {
    const { maker, name } = await this.dictionaries.named(unit.dictionaryId);
    const { rating, region, serial, firmware, line, lineAddress } = unit;
    return {
      ...{ dictionary: unit.dictionaryId, model: `${maker} ${name}`, rating, region, serial, firmware },
      line: line && lineAddress !== null ? { name: line.name, address: lineAddress } : null,
    };
  }

  private earlier(replacement: Replacement, { old, fresh }: Ground): Promise<readonly EarlierSaying[]> {
    return this.answers(old.model, fresh.model, replacement.crossContent);
  }

  /** Of closed replacements of a pair, newest first. Choices count only where they were made of the same file. */
  async answers(old: string, fresh: string, file: string | null): Promise<readonly EarlierSaying[]> {
    const rows: (Pick<ReplacementSaying, 'part' | 'line' | 'value'> & {
      said_by: string;
      said_at: Date;
      tag: string;
      same_file: boolean;
    })[] = await this.dataSource.query(
      `select * from (
         select distinct on (s.replacement_id, s.part, s.line)
                s.part, s.line, s.value, s.said_by, s.said_at, p.tag,
                r.cross_content is not distinct from $3 as same_file
         from replacement_saying s join replacement r on r.id = s.replacement_id
         join position p on p.id = r.position_id
         join dictionary o on o.id = r.old_dictionary_id join dictionary f on f.id = r.dictionary_id
         where r.state = 'closed' and o.model = $1 and f.model = $2 and s.part in ('setting', 'point')
         order by s.replacement_id, s.part, s.line, s.id desc) last
       where value is not null order by said_at desc limit ${MOST_EARLIER}`,
      [old, fresh, file],
    );
    return rows
      .filter(({ value, same_file }) => same_file || value?.kind !== 'choice')
      .map(({ part, line, value, said_by: by, said_at: at, tag }) => ({
        ...{ part, line, value, by, tag },
        at: at.toISOString(),
      }));
  }
}

/**
 * The last word of each line to come, with what somebody else said of it where that is something else. What hands did in an
 * attempt that was taken back is not done in the next one, also where a phone brings it later.
 */
export function lastWords(
  all: readonly ReplacementSaying[],
  attemptFrom: Date | null,
): readonly SayingView[] {
  const lines = new Map<string, ReplacementSaying[]>();
  for (const each of all) {
    const key = `${each.part} ${each.line}`;
    lines.set(key, [...(lines.get(key) ?? []), each]);
  }
  return [...lines.values()].flatMap((words): SayingView[] => {
    const last = words.at(-1);
    if (!last) return [];
    const over = last.part === 'task' && attemptFrom !== null && last.toldAt < attemptFrom;
    const others = words.filter(({ saidBy }) => saidBy !== last.saidBy);
    const other = others.at(-1);
    const differs = !over && other && !isDeepStrictEqual(other.value, last.value);
    return [
      {
        ...{ part: last.part, line: last.line, id: last.id, by: last.saidBy },
        value: over ? null : last.value,
        ...{ at: last.saidAt.toISOString(), toldAt: last.toldAt.toISOString() },
        other: differs ? { by: other.saidBy, at: other.saidAt.toISOString(), value: other.value } : null,
      },
    ];
  });
}
