// Proof runs are begun, said to, closed and given up. Nothing of one is ever changed: a word is followed by another word, and
// the end is a row of its own.

import { Injectable } from '@nestjs/common';
import type { NewProofSaying, ProofAsked, ProofRunView, ProofScope, ProofsView } from '@drive-keep/api';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ProofEnd } from '../proofs/proof-end.entity.ts';
import { ProofEvidence } from '../proofs/proof-evidence.entity.ts';
import { ProofRun } from '../proofs/proof-run.entity.ts';
import { ProofSaying } from '../proofs/proof-saying.entity.ts';
import { Proofs } from '../proofs/proofs.service.ts';
import { Position } from '../register/position.entity.ts';
import { Register } from '../register/register.service.ts';
import { Unit } from '../register/unit.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Clock } from '../storage/clock.ts';
import { askedFor } from './asked-for.ts';
import { ProofGround, refused } from './proof-ground.service.ts';
import { hashOfRecord, ProofViews } from './proof-views.service.ts';

export interface ProofWish {
  readonly set: string;
  readonly scope: ProofScope;
  readonly why: string;
}

@Injectable()
export class ProofRuns {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly ground: ProofGround,
    private readonly views: ProofViews,
    private readonly proofs: Proofs,
    private readonly contents: ContentStore,
    private readonly clock: Clock,
    private readonly logbook: Logbook,
  ) {}

  async ofPosition(tag: string): Promise<ProofsView> {
    const { position } = await this.register.unitAt(tag);
    const runs = await this.proofs.marks(position.id);
    const open = runs.some(({ state }) => state === 'open');
    return { runs, asked: open ? null : await this.asked(position.id) };
  }

  private async asked(positionId: string): Promise<ProofAsked | null> {
    const [last] = await this.proofs.closed(positionId);
    const [run] = last ? await this.dataSource.getRepository(ProofRun).findBy({ id: last.id }) : [undefined];
    return askedFor(this.dataSource, positionId, run?.startedAt ?? null);
  }

  async begin(tag: string, { set, scope, why }: ProofWish, { person }: Account): Promise<ProofRunView> {
    const [at] = await this.register.inPlace([tag]);
    if (!at) throw refused(`There is no position ${tag} that is in use.`);
    const { position, unit } = at;
    const ground = await this.ground.of(at, set, scope === 'changed');
    const id = await this.dataSource.transaction(async (manager) => {
      await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [
        `proving ${position.id}`,
      ]);
      const [open]: { id: string }[] = await manager.query(
        `select r.id from proof_run r left join proof_end e on e.run_id = r.id
          where r.position_id = $1 and e.run_id is null`,
        [position.id],
      );
      if (open) throw refused(`A proof run of ${tag} is open already. Go on with it, or give it up first.`);
      const run = await manager.save(ProofRun, {
        ...{ positionId: position.id, unitId: unit.id, serial: String(unit.serial) },
        ...{ dictionaryId: unit.dictionaryId, setHash: await this.contents.keep(ground.set, manager) },
        ...{ setTitle: ground.setTitle, setAt: ground.setAt === null ? null : new Date(ground.setAt) },
        ...{ wiringRevision: ground.wiringRevision, scope, since: ground.since, why, plan: ground.plan },
        ...{ leftOut: ground.leftOut, startedBy: person, startedAt: this.clock.now() },
      });
      const many = ground.plan.steps.length;
      const text = `Began a proof run of ${many} steps, by ${ground.setTitle} (${why}).`;
      await this.logbook.write(
        { person, action: 'proof-begun', tag, text, facts: { proof: run.id } },
        manager,
      );
      return run.id;
    });
    return this.views.of(id);
  }

  view = (id: string): Promise<ProofRunView> => this.views.of(id);

  /** What people have said of steps. All of it is taken, or none. */
  async say(id: string, fresh: readonly NewProofSaying[], { person }: Account): Promise<ProofRunView> {
    await this.views.load(id);
    await this.dataSource.transaction(async (manager) => {
      const run = await this.open(manager, id);
      const words = await manager.find(ProofSaying, { where: { runId: id }, order: { id: 'ASC' } });
      for (const saying of fresh) {
        const { step, verdict, seen, evidence, toldAt } = saying;
        await this.requireSayable(manager, run, saying);
        // A device that got no answer brings its word once more: what was said since is not undone by that.
        const told = new Date(toldAt);
        if (words.some((each) => each.step === step && each.saidBy === person && +each.toldAt === +told))
          continue;
        await manager.insert(ProofSaying, {
          ...{ runId: id, step, verdict, seen, evidenceId: evidence },
          ...{ saidBy: person, saidAt: this.clock.now(), toldAt: told },
        });
      }
    });
    return this.views.of(id);
  }

  /** Everything was said: the run is kept as it stands, for ever. */
  async close(id: string, { person }: Account): Promise<ProofRunView> {
    await this.views.load(id);
    await this.dataSource.transaction(async (manager) => {
      const run = await this.open(manager, id);
      const view = await this.views.make(run, manager);
      const said = new Set(view.sayings.flatMap(({ step, verdict }) => (verdict === null ? [] : [step])));
      const left = view.planned.filter((step) => !said.has(step.id));
      if (left.length > 0)
        throw refused(
          `Of ${left.length} steps nobody has said anything; the first is “${left[0]?.title ?? ''}”. Say of each whether it passed, failed, or why it was not done.`,
        );
      await this.end(manager, run, view, 'closed', 'everything was said', person);
      const { passed, failed, notDone, steps } = view;
      const text = `Closed the proof run: ${passed} of ${steps} steps passed, ${failed} failed, ${notDone} not done.`;
      await this.note(manager, 'proof-closed', view.tag, text, id, person);
    });
    return this.views.of(id);
  }

  async giveUp(id: string, why: string, { person }: Account): Promise<ProofRunView> {
    await this.views.load(id);
    await this.dataSource.transaction(async (manager) => {
      const run = await this.lock(manager, id);
      const view = await this.views.make(run, manager);
      await this.end(manager, run, view, 'given-up', why, person);
      await this.note(manager, 'proof-given-up', view.tag, `Gave the proof run up: ${why}.`, id, person);
    });
    return this.views.of(id);
  }

  private async end(
    manager: EntityManager,
    run: ProofRun,
    view: ProofRunView,
    state: 'closed' | 'given-up',
    why: string,
    person: string,
  ): Promise<void> {
    const endedAt = this.clock.now();
    const ended = { state, endedBy: person, endedAt: endedAt.toISOString(), endedWhy: why };
    const record = JSON.stringify({ ...view, ...ended });
    const { passed, failed, notDone } = view;
    await manager.insert(ProofEnd, {
      ...{ runId: run.id, state, why, passed, failed, notDone, record, hash: hashOfRecord(record) },
      ...{ endedBy: person, endedAt },
    });
  }

  private note(
    manager: EntityManager,
    action: 'proof-closed' | 'proof-given-up',
    tag: string,
    text: string,
    proof: string,
    person: string,
  ): Promise<unknown> {
    return this.logbook.write({ person, action, tag, text, facts: { proof } }, manager);
  }

  /** The run for oneself; whoever comes later waits. An ended one is refused. */
  private async lock(manager: EntityManager, id: string): Promise<ProofRun> {
    await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`proof run ${id}`]);
    const run = await this.views.load(id, manager);
    const end = await manager.findOneBy(ProofEnd, { runId: id });
    if (end)
      throw refused(
        `This proof run was ${end.state === 'closed' ? 'closed' : 'given up'} by ${end.endedBy}: it stays as it is.`,
      );
    return run;
  }

  private async open(manager: EntityManager, id: string): Promise<ProofRun> {
    const run = await this.lock(manager, id);
    const unit = await manager.findOneByOrFail(Unit, { id: run.unitId });
    if (unit.removedAt === null) return run;
    const { tag } = await manager.findOneByOrFail(Position, { id: run.positionId });
    throw refused(`Another unit sits at ${tag} since this run began. Give it up, and begin anew.`);
  }

  /** A word rests on evidence that says the same, or on what a person has typed. */
  private async requireSayable(
    manager: EntityManager,
    { id, plan }: ProofRun,
    { step, verdict, seen, evidence }: NewProofSaying,
  ): Promise<void> {
    const known = plan.steps.find((each) => each.id === step);
    if (!known) throw refused(`This proof run has no step “${step}”.`);
    if (verdict === null) return;
    const words = seen.trim().length;
    if (evidence !== null) {
      const found = await manager.findOneBy(ProofEvidence, { id: evidence, runId: id, step });
      if (!found) throw refused(`“${known.title}” has no such evidence.`);
      if (found.state !== verdict && words === 0)
        throw refused(
          `The evidence of “${known.title}” does not say that it ${verdict}. Type what you have seen.`,
        );
      return;
    }
    if (words === 0)
      throw refused(
        verdict === 'not-done'
          ? `Say why “${known.title}” was not done.`
          : `Nothing was read for “${known.title}”: type what you have seen.`,
      );
  }
}
