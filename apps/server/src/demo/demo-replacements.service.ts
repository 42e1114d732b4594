// Replacements of the demo plant: one that is closed, with its record; one that is half done, with questions open; and two that are
// planned. What the sheets say is worked out as everywhere; only the times of the closed one are told.

import { Injectable } from '@nestjs/common';
import type { ReplacementRecord } from '@drive-keep/api';
import { findParameter, factsOf } from '@drive-keep/core/dictionary';
import { planWrites } from '@drive-keep/core/plans';
import { openOf, replacementSheet, type ReplacementSheet, type Saying } from '@drive-keep/core/replace';
import { defaultSet } from '@drive-keep/core/sets';
import { DataSource, type EntityManager } from 'typeorm';
import { Account } from '../access/account.entity.ts';
import { CrossReferences } from '../catalogue/cross-references.service.ts';
import { BaselineDraft } from '../decisions/baseline-draft.entity.ts';
import { ReplacementGround } from '../replacing/replacement-ground.service.ts';
import { Replacement } from '../replacing/replacement.entity.ts';
import { recordOf, Replacements } from '../replacing/replacements.service.ts';
import { Backup } from '../sets/backup.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Baseline } from '../sets/baseline.entity.ts';
import { StoredWritePlan } from '../writing/write-plan.entity.ts';
import { StoredWriteStep } from '../writing/write-step.entity.ts';
import { CHANGE_HOUR, demoTime, type Placed } from './demo-history.ts';
import { ENGINEER, TECHNICIAN } from './story.ts';

/** What was found at the belt when its unit was replaced, by a piece of each question. */
const FOUND: readonly (readonly [piece: string, reason: string])[] = [
  ['fit size', 'room enough: the neighbour is a hand wide away, depth measured'],
  ['fit heat', 'the cabinet has its fan; 32 °C at the door in July'],
  ['shared', 'the 24 V feed the four belts; all four stood and were locked off'],
  ['contactor', 'main switch only, no contactor on either side'],
  ['outside', 'nobody reads this unit; the round is the only one on the line'],
];

@Injectable()
export class DemoReplacements {
  constructor(
    private readonly dataSource: DataSource,
    private readonly replacements: Replacements,
    private readonly ground: ReplacementGround,
    private readonly references: CrossReferences,
    private readonly contents: ContentStore,
  ) {}

  async make(placed: readonly Placed[], now: Date): Promise<void> {
    for (const each of placed) if (each.before) await this.closed(each, each.before, now);
    const [engineer, technician] = await Promise.all(
      [ENGINEER, TECHNICIAN].map((person) => this.account(person)),
    );
    if (!engineer || !technician) return;
    await this.halfDone(engineer, technician);
    const planned = { dictionary: 'toreka-c7@1', region: '50-hz', rating: null, source: 'newest' };
    for (const tag of ['SP-OB-02', 'SP-OB-03'])
      await this.replacements.begin(tag, { ...planned, why: 'C1 is no longer made; summer stop' }, engineer);
  }

  /** The agitator that has failed; its HN64 is in its box. */
  private async halfDone(engineer: Account, technician: Account): Promise<void> {
    const wanted = { dictionary: 'halvern-hn64@1', region: '50-hz', rating: 'HN64-22', source: 'newest' };
    const { id } = await this.replacements.begin(
      'BP-AG-03',
      { ...wanted, why: 'the HN20 is dead' },
      technician,
    );
    const toldAt = new Date().toISOString();
    const say = (person: Account, said: readonly Saying[]) =>
      this.replacements.say(
        id,
        said.map((each) => ({ ...each, seen: null, toldAt })),
        person,
      );
    const reason = 'measured: the cabinet is 200 mm deep';
    await say(engineer, [{ part: 'point', line: 'fit size', value: { kind: 'accepted', reason } }]);
    const done = { kind: 'done' as const, note: '' };
    await say(technician, [
      { part: 'task', line: 'before stop', value: done },
      { part: 'task', line: 'before lock', value: { kind: 'done', note: 'lock 14' } },
    ]);
  }

  private async closed(placed: Placed, before: Placed, now: Date): Promise<void> {
    const night = placed.told.replaced?.nightsAgo ?? 0;
    const at = (minutes: number) => new Date(demoTime(now, night, CHANGE_HOUR).getTime() + minutes * 60_000);
    const id = await this.dataSource.transaction((manager) => this.begun(manager, placed, before, at));
    const sheet = await this.said(id, at);
    const { record, draftId, writePlanId, promisedHash } = await this.done(id, placed, sheet, at);
    await this.dataSource.transaction(async (manager) => {
      const ended = { endedBy: ENGINEER, endedAt: at(200), endedWhy: 'everything decided, done and signed' };
      const text = JSON.stringify(record);
      await manager.update(
        Replacement,
        { id },
        {
          state: 'closed',
          record: text,
          recordHash: recordOf(text),
          draftId,
          writePlanId,
          promisedHash,
          ...ended,
        },
      );
    });
  }

  private async begun(
    manager: EntityManager,
    { position, unit, dictionary }: Placed,
    before: Placed,
    at: (minutes: number) => Date,
  ): Promise<string> {
    const source = await manager.findOneOrFail(Backup, {
      where: { position: { id: position.id }, unit: { id: before.unit.id } },
      order: { seq: 'DESC' },
    });
    const cross = await this.references.of(before.dictionary.model, dictionary.model);
    const { id } = await manager.save(Replacement, {
      ...{ position, oldUnit: before.unit, newUnit: unit, oldDictionaryId: before.dictionary.id },
      ...{ sourceHash: source.contentHash, sourceReference: `backup:${source.id}` },
      ...{
        sourceTitle: `Backup by ${source.takenBy}`,
        sourceAt: source.takenAt,
        dictionaryId: dictionary.id,
      },
      ...{ region: unit.region, rating: unit.rating, crossRevision: 0, crossContent: cross.text },
      ...{ why: 'fan of the HN20 worn out, no spare to be had', startedBy: ENGINEER },
      ...{ swappedBy: TECHNICIAN, swappedAt: at(0), oldWiringRevision: 1 },
    });
    await manager.query('update replacement set started_at = $2 where id = $1', [id, at(-1500)]);
    return id;
  }

  /** Everything that the sheet asks is answered, and everything ticked. */
  private async said(id: string, at: (minutes: number) => Date): Promise<ReplacementSheet> {
    const before = await this.sheet(id);
    const points = [...before.fit, ...before.doubts, ...before.cautions, ...before.behaviour.differences];
    const asked = [...points.map((point) => point.id), ...(before.outside ? ['outside'] : [])];
    const reason = (line: string) =>
      FOUND.find(([piece]) => line.includes(piece))?.[1] ?? 'seen at the cabinet';
    const rows = [
      ...asked.map(
        (line) => ['point', line, { kind: 'accepted', reason: reason(line) }, ENGINEER, at(-60)] as const,
      ),
      ...before.tasks.map(
        ({ id: line }, place) =>
          ['task', line, { kind: 'done', note: '' }, TECHNICIAN, at(place * 2)] as const,
      ),
    ];
    for (const [part, line, value, person, when] of rows)
      await this.dataSource.query(
        `insert into replacement_saying (replacement_id, part, line, value, said_by, said_at, told_at)
         values ($1, $2, $3, $4, $5, $6, $6)`,
        [id, part, line, value, person, when],
      );
    const sheet = await this.sheet(id);
    if (openOf(sheet.open) > 0) throw new Error('the closed replacement of the demo has open questions');
    return sheet;
  }

  private async sheet(id: string): Promise<ReplacementSheet> {
    const { input } = await this.ground.of(await this.replacements.load(id));
    return replacementSheet(input);
  }

  /** Plan, read-back and signed baseline as they came about then. */
  private async done(
    id: string,
    { position, unit, dictionary }: Placed,
    sheet: ReplacementSheet,
    at: (minutes: number) => Date,
  ): Promise<{ record: ReplacementRecord; draftId: string; writePlanId: string; promisedHash: string }> {
    const { manager } = this.dataSource;
    const looks = await manager.find(Backup, { where: { unit: { id: unit.id } }, order: { seq: 'ASC' } });
    const [found, written] = looks;
    const baseline = await manager.findOneOrFail(Baseline, {
      where: { position: { id: position.id } },
      order: { revision: 'DESC' },
    });
    if (!found || !written) throw new Error(`${position.tag}: no looks at the new unit`);
    const draft = await manager.save(BaselineDraft, {
      ...{ position, contentHash: written.contentHash, basisRevision: baseline.revision - 1, codes: [] },
      ...{
        reason: baseline.reason,
        madeBy: TECHNICIAN,
        state: 'signed' as const,
        closedBy: baseline.signedBy,
      },
      ...{ closedAt: baseline.signedAt, replacementId: id },
    });
    const writePlanId = await this.plan(manager, { position, unit, dictionary }, [found, written], at);
    await manager.update(
      Replacement,
      { id },
      { draftId: draft.id, writePlanId, promisedHash: written.contentHash },
    );
    const view = await this.replacements.view(id);
    const readBack = { id: written.id, at: written.takenAt.toISOString(), codes: [] };
    return {
      record: { sheet, view: { ...view, doing: { ...view.doing, readBack } } },
      ...{ draftId: draft.id, writePlanId, promisedHash: written.contentHash },
    };
  }

  private async plan(
    manager: EntityManager,
    { position, unit, dictionary }: Pick<Placed, 'position' | 'unit' | 'dictionary'>,
    [found, written]: readonly [Backup, Backup],
    at: (minutes: number) => Date,
  ): Promise<string> {
    const delivered = defaultSet(dictionary, unit);
    if (!delivered) throw new Error(`${dictionary.id}: no defaults`);
    const { readings } = await this.contents.get(written.contentHash);
    const facts = factsOf(dictionary, unit) ?? {};
    const { steps } = planWrites(dictionary, facts, delivered, readings);
    const kept = await manager.save(StoredWritePlan, {
      ...{
        position,
        unit,
        dictionaryId: dictionary.id,
        kind: 'reset' as const,
        follows: null,
        state: 'done' as const,
      },
      ...{ target: 'the replacement', plannedBy: TECHNICIAN, basisHash: found.contentHash },
      ...{
        predictedHash: written.contentHash,
        resetHash: found.contentHash,
        unreachable: [],
        alreadyThere: [],
      },
      ...{ releasedBy: ENGINEER, releasedAt: at(30), releasedUntil: at(45), endedAt: at(45) },
      ...{ saveBegun: true, saved: true, backupBefore: found.id, backupAfter: written.id },
      text: 'Written, saved and read back.',
    });
    await manager.query('update write_plan set planned_at = $2 where id = $1', [kept.id, at(25)]);
    await manager.insert(
      StoredWriteStep,
      steps.map(({ code, from, to, phase, reason, stopped }, place) => ({
        ...{ planId: kept.id, place, code, fromReading: from ?? null, toRaw: to, phase, reason, stopped },
        ...{
          restart: findParameter(dictionary, code)?.restart ?? false,
          state: 'written' as const,
          readBack: to,
        },
      })),
    );
    return kept.id;
  }

  private account(person: string): Promise<Account | null> {
    return this.dataSource.getRepository(Account).findOneBy({ person });
  }
}
