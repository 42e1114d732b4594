// Baseline revisions on their way: proposed by whoever decided, signed by an engineer; by a second person where the
// plant wants it. A signed revision is never changed.

import { Injectable } from '@nestjs/common';
import type { DraftView } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import { hashOf, type ParameterSet } from '@drive-keep/core/sets';
import type { Reading } from '@drive-keep/core/values';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Plant } from '../plant/plant.entity.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { Clock } from '../storage/clock.ts';
import { isUuid } from '../storage/uuid.ts';
import { Baselines } from '../sets/baselines.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { BaselineDraft } from './baseline-draft.entity.ts';
import type { Decision } from '../tolerations/decision.entity.ts';

@Injectable()
export class BaselineDrafts {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly contents: ContentStore,
    private readonly baselines: Baselines,
    private readonly wirings: Wirings,
    private readonly clock: Clock,
    private readonly logbook: Logbook,
  ) {}

  async waiting(positionId: string): Promise<DraftView | null> {
    const draft = await this.dataSource
      .getRepository(BaselineDraft)
      .findOneBy({ position: { id: positionId }, state: 'waiting' });
    return draft && this.view(draft, positionId);
  }

  /**
   * The baseline with the decided values of the newest backup; what was proposed before and not signed is joined. The caller
   * holds the decisions of the position.
   */
  async propose(
    manager: EntityManager,
    { position }: PositionWithUnit,
    baseline: ParameterSet,
    newest: ParameterSet,
    decisions: readonly Decision[],
    { person }: Account,
  ): Promise<string> {
    const signed = await this.baselines.newest(manager, position.id);
    if (signed?.contentHash !== hashOf(baseline))
      throw refused('Another revision was signed in between. Decide anew about what is left.');
    const reasons = [...new Set(decisions.map(({ reason }) => reason))].join('; ');
    const before = await manager.findOneBy(BaselineDraft, {
      position: { id: position.id },
      state: 'waiting',
    });
    const own = decisions.map(({ code }) => code);
    const codes = [...new Set([...(before?.codes ?? []), ...own])];
    const readings = new Map<Code, Reading>(baseline.readings);
    for (const code of codes as Code[]) {
      const found = newest.readings.get(code);
      if (found === undefined) readings.delete(code);
      else readings.set(code, found);
    }
    const proposers: Record<string, string[]> = { ...before?.proposers };
    for (const code of own) proposers[code] = [...new Set([...(proposers[code] ?? []), person])];
    const reason = before ? `${before.reason}; ${reasons}` : reasons;
    if (before) await this.close(manager, before.id, 'refused', person);
    const set = { dictionary: baseline.dictionary, readings };
    return this.keep(manager, position.id, set, { codes, reason, madeBy: person, proposers });
  }

  /** The newest backup as the first baseline of a position. */
  async proposeFirst(tag: string, reason: string, { person }: Account): Promise<DraftView> {
    const at = await this.register.unitAt(tag);
    const { set } = await this.sets.get(at, 'newest');
    const id = await this.dataSource.transaction(async (manager) => {
      await lockDecisions(manager, at.position.id);
      if (await this.baselines.newest(manager, at.position.id))
        throw refused(`${tag} has a baseline. Decide about the differences instead.`);
      const before = await manager.findOneBy(BaselineDraft, {
        position: { id: at.position.id },
        state: 'waiting',
      });
      if (before) await this.close(manager, before.id, 'refused', person);
      const proposers = { [WHOLE]: [person] };
      return this.keep(manager, at.position.id, set, { codes: [], reason, madeBy: person, proposers });
    });
    return this.view(
      await this.dataSource.getRepository(BaselineDraft).findOneByOrFail({ id }),
      at.position.id,
    );
  }

  /**
   * What the new unit of a replacement holds. What waited for its signature was of the old unit and is closed. The caller
   * writes inside its own transaction.
   */
  async proposeReplacement(
    manager: EntityManager,
    positionId: string,
    set: ParameterSet,
    {
      reason,
      person,
      replacementId,
    }: { readonly reason: string; readonly person: string; readonly replacementId: string | null },
  ): Promise<string> {
    await lockDecisions(manager, positionId);
    const before = await manager.findOneBy(BaselineDraft, { position: { id: positionId }, state: 'waiting' });
    if (before) await this.close(manager, before.id, 'refused', person);
    const proposers = { [WHOLE]: [person] };
    return this.keep(manager, positionId, set, {
      codes: [],
      reason,
      madeBy: person,
      proposers,
      replacementId,
    });
  }

  /** The new unit went out again: nobody signs what it held. */
  async withdrawReplacement(manager: EntityManager, draftId: string, person: string): Promise<void> {
    const draft = await manager.findOneBy(BaselineDraft, { id: draftId });
    if (draft?.state === 'waiting') await this.close(manager, draftId, 'refused', person);
  }

  /** The baseline as it stands, to be signed once more with the wiring of today. */
  async proposeWiring(tag: string, reason: string, { person }: Account): Promise<DraftView> {
    const at = await this.register.unitAt(tag);
    const id = await this.dataSource.transaction(async (manager) => {
      await lockDecisions(manager, at.position.id);
      const signed = await this.baselines.newest(manager, at.position.id);
      if (!signed) throw refused(`${tag} has no baseline yet: its first one will hold the wiring.`);
      if (await manager.findOneBy(BaselineDraft, { position: { id: at.position.id }, state: 'waiting' }))
        throw refused('A revision waits for its signature already: it will hold the wiring, too.');
      const wiring = await this.wirings.seal(at.position.id, manager);
      if ((wiring?.hash ?? null) === signed.wiringHash)
        throw refused(`The newest baseline of ${tag} was signed with this wiring.`);
      const set = await this.contents.get(signed.contentHash);
      const proposers = { [WHOLE]: [person] };
      return this.keep(manager, at.position.id, set, { codes: [], reason, madeBy: person, proposers });
    });
    return this.view(
      await this.dataSource.getRepository(BaselineDraft).findOneByOrFail({ id }),
      at.position.id,
    );
  }

  /** `wiring` is the revision that was looked at; nothing where none was kept. */
  async sign(id: string, wiring: number | null, { person }: Account): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      const draft = await this.open(manager, id);
      const { position, basisRevision } = draft;
      await lockDecisions(manager, position.id);
      if (await this.secondPerson(manager)) requireOthers(draft, person);
      const last = await this.baselines.newest(manager, position.id);
      if ((last?.revision ?? 0) !== basisRevision)
        throw refused('Another revision was signed in between. Decide anew about what is left.');
      const now = await this.wirings.seal(position.id, manager);
      requireSameVersion(now?.revision ?? 0, wiring ?? 0, `The wiring of ${position.tag}`);
      // Nobody signs what cannot be read back.
      const { dictionary } = await this.contents.get(draft.contentHash);
      const { contentHash, reason } = draft;
      const facts = { positionId: position.id, contentHash, dictionary, reason };
      const revision = await this.baselines.sign(manager, {
        ...facts,
        signedAt: this.clock.now(),
        signedBy: person,
      });
      await this.close(manager, id, 'signed', person);
      const proposed = [...new Set(Object.values(draft.proposers).flat())].join(', ') || draft.madeBy;
      const withWiring = now ? `, with revision ${now.revision} of the wiring` : '';
      const proof = await this.baselines.provedBy(position.id, contentHash, manager);
      const proved = proof ? `, proved by a run of ${proof.passed} steps` : '';
      const text = `Signed revision ${revision} of the baseline${withWiring}${proved}: ${reason}. Proposed by ${proposed}.`;
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
    facts: Pick<BaselineDraft, 'codes' | 'reason' | 'madeBy' | 'proposers'> &
      Partial<Pick<BaselineDraft, 'replacementId'>>,
  ): Promise<string> {
    const last = await this.baselines.newest(manager, positionId);
    const saved = await manager.save(BaselineDraft, {
      position: { id: positionId },
      contentHash: await this.contents.keep(set, manager),
      basisRevision: last?.revision ?? 0,
      state: 'waiting' as const,
      ...facts,
    });
    return saved.id;
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

  private async secondPerson(manager: EntityManager): Promise<boolean> {
    return (await manager.findOneBy(Plant, { id: true }))?.secondSignature ?? false;
  }

  private async view(draft: BaselineDraft, positionId: string): Promise<DraftView> {
    const { manager } = this.dataSource;
    const wiring = await this.wirings.newestRevision(positionId);
    const proof = await this.baselines.provedBy(positionId, draft.contentHash);
    return {
      ...{ wiring, of: kindOf(draft) },
      proof: proof ? { id: proof.id, at: proof.endedAt.toISOString(), passed: proof.passed } : null,
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

function kindOf({ codes, basisRevision, replacementId }: BaselineDraft): DraftView['of'] {
  if (replacementId !== null) return 'replacement';
  return codes.length > 0 ? 'differences' : basisRevision === 0 ? 'first' : 'wiring';
}

/** Stands for a first baseline, which is proposed as a whole. */
const WHOLE = '*';

/** One finishing, proposing or signing at a position at a time. */
export const lockDecisions = (manager: EntityManager, positionId: string): Promise<unknown> =>
  manager.query(`select pg_advisory_xact_lock(hashtextextended('decisions ' || $1::text, 0))`, [positionId]);

function requireOthers({ proposers, madeBy }: BaselineDraft, person: string): void {
  const own = Object.keys(proposers).filter((code) => proposers[code]?.includes(person));
  if (own.length === 0 && madeBy !== person) return;
  const lines = own.filter((code) => code !== WHOLE).join(', ');
  throw refused(
    `This plant wants a second person to sign what you have proposed yourself${lines === '' ? '' : ` (${lines})`}.`,
  );
}

const refused = (detail: string): ProblemException => new ProblemException(409, 'draft-refused', detail);
