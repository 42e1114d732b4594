// Loads of all axes of a machine: each axis gets a plan towards its own set, and all are released and started together.

import { Injectable } from '@nestjs/common';
import type { AxisLoadView, AxisMachineView, AxisOnFailure } from '@drive-keep/api';
import { DataSource, In, IsNull, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Jobs, type EarlyEnd, type Hanging } from '../jobs/jobs.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Machine } from '../register/machine.entity.ts';
import { Position } from '../register/position.entity.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Clock } from '../storage/clock.ts';
import { isUuid } from '../storage/uuid.ts';
import { isTouched } from '../writing/unit-holds.ts';
import { StoredWritePlan } from '../writing/write-plan.entity.ts';
import { WritePlans } from '../writing/write-plans.service.ts';
import { AxisLoad } from './axis-load.entity.ts';
import { MachineController } from './machine-controller.entity.ts';

const RELEASE_MINUTES = 15;
const MOST_LOADS = 10;

@Injectable()
export class AxisLoads implements Hanging {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly plans: WritePlans,
    private readonly jobs: Jobs,
    private readonly clock: Clock,
    private readonly logbook: Logbook,
  ) {}

  /** The machine at which this position is an axis. */
  async machineOf(tag: string): Promise<AxisMachineView> {
    const { machine, axes } = await this.axesOf(tag);
    const loads = await this.dataSource.getRepository(AxisLoad).find({
      where: { machine: { id: machine.id } },
      order: { madeAt: 'DESC' },
      take: MOST_LOADS,
    });
    return {
      area: machine.area.name,
      machine: machine.name,
      axes: await Promise.all(
        axes.map(async ({ position: { tag: axis, duty }, unit }) => {
          const { maker, name } = await this.dictionaries.get(unit.dictionaryId);
          return { tag: axis, duty, model: `${maker} ${name}`, rating: unit.rating, serial: unit.serial };
        }),
      ),
      loads: loads.map(({ id, madeAt, madeBy, state }) => ({
        id,
        madeAt: madeAt.toISOString(),
        madeBy,
        state,
      })),
    };
  }

  /** A set of another axis, or of another model, refuses the whole: nothing is planned then. */
  async plan(
    tag: string,
    targets: Readonly<Record<string, string>>,
    onFailure: AxisOnFailure,
    account: Account,
  ): Promise<AxisLoadView> {
    const { machine, axes } = await this.axesOf(tag);
    const strange = Object.keys(targets).filter((each) =>
      axes.every(({ position }) => position.tag !== each),
    );
    if (strange.length > 0)
      throw new ProblemException(
        422,
        'no-such-axis',
        `${strange.join(', ')} is no axis of ${machine.name}. Nothing was planned.`,
      );
    const planIds: string[] = [];
    for (const { position } of axes) {
      const plan = await this.plans.plan(
        position.tag,
        targets[position.tag] ?? 'baseline',
        undefined,
        account,
      );
      planIds.push(plan.id);
    }
    const { id } = await this.dataSource
      .getRepository(AxisLoad)
      .save({ machine, state: 'planned' as const, onFailure, planIds, madeBy: account.person });
    const text = `Planned to load the ${axes.length} axes of ${machine.name}.`;
    await this.logbook.write({ person: account.person, action: 'axes-planned', text, facts: { load: id } });
    return this.view(id);
  }

  async release(id: string, { person }: Account): Promise<AxisLoadView> {
    const load = await this.load(id);
    if (!(await this.mayBeReleased(load))) throw over(load);
    const until = new Date(this.clock.now().getTime() + RELEASE_MINUTES * 60_000);
    await this.dataSource.transaction(async (manager) => {
      const change = { state: 'released' as const, releasedBy: person, releasedUntil: until, text: '' };
      const released = await manager.update(AxisLoad, { id, state: load.state }, change);
      if (released.affected !== 1) throw over(load);
      const text = `Stated that ${load.machine.name} is stopped and safe to write to, for ${RELEASE_MINUTES} min.`;
      await this.logbook.write({ person, action: 'released', text, facts: { load: id } }, manager);
    });
    return this.view(id);
  }

  /** Hands a released load to the queue. Only one caller gets through. */
  async carryOut(id: string, { person }: Account, cutOffKnown = false): Promise<AxisLoadView> {
    const load = await this.load(id);
    const now = this.clock.now();
    if (load.state !== 'released' || (load.releasedUntil ?? new Date(0)) <= now)
      throw load.state === 'planned' || load.state === 'released' ? notReleased(load) : over(load);
    const plans = await this.plansOf(load);
    for (const plan of plans) {
      await this.register.requireInPlace(plan.position.tag, plan.unit.id);
      await this.plans.requireCutOffKnown(plan, { cutOffKnown });
    }
    await this.dataSource.transaction(async (manager) => {
      const taken = await manager.update(AxisLoad, { id, state: 'released' }, { state: 'loading', text: '' });
      if (taken.affected !== 1) throw over(load);
      const reason = `Load the axes of ${load.machine.name}`;
      const units = plans.map(({ unit }) => unit);
      const job = await this.jobs.create(manager, { kind: 'axes', reason, requestedBy: person }, units);
      await manager.update(AxisLoad, id, { jobId: job });
      // The axes are released with their machine.
      const { releasedBy, releasedUntil } = load;
      const change = { jobId: job, releasedBy, releasedAt: now, releasedUntil, text: '', holds: '' };
      await manager.update(
        StoredWritePlan,
        { id: In(load.planIds) },
        { ...change, state: 'writing', endedAt: null },
      );
      const text = `Started to load the axes of ${load.machine.name}.`;
      await this.logbook.write({ person, action: 'axes-started', text, facts: { load: id } }, manager);
    });
    return this.view(id);
  }

  /** Ends a load whose job was stopped before it began, or whose worker has died; the plans say how far each axis came. */
  async endWithJob(manager: EntityManager, jobId: string, how: EarlyEnd): Promise<string> {
    const text = await this.plans.endWithJob(manager, jobId, how);
    const load = await manager.findOneBy(AxisLoad, { jobId, state: 'loading' });
    if (!load) return text;
    const state = how === 'stopped' ? ('refused' as const) : ('interrupted' as const);
    const told =
      how === 'stopped'
        ? text
        : 'The server was interrupted while the axes were loaded. The machine may be held: look at its controller, and at each axis below.';
    await manager.update(AxisLoad, { id: load.id }, { state, text: told });
    return text;
  }

  async leftBehind(): Promise<readonly string[]> {
    const rows: { id: string }[] = await this.dataSource.query(
      `select j.id from axis_load l join job j on j.id = l.job_id
        where l.state = 'loading' and j.state not in ('queued', 'running')`,
    );
    return [...rows.map(({ id }) => id), ...(await this.plans.leftBehind('axes'))];
  }

  private async mayBeReleased(load: AxisLoad): Promise<boolean> {
    if (['planned', 'released', 'refused'].includes(load.state)) return true;
    return load.state === 'interrupted' && (await this.plansOf(load)).every((plan) => !isTouched(plan));
  }

  async load(id: string): Promise<AxisLoad> {
    const load = isUuid(id)
      ? await this.dataSource
          .getRepository(AxisLoad)
          .findOne({ where: { id }, relations: { machine: { area: true } } })
      : null;
    if (!load) throw notFound('This load of axes');
    return load;
  }

  async ofJob(jobId: string): Promise<AxisLoad> {
    const { id } = await this.dataSource.getRepository(AxisLoad).findOneByOrFail({ jobId });
    return this.load(id);
  }

  /** Ends a load at work; false where somebody else has ended it. */
  async close(manager: EntityManager, id: string, end: Pick<AxisLoad, 'state' | 'text'>): Promise<boolean> {
    return (await manager.update(AxisLoad, { id, state: 'loading' }, end)).affected === 1;
  }

  async controllerOf({ machine }: AxisLoad): Promise<MachineController> {
    const where = { machineId: machine.id };
    return this.dataSource
      .getRepository(MachineController)
      .findOneOrFail({ where, relations: { line: true } });
  }

  plansOf = ({ planIds }: AxisLoad): Promise<StoredWritePlan[]> =>
    Promise.all(planIds.map((id) => this.plans.load(id)));

  async view(id: string): Promise<AxisLoadView> {
    const load = await this.load(id);
    const { machine, releasedBy, releasedUntil } = load;
    return {
      ...{ id, area: machine.area.name, machine: machine.name, state: load.state, onFailure: load.onFailure },
      ...{ madeBy: load.madeBy, madeAt: load.madeAt.toISOString(), text: load.text, jobId: load.jobId },
      release: releasedBy && releasedUntil ? { by: releasedBy, until: releasedUntil.toISOString() } : null,
      mayBeReleased: await this.mayBeReleased(load),
      plans: await Promise.all(load.planIds.map((each) => this.plans.view(each))),
    };
  }

  private async axesOf(tag: string): Promise<{ machine: Machine; axes: readonly PositionWithUnit[] }> {
    const position = await this.dataSource
      .getRepository(Position)
      .findOne({ where: { tag }, relations: { machine: { area: true } } });
    if (!position) throw notFound(`The position ${tag}`);
    const { machine } = position;
    const controlled = await this.dataSource
      .getRepository(MachineController)
      .existsBy({ machineId: machine.id });
    if (!controlled) {
      const detail = `${machine.name} has no controller: its drives are written to one by one.`;
      throw new ProblemException(404, 'no-controller', detail);
    }
    const positions = await this.dataSource.getRepository(Position).find({
      where: { machine: { id: machine.id }, retiredAt: IsNull() },
      order: { place: 'ASC' },
    });
    return { machine, axes: await this.register.inPlace(positions.map((each) => each.tag)) };
  }
}

const notReleased = ({ machine }: AxisLoad): ProblemException =>
  new ProblemException(
    409,
    'not-released',
    `${machine.name} is not released, or the release has run out. State that it is stopped and safe to write to.`,
  );

const over = ({ state }: AxisLoad): ProblemException =>
  new ProblemException(409, 'plan-over', `This load is ${state}. Make a new one.`);
