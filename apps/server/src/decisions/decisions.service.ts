// Decisions about the differences of a position: made one by one, kept per person until finished, then turned into what
// they ask for: a write plan, a baseline draft, tolerations.

import { Injectable } from '@nestjs/common';
import type { DecisionKind, DecisionsView, DecisionView, FinishedDecisions } from '@drive-keep/api';
import { compareSets, type Comparison } from '@drive-keep/core/compare';
import type { ParameterSet } from '@drive-keep/core/sets';
import { DataSource, In, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { KeyInSheets } from '../key-in/key-in-sheets.service.ts';
import { WritePlans } from '../writing/write-plans.service.ts';
import { BaselineDrafts, lockDecisions } from './baseline-drafts.service.ts';
import { Decision } from '../tolerations/decision.entity.ts';
import { dayOf, isDay, Tolerations } from '../tolerations/tolerations.service.ts';

export interface Wish {
  readonly codes: readonly string[];
  readonly kind: DecisionKind;
  readonly reason: string;
  readonly until: string | null;
}

/** A toleration is for a while; what is right for ever belongs into the baseline. */
const LONGEST_TOLERATION_DAYS = 366;
const LEAST_REASON = 3;
const DAY_MS = 86_400_000;

interface Pair {
  readonly at: PositionWithUnit;
  readonly baseline: ParameterSet;
  readonly newest: ParameterSet;
  readonly comparison: Comparison;
}

@Injectable()
export class Decisions {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly dictionaries: Dictionaries,
    private readonly drafts: BaselineDrafts,
    private readonly tolerations: Tolerations,
    private readonly writePlans: WritePlans,
    private readonly keyInSheets: KeyInSheets,
    private readonly logbook: Logbook,
  ) {}

  async view(tag: string, { person }: Account): Promise<DecisionsView> {
    const at = await this.register.unitAt(tag);
    const draft = await this.drafts.waiting(at.position.id);
    const open = await this.open(at.position.id, person);
    const pair = await this.pair(at).catch(() => undefined);
    const inForce = pair ? await this.tolerations.inForce(sides(pair), dayOf(new Date())) : [];
    return { open: open.map(decisionView), inForce: inForce.map(decisionView), draft };
  }

  async decide(tag: string, wish: Wish, account: Account): Promise<DecisionsView> {
    const pair = await this.pair(await this.register.unitAt(tag));
    requireReason(wish);
    requireDay(wish);
    const rows = new Map<string, Comparison['rows'][number]>(
      pair.comparison.rows.map((row) => [row.code, row]),
    );
    const unknown = wish.codes.filter((code) => !rows.has(code));
    if (unknown.length > 0)
      throw refused(`${unknown.join(', ')} does not differ from the baseline. Nothing was decided.`);
    const { person } = account;
    await this.dataSource.transaction(async (manager) => {
      const position = pair.at.position;
      await lockDecisions(manager, position.id);
      const codes = In([...wish.codes]);
      await manager.delete(Decision, { position: { id: position.id }, person, state: 'open', code: codes });
      const { kind, reason } = wish;
      const until = kind === 'tolerate' ? wish.until : null;
      for (const code of new Set(wish.codes)) {
        const row = rows.get(code);
        const about = { wanted: row?.a ?? null, found: row?.b ?? null };
        await manager.insert(Decision, {
          position,
          code,
          kind,
          reason,
          until,
          person,
          ...about,
          state: 'open',
        });
      }
    });
    return this.view(tag, account);
  }

  async withdraw(tag: string, codes: readonly string[], account: Account): Promise<DecisionsView> {
    const { position } = await this.register.unitAt(tag);
    await this.dataSource.getRepository(Decision).delete({
      position: { id: position.id },
      person: account.person,
      state: 'open',
      code: In([...codes]),
    });
    return this.view(tag, account);
  }

  /** A toleration that no longer suits is ended by anybody who may decide. */
  async endToleration(tag: string, code: string, account: Account): Promise<DecisionsView> {
    const { position } = await this.register.unitAt(tag);
    const ended = await this.dataSource
      .getRepository(Decision)
      .update({ position: { id: position.id }, code, state: 'in-force' }, { state: 'ended' });
    if (ended.affected === 0) throw refused(`${code} is not tolerated at ${tag}.`);
    const text = `Ended the toleration of ${code}.`;
    await this.logbook.write({ person: account.person, action: 'toleration-ended', tag, text });
    return this.view(tag, account);
  }

  /**
   * Turns one's open decisions into what they ask for, all of it or nothing. Decisions about values that have changed since
   * are refused; of two people who finish at the same time the second one adds to what the first one has proposed.
   */
  async finish(tag: string, account: Account): Promise<FinishedDecisions> {
    const pair = await this.pair(await this.register.unitAt(tag));
    const { position, unit } = pair.at;
    const open = await this.open(position.id, account.person);
    if (open.length === 0) throw refused('Nothing has been decided yet, or it has been finished already.');
    this.requireStillTrue(open, pair);
    const of = (kind: DecisionKind) => open.filter((decision) => decision.kind === kind);
    const putBack = of('put-back').map(({ code }) => code);
    const way = unit.line ? this.writePlans : this.keyInSheets;
    const keepPlan = putBack.length === 0 ? undefined : await way.prepare(tag, 'baseline', putBack, account);
    return this.dataSource.transaction(async (manager) => {
      await lockDecisions(manager, position.id);
      await this.requireUnfinished(manager, position.id, open);
      const takenIn = of('take-in');
      const draftId =
        takenIn.length === 0
          ? null
          : await this.drafts.propose(manager, pair.at, pair.baseline, pair.newest, takenIn, account);
      const planId = (await keepPlan?.(manager)) ?? null;
      await this.putIntoForce(manager, position.id, open);
      await this.note(manager, tag, open, account);
      return {
        writePlanId: way === this.writePlans ? planId : null,
        keyInSheetId: way === this.keyInSheets ? planId : null,
        draftId,
        tolerated: of('tolerate').length,
        later: of('later').length,
      };
    });
  }

  /** Another click, or another screen of the same person, may have been quicker. */
  private async requireUnfinished(
    manager: EntityManager,
    positionId: string,
    open: readonly Decision[],
  ): Promise<void> {
    const still = await manager.findBy(Decision, {
      position: { id: positionId },
      id: In(open.map(({ id }) => id)),
      state: 'open',
    });
    if (still.length === open.length) return;
    throw new ProblemException(
      409,
      'decisions-finished',
      'These decisions were finished or changed a moment ago. What came of them stands at the position. Nothing was done twice.',
    );
  }

  private async putIntoForce(
    manager: EntityManager,
    positionId: string,
    open: readonly Decision[],
  ): Promise<void> {
    for (const { id, code, kind } of open) {
      const standing = kind === 'tolerate' || kind === 'later';
      await manager.update(
        Decision,
        { position: { id: positionId }, code, state: 'in-force' },
        { state: 'ended' },
      );
      await manager.update(Decision, { id }, { state: standing ? 'in-force' : 'ended' });
    }
  }

  private async note(
    manager: EntityManager,
    tag: string,
    open: readonly Decision[],
    { person }: Account,
  ): Promise<void> {
    const facts = { decisions: open.map(({ code, kind, reason, until }) => ({ code, kind, reason, until })) };
    const told = open.map(({ code, kind, reason, until }) => {
      const limit = until ? ` until ${until}` : '';
      return `${code} ${WORDS[kind]}${limit}${reason === '' ? '' : ` (${reason})`}`;
    });
    const text = `Decided: ${told.join('; ')}.`;
    await this.logbook.write({ person, action: 'decided', tag, text, facts }, manager);
  }

  private requireStillTrue(open: readonly Decision[], { comparison }: Pair): void {
    const rows = new Map<string, Comparison['rows'][number]>(comparison.rows.map((row) => [row.code, row]));
    const stale = open.filter(({ code, wanted, found }) => {
      const row = rows.get(code);
      const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
      return !row || !same(row.a, wanted) || !same(row.b, found);
    });
    if (stale.length === 0) return;
    const codes = stale.map(({ code }) => code).join(', ');
    throw new ProblemException(
      409,
      'decision-stale',
      `${codes} changed after you decided. Decide anew about it; the other decisions are kept.`,
    );
  }

  private async open(positionId: string, person: string): Promise<Decision[]> {
    return this.dataSource
      .getRepository(Decision)
      .find({ where: { position: { id: positionId }, person, state: 'open' }, order: { code: 'ASC' } });
  }

  private async pair(at: PositionWithUnit): Promise<Pair> {
    const [a, b] = await Promise.all([this.sets.get(at, 'baseline'), this.sets.get(at, 'newest')]);
    if (a.set.dictionary !== b.set.dictionary)
      throw refused('Baseline and newest backup are of different models; a replacement decides about them.');
    const comparison = compareSets(await this.dictionaries.get(a.set.dictionary), a.set, b.set);
    return { at, baseline: a.set, newest: b.set, comparison };
  }
}

const WORDS: Readonly<Record<DecisionKind, string>> = {
  'put-back': 'goes back',
  'take-in': 'into the baseline',
  tolerate: 'is tolerated',
  later: 'is looked at later',
};

const sides = ({ at, baseline, newest }: Pair) => ({ positionId: at.position.id, baseline, newest });

export const decisionView = (decision: Decision): DecisionView => ({
  id: decision.id,
  code: decision.code,
  kind: decision.kind,
  reason: decision.reason,
  until: decision.until,
  person: decision.person,
  madeAt: decision.madeAt.toISOString(),
  wanted: decision.wanted,
  found: decision.found,
});

function requireReason({ kind, reason }: Wish): void {
  if (kind === 'put-back' || kind === 'later' || reason.trim().length >= LEAST_REASON) return;
  throw refused('Say why: who reads it in a year wants to know.');
}

function requireDay({ kind, until }: Wish): void {
  if (kind !== 'tolerate') return;
  const now = Date.now();
  const latest = dayOf(new Date(now + LONGEST_TOLERATION_DAYS * DAY_MS));
  if (until === null || !isDay(until) || until <= dayOf(new Date(now)) || until > latest)
    throw refused(`A toleration ends on a day from tomorrow to ${latest}; then the difference comes back.`);
}

const refused = (detail: string): ProblemException => new ProblemException(422, 'decision-refused', detail);
