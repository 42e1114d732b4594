// Making write plans, releasing them and starting them. Whether a unit may be written to is decided here and in the
// run; a screen only explains.

import { Injectable } from '@nestjs/common';
import type { WritePlanKind, WritePlanView } from '@drive-keep/api';
import { factsOf, findParameter, type Code, type Dictionary } from '@drive-keep/core/dictionary';
import {
  carryOver,
  describeUnreachable,
  planWrites,
  type CarriedOver,
  type ResetPlan,
  type WritePlan,
} from '@drive-keep/core/plans';
import type { ParameterSet } from '@drive-keep/core/sets';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { JobQueue } from '../jobs/job-queue.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { isUuid } from '../sets/backups.service.ts';
import { Axes } from '../sets/axes.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { describeHolds, writePlanView } from './write-plan-view.ts';
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
    private readonly axes: Axes,
    private readonly jobs: Jobs,
    private readonly queue: JobQueue,
    private readonly logbook: Logbook,
  ) {}

  /**
   * Plans to bring the named parameters, or all that the referenced set has, to their values in it, from what the newest
   * backup holds. A set of another version of the model is carried over.
   */
  async plan(
    tag: string,
    target: string,
    codes: readonly string[] | undefined,
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
    if (current.set.dictionary !== dictionary.id) {
      const detail = `The newest backup of ${tag} is of another model than the unit that sits there. Back the unit up first.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    const carried = await this.carried(wanted.set, dictionary, tag);
    await this.axes.requireOwn(at.position, dictionary, {
      dictionary: dictionary.id,
      readings: carried.readings,
    });
    const asked = codes ?? [...carried.readings.keys(), ...carried.homeless];
    const lines = new Map(
      [...new Set(asked)].map((code) => [code as Code, carried.readings.get(code as Code)]),
    );
    const plan = planWrites(dictionary, factsOf(dictionary, at.unit) ?? {}, current.set, lines);
    const told = { kind: 'write' as const, follows: null, target: wanted.side.title, person };
    return this.store(at, dictionary, current.set, plan, told);
  }

  private async carried(set: ParameterSet, dictionary: Dictionary, tag: string): Promise<CarriedOver> {
    if (set.dictionary === dictionary.id) return { readings: set.readings, homeless: [] };
    const other = await this.dictionaries.get(set.dictionary);
    if (other.model === dictionary.model) return carryOver(other, dictionary, set);
    const detail = `The set is of ${set.dictionary}; the unit at ${tag} is of ${dictionary.id}.`;
    throw new ProblemException(422, 'different-models', detail);
  }

  /** Keeps a plan with the sets before and after it. */
  async store(
    { position, unit }: PositionWithUnit,
    dictionary: Dictionary,
    basis: ParameterSet,
    plan: Pick<WritePlan, 'steps' | 'unreachable' | 'alreadyThere' | 'idle' | 'predicted'>,
    { kind, follows, target, person, reset }: PlanTold,
  ): Promise<WritePlanView> {
    const unreachable = plan.unreachable.map((each) => ({
      ...each,
      text: describeUnreachable(each, dictionary),
    }));
    const procedure = (reset?.steps ?? []).map(({ code, from, to, text, busyMs }) => {
      const { access, restart } = findParameter(dictionary, code) ?? {};
      const reason = { kind: 'procedure' as const, text };
      return {
        code,
        from,
        to,
        phase: 'reset' as const,
        reason,
        busyMs,
        stopped: access === 'write-stopped',
        restart,
      };
    });
    const id = await this.dataSource.transaction(async (manager) => {
      const plans = manager.getRepository(StoredWritePlan);
      const stored = await plans.save(
        plans.create({
          ...{ position, unit, kind, follows, target, unreachable },
          dictionaryId: dictionary.id,
          state: 'planned',
          plannedBy: person,
          basisHash: await this.contents.keep(basis, manager),
          predictedHash: await this.contents.keep(plan.predicted, manager),
          resetHash: reset ? await this.contents.keep(reset.afterReset, manager) : null,
          alreadyThere: [...plan.alreadyThere],
          idle: [...plan.idle],
        }),
      );
      const steps = [...procedure, ...plan.steps].map(({ from, to, restart, ...step }, place) => {
        return {
          planId: stored.id,
          place,
          fromReading: from ?? null,
          toRaw: to,
          restart: restart ?? false,
          ...step,
        };
      });
      await manager.getRepository(StoredWriteStep).insert(steps);
      const text = `Planned ${steps.length} writes towards ${target}.`;
      const { tag } = position;
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
    // Without a write there may still be something to save: what somebody has tried out in the working memory.
    const { line } = await this.dictionaries.get(plan.dictionaryId);
    if (plan.steps.length === 0 && (!line?.save || plan.alreadyThere.length === 0)) {
      const why = line?.save
        ? 'of what was asked for the unit holds nothing'
        : 'this model keeps every value at once';
      throw new ProblemException(409, 'nothing-to-write', `The plan has nothing to write, and ${why}.`);
    }
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
  async carryOut(id: string, { person }: Account, restartCheck = false): Promise<WritePlanView> {
    const plan = await this.load(id);
    if (plan.state !== 'released') throw plan.state === 'planned' ? notReleased(plan) : over(plan);
    if ((plan.releasedUntil ?? new Date(0)) < new Date()) throw notReleased(plan);
    const jobId = await this.dataSource.transaction(async (manager) => {
      const taken = await manager.update(
        StoredWritePlan,
        { id, state: 'released' },
        { state: 'writing', text: '', restartCheck },
      );
      if (taken.affected !== 1) throw over(plan);
      const reason = `${KIND_NAMES[plan.kind]} at ${plan.position.tag}`;
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
        text: 'The server was interrupted while it wrote. Write the rest or go back, from what the unit holds now.',
        holds: describeHolds(plan, await this.dictionaries.get(plan.dictionaryId)),
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
    return writePlanView(await this.load(id));
  }

  /** Plans of a position, newest first. */
  async of(tag: string, most: number): Promise<readonly WritePlanView[]> {
    const plans = await this.dataSource.getRepository(StoredWritePlan).find({
      where: { position: { tag } },
      relations: { position: true, steps: true },
      order: { plannedAt: 'DESC', steps: { place: 'ASC' } },
      take: most,
    });
    return plans.map(writePlanView);
  }
}

/** How a plan came about. */
export interface PlanTold {
  readonly kind: WritePlanKind;
  readonly follows: string | null;
  readonly target: string;
  readonly person: string;
  readonly reset?: Pick<ResetPlan, 'steps' | 'afterReset'>;
}

const KIND_NAMES: Readonly<Record<WritePlanKind, string>> = {
  write: 'Write values',
  reset: 'Reset to defaults',
  resume: 'Write the rest',
  undo: 'Go back to the values before',
};

const notReleased = ({ position }: StoredWritePlan): ProblemException =>
  new ProblemException(
    409,
    'not-released',
    `${position.tag} is not released, or the release has run out. State that the machine is stopped and safe to write to.`,
  );

const over = ({ state }: StoredWritePlan): ProblemException =>
  new ProblemException(409, 'plan-over', `This plan is ${state}. Make a new plan from the newest backup.`);
