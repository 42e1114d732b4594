// Making write plans, releasing them and starting them. Whether a unit may be written to is decided here and in the
// run; a screen only explains.

import { Injectable } from '@nestjs/common';
import type { WritePlanView } from '@drive-keep/api';
import { factsOf, type Code } from '@drive-keep/core/dictionary';
import { describeUnreachable, planWrites } from '@drive-keep/core/plans';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { JobQueue } from '../jobs/job-queue.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { isUuid } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { StoredWritePlan } from './write-plan.entity.ts';
import { StoredWriteStep } from './write-step.entity.ts';

/** A machine that was seen standing does not stand for ever: the statement has to be made again after this time. */
const RELEASE_MINUTES = 15;

@Injectable()
export class WritePlans {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly dictionaries: Dictionaries,
    private readonly contents: ContentStore,
    private readonly jobs: Jobs,
    private readonly queue: JobQueue,
    private readonly logbook: Logbook,
  ) {}

  /** Plans to bring the named parameters to their values in the referenced set, from what the newest backup holds. */
  async plan(
    tag: string,
    target: string,
    codes: readonly string[],
    { person }: Account,
  ): Promise<WritePlanView> {
    const [at] = await this.register.inPlace([tag]);
    if (!at?.unit.line) {
      const detail = `${tag} has no line: its values are set at its keypad. Nothing was planned.`;
      throw new ProblemException(422, 'no-line', detail);
    }
    const current = await this.sets.get(at, 'newest');
    const wanted = await this.sets.get(at, target);
    const dictionary = await this.dictionaries.get(at.unit.dictionaryId);
    if (wanted.set.dictionary !== dictionary.id || current.set.dictionary !== dictionary.id) {
      const detail = `The set is of ${wanted.set.dictionary}; the unit at ${tag} is of ${dictionary.id}.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    const lines = new Map(
      [...new Set(codes)].map((code) => [code as Code, wanted.set.readings.get(code as Code)]),
    );
    const plan = planWrites(dictionary, factsOf(dictionary, at.unit) ?? {}, current.set, lines);
    const unreachable = plan.unreachable.map((each) => ({
      ...each,
      text: describeUnreachable(each, dictionary),
    }));
    const id = await this.dataSource.transaction(async (manager) => {
      const plans = manager.getRepository(StoredWritePlan);
      const stored = await plans.save(
        plans.create({
          position: at.position,
          unit: at.unit,
          dictionaryId: dictionary.id,
          state: 'planned',
          target: wanted.side.title,
          plannedBy: person,
          basisHash: await this.contents.keep(current.set, manager),
          predictedHash: await this.contents.keep(plan.predicted, manager),
          unreachable,
          alreadyThere: [...plan.alreadyThere],
        }),
      );
      const steps = plan.steps.map(({ from, to, ...step }, place) => {
        return { planId: stored.id, place, fromReading: from ?? null, toRaw: to, ...step };
      });
      await manager.getRepository(StoredWriteStep).insert(steps);
      const text = `Planned ${plan.steps.length} writes towards ${wanted.side.title}.`;
      await this.logbook.write(
        { person, action: 'write-planned', tag, text, facts: { plan: stored.id } },
        manager,
      );
      return stored.id;
    });
    return this.view(id);
  }

  /** Somebody states that the machine is stopped and safe to write to. */
  async release(id: string, { person }: Account): Promise<WritePlanView> {
    const plan = await this.load(id);
    if (!['planned', 'released', 'refused'].includes(plan.state)) throw over(plan);
    if (plan.steps.length === 0)
      throw new ProblemException(409, 'nothing-to-write', 'The plan has nothing to write.');
    const now = new Date();
    await this.update(id, {
      state: 'released',
      releasedBy: person,
      releasedAt: now,
      releasedUntil: new Date(now.getTime() + RELEASE_MINUTES * 60_000),
      text: '',
    });
    const { tag } = plan.position;
    const text = `Stated that the machine at ${tag} is stopped and safe to write to, for ${RELEASE_MINUTES} min.`;
    await this.logbook.write({ person, action: 'released', tag, text, facts: { plan: id } });
    return this.view(id);
  }

  /** Hands a released plan to the queue. Only one caller gets through. */
  async carryOut(id: string, { person }: Account): Promise<WritePlanView> {
    const plan = await this.load(id);
    if (plan.state !== 'released') throw plan.state === 'planned' ? notReleased(plan) : over(plan);
    if ((plan.releasedUntil ?? new Date(0)) < new Date()) throw notReleased(plan);
    const jobId = await this.dataSource.transaction(async (manager) => {
      const taken = await manager.update(
        StoredWritePlan,
        { id, state: 'released' },
        { state: 'writing', text: '' },
      );
      if (taken.affected !== 1) throw over(plan);
      const reason = `Put back ${plan.steps.length} values at ${plan.position.tag}`;
      const job = await this.jobs.create(manager, { kind: 'write', reason, requestedBy: person }, [
        plan.unit,
      ]);
      await manager.update(StoredWritePlan, id, { jobId: job });
      const text = `Started ${plan.steps.length} writes towards ${plan.target}.`;
      const { tag } = plan.position;
      await this.logbook.write({ person, action: 'write-started', tag, text, facts: { plan: id } }, manager);
      return job;
    });
    await this.queue.send('write', jobId);
    return this.view(id);
  }

  /** What a dead worker leaves behind: the steps say how far it came. */
  async followInterrupted(): Promise<void> {
    const plans = await this.dataSource
      .getRepository(StoredWritePlan)
      .createQueryBuilder('plan')
      .innerJoin('job', 'job', 'job.id = plan.jobId')
      .leftJoinAndSelect('plan.steps', 'step')
      .where(`plan.state = 'writing' and job.state = 'interrupted'`)
      .orderBy('step.place')
      .getMany();
    for (const plan of plans) {
      await this.update(plan.id, {
        state: 'interrupted',
        text: 'The server was interrupted while it wrote. Back the unit up and plan again.',
        holds: describeHolds(plan),
      });
    }
  }

  async load(id: string): Promise<StoredWritePlan> {
    const plan = isUuid(id)
      ? await this.dataSource.getRepository(StoredWritePlan).findOne({
          where: { id },
          relations: { position: true, unit: { line: true, position: true }, steps: true },
          order: { steps: { place: 'ASC' } },
        })
      : null;
    if (!plan) throw notFound('This write plan');
    return plan;
  }

  async update(id: string, change: Partial<StoredWritePlan>): Promise<void> {
    await this.dataSource.getRepository(StoredWritePlan).update(id, change);
  }

  async updateStep(id: string, place: number, change: Partial<StoredWriteStep>): Promise<void> {
    await this.dataSource.getRepository(StoredWriteStep).update({ planId: id, place }, change);
  }

  async view(id: string): Promise<WritePlanView> {
    const plan = await this.load(id);
    const { releasedBy, releasedAt, releasedUntil } = plan;
    return {
      id: plan.id,
      tag: plan.position.tag,
      dictionary: plan.dictionaryId,
      state: plan.state,
      target: plan.target,
      plannedBy: plan.plannedBy,
      plannedAt: plan.plannedAt.toISOString(),
      steps: plan.steps.map(
        ({ code, fromReading, toRaw, phase, reason, stopped, restart, state, readBack, text }) => {
          return {
            code,
            from: fromReading,
            to: toRaw,
            phase,
            reason,
            stopped,
            restart,
            state,
            readBack,
            text,
          };
        },
      ),
      unreachable: plan.unreachable,
      alreadyThere: plan.alreadyThere,
      release:
        releasedBy && releasedAt && releasedUntil
          ? { by: releasedBy, at: releasedAt.toISOString(), until: releasedUntil.toISOString() }
          : null,
      text: plan.text,
      holds: plan.holds,
      saved: plan.saved,
      jobId: plan.jobId,
      backupBefore: plan.backupBefore,
      backupAfter: plan.backupAfter,
    };
  }
}

/** What the unit holds after a plan that did not come to its end, from the steps that were persisted. */
export function describeHolds(plan: Pick<StoredWritePlan, 'steps' | 'saved'>): string {
  const written = plan.steps.filter((step) => step.state === 'written').length;
  const doubtful = plan.steps.filter((step) => step.state === 'writing').map((step) => step.code);
  const doubt = doubtful.length > 0 ? ` Whether ${doubtful.join(', ')} was taken is not known.` : '';
  if (plan.saved) return `All ${written} writes are in the unit and saved permanently.`;
  if (written === 0) return `Nothing was written.${doubt}`;
  const count = `${written} of ${plan.steps.length} writes are in the working memory of the unit`;
  return `${count}, not saved permanently: a power cycle brings the former values back.${doubt}`;
}

const notReleased = ({ position }: StoredWritePlan): ProblemException =>
  new ProblemException(
    409,
    'not-released',
    `${position.tag} is not released, or the release has run out. State that the machine is stopped and safe to write to.`,
  );

const over = ({ state }: StoredWritePlan): ProblemException =>
  new ProblemException(409, 'plan-over', `This plan is ${state}. Make a new plan from the newest backup.`);
