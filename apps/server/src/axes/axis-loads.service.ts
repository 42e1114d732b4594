// Loads of all axes of a machine: each axis gets a plan towards its own set, and all are released and started together.

import { Injectable } from '@nestjs/common';
import type { AxisLoadView, AxisMachineView, AxisOnFailure } from '@drive-keep/api';
import { DataSource, In, IsNull } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { JobQueue } from '../jobs/job-queue.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Machine } from '../register/machine.entity.ts';
import { Position } from '../register/position.entity.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { isUuid } from '../sets/backups.service.ts';
import { StoredWritePlan } from '../writing/write-plan.entity.ts';
import { WritePlans } from '../writing/write-plans.service.ts';
import { AxisLoad } from './axis-load.entity.ts';
import { MachineController } from './machine-controller.entity.ts';

const RELEASE_MINUTES = 15;
const MOST_LOADS = 10;

@Injectable()
export class AxisLoads {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly plans: WritePlans,
    private readonly jobs: Jobs,
    private readonly queue: JobQueue,
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
    if (!['planned', 'released', 'refused'].includes(load.state)) throw over(load);
    const until = new Date(Date.now() + RELEASE_MINUTES * 60_000);
    await this.update(id, { state: 'released', releasedBy: person, releasedUntil: until, text: '' });
    const text = `Stated that ${load.machine.name} is stopped and safe to write to, for ${RELEASE_MINUTES} min.`;
    await this.logbook.write({ person, action: 'released', text, facts: { load: id } });
    return this.view(id);
  }

  /** Hands a released load to the queue. Only one caller gets through. */
  async carryOut(id: string, { person }: Account): Promise<AxisLoadView> {
    const load = await this.load(id);
    if (load.state !== 'released' || (load.releasedUntil ?? new Date(0)) < new Date())
      throw load.state === 'planned' || load.state === 'released' ? notReleased(load) : over(load);
    const units = (await this.plansOf(load)).map(({ unit }) => unit);
    const jobId = await this.dataSource.transaction(async (manager) => {
      const taken = await manager.update(AxisLoad, { id, state: 'released' }, { state: 'loading', text: '' });
      if (taken.affected !== 1) throw over(load);
      const reason = `Load the axes of ${load.machine.name}`;
      const job = await this.jobs.create(manager, { kind: 'axes', reason, requestedBy: person }, units);
      await manager.update(AxisLoad, id, { jobId: job });
      await manager.update(StoredWritePlan, { id: In(load.planIds) }, { state: 'writing', jobId: job });
      const text = `Started to load the axes of ${load.machine.name}.`;
      await this.logbook.write({ person, action: 'axes-started', text, facts: { load: id } }, manager);
      return job;
    });
    await this.queue.send('axes', jobId);
    return this.view(id);
  }

  /** What a dead server leaves behind; the plans of the axes say how far each of them came. */
  async followInterrupted(): Promise<void> {
    await this.dataSource.query(
      `update axis_load l set state = 'interrupted',
              text = 'The server was interrupted while the axes were loaded. The machine is held; look at each axis below.'
         from job j where j.id = l.job_id and l.state = 'loading' and j.state = 'interrupted'`,
    );
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

  async update(id: string, change: Partial<AxisLoad>): Promise<void> {
    await this.dataSource.getRepository(AxisLoad).update(id, change);
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
