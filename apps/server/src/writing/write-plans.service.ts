// Making write plans, releasing them and starting them. Whether a unit may be written to is decided here and in the
// run; a screen only explains.

import { Injectable } from '@nestjs/common';
import type { JobKind, WritePlanKind, WritePlanView } from '@drive-keep/api';
import { factsOf, findParameter, type Code, type Dictionary } from '@drive-keep/core/dictionary';
import {
  carryOver,
  describeCutOff,
  describeUnreachable,
  planWrites,
  type CarriedOver,
  type ResetPlan,
  type WritePlan,
} from '@drive-keep/core/plans';
import type { ParameterSet } from '@drive-keep/core/sets';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { Jobs, type EarlyEnd, type Hanging } from '../jobs/jobs.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Clock } from '../storage/clock.ts';
import { isUuid } from '../storage/uuid.ts';
import { Axes } from '../sets/axes.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { holdsUnread, isTouched } from './unit-holds.ts';
import { cutOffsOf, mayBeReleased, writePlanView } from './write-plan-view.ts';
import { StoredWritePlan } from './write-plan.entity.ts';
import { StoredWriteStep } from './write-step.entity.ts';

/** A machine that was seen standing does not stand for ever: the statement has to be made again after this time. */
const RELEASE_MINUTES = 15;

@Injectable()
export class WritePlans implements Hanging {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly dictionaries: Dictionaries,
    private readonly contents: ContentStore,
    private readonly axes: Axes,
    private readonly jobs: Jobs,
    private readonly clock: Clock,
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
    account: Account,
  ): Promise<WritePlanView> {
    const store = await this.prepare(tag, target, codes, account);
    return this.view(await this.dataSource.transaction(store));
  }

  /** Everything but the keeping, which the caller does in a transaction of its own; answers with the id of the plan. */
  async prepare(
    tag: string,
    target: string,
    codes: readonly string[] | undefined,
    { person }: Account,
  ): Promise<(manager: EntityManager) => Promise<string>> {
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
    return (manager) => this.keep(manager, at, dictionary, current.set, plan, told);
  }

  private async carried(set: ParameterSet, dictionary: Dictionary, tag: string): Promise<CarriedOver> {
    if (set.dictionary === dictionary.id) return { readings: set.readings, homeless: [] };
    const other = await this.dictionaries.get(set.dictionary);
    if (other.model === dictionary.model) return carryOver(other, dictionary, set);
    const detail = `The set is of ${set.dictionary}; the unit at ${tag} is of ${dictionary.id}.`;
    throw new ProblemException(422, 'different-models', detail);
  }

  async store(...what: PlanToKeep): Promise<WritePlanView> {
    return this.view(await this.dataSource.transaction((manager) => this.keep(manager, ...what)));
  }

  /** Keeps a plan with the sets before and after it. */
  async keep(
    manager: EntityManager,
    ...[{ position, unit }, dictionary, basis, plan, told]: PlanToKeep
  ): Promise<string> {
    const { kind, follows, target, person, reset } = told;
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
    const steps = [...procedure, ...plan.steps].map(({ from, to, restart, ...step }, place) => ({
      ...{ planId: stored.id, place, fromReading: from ?? null, toRaw: to, restart: restart ?? false },
      ...step,
    }));
    await manager.getRepository(StoredWriteStep).insert(steps);
    const text = `Planned ${steps.length} writes towards ${target}.`;
    const { tag } = position;
    const facts = { plan: stored.id };
    await this.logbook.write({ person, action: 'write-planned', tag, text, facts }, manager);
    return stored.id;
  }

  /** Somebody states that the machine is stopped and safe to write to. */
  async release(id: string, { person }: Account): Promise<WritePlanView> {
    const plan = await this.load(id);
    if (!mayBeReleased(plan)) throw over(plan);
    await this.register.requireInPlace(plan.position.tag, plan.unit.id);
    // Without a write there may still be something to save: what somebody has tried out in the working memory.
    const { line } = await this.dictionaries.get(plan.dictionaryId);
    if (plan.steps.length === 0 && (!line?.save || plan.alreadyThere.length === 0)) {
      const why = line?.save
        ? 'of what was asked for the unit holds nothing'
        : 'this model keeps every value at once';
      throw new ProblemException(409, 'nothing-to-write', `The plan has nothing to write, and ${why}.`);
    }
    const now = this.clock.now();
    await this.dataSource.transaction(async (manager) => {
      const released = await manager.update(
        StoredWritePlan,
        { id, state: plan.state },
        {
          state: 'released',
          releasedBy: person,
          releasedAt: now,
          releasedUntil: new Date(now.getTime() + RELEASE_MINUTES * 60_000),
          text: '',
          holds: '',
        },
      );
      if (released.affected !== 1) throw over(plan);
      const { tag } = plan.position;
      const text = `Stated that the machine at ${tag} is stopped and safe to write to, for ${RELEASE_MINUTES} min.`;
      await this.logbook.write({ person, action: 'released', tag, text, facts: { plan: id } }, manager);
    });
    return this.view(id);
  }

  /** Hands a released plan to the queue. Only one caller gets through. */
  async carryOut(id: string, { person }: Account, how: HowToCarryOut = {}): Promise<WritePlanView> {
    const { restartCheck = false } = how;
    const plan = await this.load(id);
    if (plan.state !== 'released') throw plan.state === 'planned' ? notReleased(plan) : over(plan);
    if ((plan.releasedUntil ?? new Date(0)) <= this.clock.now()) throw notReleased(plan);
    await this.register.requireInPlace(plan.position.tag, plan.unit.id);
    await this.requireCutOffKnown(plan, how);
    await this.dataSource.transaction(async (manager) => {
      const taken = await manager.update(
        StoredWritePlan,
        { id, state: 'released' },
        { state: 'writing', text: '', restartCheck, endedAt: null },
      );
      if (taken.affected !== 1) throw over(plan);
      const reason = `${KIND_NAMES[plan.kind]} at ${plan.position.tag}`;
      const job = await this.jobs.create(manager, { kind: 'write', reason, requestedBy: person }, [
        plan.unit,
      ]);
      await manager.update(StoredWritePlan, id, { jobId: job });
      const known = how.cutOffKnown ? ' Stated that it is known what this does to the line.' : '';
      const text = `Started ${plan.steps.length} writes towards ${plan.target}.${known}`;
      const { tag } = plan.position;
      await this.logbook.write({ person, action: 'write-started', tag, text, facts: { plan: id } }, manager);
    });
    return this.view(id);
  }

  /** Whoever cuts a unit off states that he knows; nobody is made to wait for a unit that cannot answer. */
  async requireCutOffKnown(plan: StoredWritePlan, how: HowToCarryOut): Promise<void> {
    const cutOffs = cutOffsOf(plan, await this.dictionaries.get(plan.dictionaryId));
    const codes = cutOffs.map(({ code }) => code).join(', ');
    if (cutOffs.length > 0 && !how.cutOffKnown)
      throw new ProblemException(
        422,
        'cut-off-not-stated',
        `After ${codes} ${plan.position.tag} may not be reached over its line any more. State that you know what it means. Nothing was written.`,
        cutOffs.map(describeCutOff),
      );
    if (how.restartCheck && cutOffs.some(({ kind }) => kind === 'baud' || kind === 'parity'))
      throw new ProblemException(
        422,
        'cut-off-by-restart',
        `A restart would bring ${codes} into effect, and the unit could not be asked afterwards. Carry it out without the restart; restart the unit by hand once the gateway has the same setting.`,
      );
  }

  /** Ends the plans of a job that was stopped before it began, or whose worker has died; the steps say how far it came. */
  async endWithJob(manager: EntityManager, jobId: string, how: EarlyEnd): Promise<string> {
    const plans = await manager.getRepository(StoredWritePlan).find({
      where: { jobId, state: 'writing' },
      relations: { position: true, steps: true },
      order: { steps: { place: 'ASC' } },
    });
    const texts: string[] = [];
    for (const plan of plans) {
      const holds = holdsUnread(plan, await this.dictionaries.get(plan.dictionaryId));
      const touched = isTouched(plan);
      const text = touched ? BROKE_OFF : how === 'stopped' ? STOPPED : NOT_BEGUN;
      const state = !touched && how === 'stopped' ? ('refused' as const) : ('interrupted' as const);
      await this.close(manager, plan.id, { state, text, holds });
      const note = { person: 'Drive Keep', action: `write-${state}`, tag: plan.position.tag };
      await this.logbook.write({ ...note, text: `${text} ${holds}`, facts: { plan: plan.id } }, manager);
      texts.push(text);
    }
    return texts[0] ?? STOPPED;
  }

  /** Jobs that are over, of which a plan says that it is being written. */
  async leftBehind(kind: JobKind = 'write'): Promise<readonly string[]> {
    const rows: { id: string }[] = await this.dataSource.query(
      `select distinct j.id from write_plan p join job j on j.id = p.job_id
        where p.state = 'writing' and j.kind = $1 and j.state not in ('queued', 'running')`,
      [kind],
    );
    return rows.map(({ id }) => id);
  }

  /** Ends a plan that is being written; false where somebody else has ended it. */
  async close(
    manager: EntityManager,
    id: string,
    end: Pick<StoredWritePlan, 'state' | 'text' | 'holds'>,
  ): Promise<boolean> {
    const change = { ...end, endedAt: this.clock.now() };
    return (await manager.update(StoredWritePlan, { id, state: 'writing' }, change)).affected === 1;
  }

  /** Begins a plan under the release and within the job of another one. */
  async beginWithin(
    manager: EntityManager,
    id: string,
    { releasedBy, releasedAt, releasedUntil }: StoredWritePlan,
    jobId: string,
  ): Promise<void> {
    const release = { releasedBy, releasedAt, releasedUntil };
    await manager.update(StoredWritePlan, { id }, { state: 'writing', jobId, ...release });
  }

  async idOfJob(jobId: string): Promise<string> {
    return (await this.dataSource.getRepository(StoredWritePlan).findOneByOrFail({ jobId })).id;
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
    return this.viewOf(await this.load(id));
  }

  /** Plans of a position, newest first. */
  async of(tag: string, most: number): Promise<readonly WritePlanView[]> {
    const plans = await this.dataSource.getRepository(StoredWritePlan).find({
      where: { position: { tag } },
      relations: { position: true, steps: true },
      order: { plannedAt: 'DESC', steps: { place: 'ASC' } },
      take: most,
    });
    return Promise.all(plans.map((plan) => this.viewOf(plan)));
  }

  private async viewOf(plan: StoredWritePlan): Promise<WritePlanView> {
    return writePlanView(plan, await this.dictionaries.get(plan.dictionaryId));
  }
}

const BROKE_OFF =
  'The server was interrupted while it wrote. Write the rest or go back, from what the unit holds now.';
const NOT_BEGUN =
  'The server was interrupted before it wrote anything. State again that the machine is stopped, and carry it out anew.';
const STOPPED = 'Stopped before it began.';

/** A plan with what it was made from and for. */
export type PlanToKeep = readonly [
  at: PositionWithUnit,
  dictionary: Dictionary,
  basis: ParameterSet,
  plan: Pick<WritePlan, 'steps' | 'unreachable' | 'alreadyThere' | 'idle' | 'predicted'>,
  told: PlanTold,
];

export interface HowToCarryOut {
  readonly restartCheck?: boolean | undefined;
  /** Somebody has stated that he knows what the plan does to the line. */
  readonly cutOffKnown?: boolean | undefined;
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
