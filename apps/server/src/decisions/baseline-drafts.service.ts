// Baseline revisions on their way: proposed by whoever decided, signed by an engineer; by a second person where the
// plant wants it. A signed revision is never changed.

import { Injectable } from '@nestjs/common';
import type { DraftView } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import type { Reading } from '@drive-keep/core/values';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Plant } from '../register/plant.entity.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { isUuid } from '../sets/backups.service.ts';
import { Baseline } from '../sets/baseline.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { BaselineDraft } from './baseline-draft.entity.ts';
import type { Decision } from './decision.entity.ts';

@Injectable()
export class BaselineDrafts {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly contents: ContentStore,
    private readonly logbook: Logbook,
  ) {}

  async waiting(positionId: string): Promise<DraftView | null> {
    const draft = await this.dataSource
      .getRepository(BaselineDraft)
      .findOneBy({ position: { id: positionId }, state: 'waiting' });
    return draft && this.view(draft);
  }

  /** The baseline with the decided values of the newest backup; what was proposed before and not signed is joined. */
  async propose(
    { position }: PositionWithUnit,
    baseline: ParameterSet,
    newest: ParameterSet,
    decisions: readonly Decision[],
    { person }: Account,
  ): Promise<DraftView> {
    const reasons = [...new Set(decisions.map(({ reason }) => reason))].join('; ');
    return this.dataSource.transaction(async (manager) => {
      const before = await manager.findOneBy(BaselineDraft, {
        position: { id: position.id },
        state: 'waiting',
      });
      const codes = [...new Set([...(before?.codes ?? []), ...decisions.map(({ code }) => code)])];
      const readings = new Map<Code, Reading>(baseline.readings);
      for (const code of codes as Code[]) {
        const found = newest.readings.get(code);
        if (found === undefined) readings.delete(code);
        else readings.set(code, found);
      }
      const reason = before ? `${before.reason}; ${reasons}` : reasons;
      if (before) await this.close(manager, before.id, 'refused', person);
      const set = { dictionary: baseline.dictionary, readings };
      return this.keep(manager, position.id, set, { codes, reason, madeBy: person });
    });
  }

  /** The newest backup as the first baseline of a position. */
  async proposeFirst(tag: string, reason: string, { person }: Account): Promise<DraftView> {
    const at = await this.register.unitAt(tag);
    const { set } = await this.sets.get(at, 'newest');
    if ((await this.revision(this.dataSource.manager, at.position.id)) > 0)
      throw refused(`${tag} has a baseline. Decide about the differences instead.`);
    return this.dataSource.transaction(async (manager) => {
      const before = await manager.findOneBy(BaselineDraft, {
        position: { id: at.position.id },
        state: 'waiting',
      });
      if (before) await this.close(manager, before.id, 'refused', person);
      return this.keep(manager, at.position.id, set, { codes: [], reason, madeBy: person });
    });
  }

  async sign(id: string, { person }: Account): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      const draft = await this.open(manager, id);
      const { position, basisRevision } = draft;
      if ((await this.secondPerson(manager)) && draft.madeBy === person) {
        throw refused('This plant wants a second person to sign what you have proposed yourself.');
      }
      if ((await this.revision(manager, position.id)) !== basisRevision) {
        throw refused('Another revision was signed in between. Decide anew about what is left.');
      }
      const revision = basisRevision + 1;
      const { contentHash, reason } = draft;
      await manager.insert(Baseline, {
        position,
        revision,
        contentHash,
        reason,
        signedAt: new Date(),
        signedBy: person,
      });
      await this.close(manager, id, 'signed', person);
      const text = `Signed revision ${revision} of the baseline: ${reason}. Proposed by ${draft.madeBy}.`;
      await this.logbook.write({ person, action: 'baseline-signed', tag: position.tag, text }, manager);
    });
  }

  async refuse(id: string, why: string, { person }: Account): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      const draft = await this.open(manager, id);
      await this.close(manager, id, 'refused', person);
      const text = `Did not sign the proposed baseline (${draft.codes.join(', ')}): ${why}.`;
      await this.logbook.write(
        { person, action: 'baseline-refused', tag: draft.position.tag, text },
        manager,
      );
    });
  }

  private async keep(
    manager: EntityManager,
    positionId: string,
    set: ParameterSet,
    facts: Pick<BaselineDraft, 'codes' | 'reason' | 'madeBy'>,
  ): Promise<DraftView> {
    const saved = await manager.save(BaselineDraft, {
      position: { id: positionId },
      contentHash: await this.contents.keep(set, manager),
      basisRevision: await this.revision(manager, positionId),
      state: 'waiting' as const,
      ...facts,
    });
    return this.view(await manager.findOneByOrFail(BaselineDraft, { id: saved.id }), manager);
  }

  private async open(manager: EntityManager, id: string): Promise<BaselineDraft> {
    const draft = isUuid(id)
      ? await manager.findOne(BaselineDraft, {
          where: { id, state: 'waiting' },
          relations: { position: true },
          lock: { mode: 'pessimistic_write', tables: ['baseline_draft'] },
        })
      : null;
    if (!draft) throw notFound('This draft, or it has been closed,');
    return draft;
  }

  private async close(
    manager: EntityManager,
    id: string,
    state: 'signed' | 'refused',
    person: string,
  ): Promise<void> {
    await manager.update(BaselineDraft, { id }, { state, closedBy: person, closedAt: new Date() });
  }

  private async revision(manager: EntityManager, positionId: string): Promise<number> {
    const newest = await manager.findOne(Baseline, {
      where: { position: { id: positionId } },
      order: { revision: 'DESC' },
    });
    return newest?.revision ?? 0;
  }

  private async secondPerson(manager: EntityManager): Promise<boolean> {
    return (await manager.findOneBy(Plant, { id: true }))?.secondSignature ?? false;
  }

  private async view(draft: BaselineDraft, manager = this.dataSource.manager): Promise<DraftView> {
    return {
      id: draft.id,
      revision: draft.basisRevision + 1,
      codes: draft.codes,
      reason: draft.reason,
      madeBy: draft.madeBy,
      madeAt: draft.madeAt.toISOString(),
      secondPerson: await this.secondPerson(manager),
    };
  }
}

const refused = (detail: string): ProblemException => new ProblemException(409, 'draft-refused', detail);
