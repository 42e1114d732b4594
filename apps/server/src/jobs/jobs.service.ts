// Long work: a job with one item per unit. The queue (pg-boss, in the same database) hands a job to one server
// process, which holds a lock of the database while it works. A running job whose lock is free is interrupted.

import { Injectable } from '@nestjs/common';
import type { JobKind, JobState, JobView, OutcomeCode } from '@drive-keep/api';
import { DataSource, In, type EntityManager } from 'typeorm';
import { notFound } from '../problems/problem.ts';
import { isUuid } from '../sets/backups.service.ts';
import { snakeCase } from '../storage/snake-naming.ts';
import type { Unit } from '../register/unit.entity.ts';
import { JobItem } from './job-item.entity.ts';
import { Job } from './job.entity.ts';

/** Name of the database channel on which changes of jobs are told. */
export const JOB_CHANNEL = 'drive_keep_job';

/** Key of the advisory lock that the worker of a job holds; $1 is its id. */
export const JOB_LOCK = `hashtextextended('job ' || $1::text, 0)`;

/** Longer than any round's last runs are looked at. */
const ITEMS_KEPT_FOR = '400 days';

type ItemChange = Partial<Omit<JobItem, 'job' | 'jobId' | 'place' | 'unit'>>;

@Injectable()
export class Jobs {
  constructor(private readonly dataSource: DataSource) {}

  async create(
    manager: EntityManager,
    job: { kind: JobKind; reason: string; requestedBy: string },
    units: readonly Unit[],
  ): Promise<string> {
    const saved = await manager.getRepository(Job).save({ ...job, state: 'queued' as const });
    const items = units.map((unit, place) => ({ jobId: saved.id, place, unit: { id: unit.id } }));
    await manager.getRepository(JobItem).insert(items);
    return saved.id;
  }

  async load(id: string, manager: EntityManager = this.dataSource.manager): Promise<Job> {
    const job = isUuid(id)
      ? await manager.getRepository(Job).findOne({
          where: { id },
          relations: { items: { unit: { position: true, line: true } } },
          order: { items: { place: 'ASC' } },
        })
      : null;
    if (!job) throw notFound('This job');
    return job;
  }

  async view(id: string): Promise<JobView> {
    return jobView(await this.load(id));
  }

  async open(): Promise<JobView[]> {
    return this.list(['queued', 'running'], 50);
  }

  async recent(most: number): Promise<JobView[]> {
    return this.list(['queued', 'running', 'done', 'stopped', 'interrupted'], most);
  }

  private async list(states: JobState[], most: number): Promise<JobView[]> {
    const jobs = await this.dataSource.getRepository(Job).find({
      where: { state: In(states) },
      order: { requestedAt: 'DESC' },
      take: most,
      select: { id: true },
    });
    return Promise.all(jobs.map((job) => this.view(job.id)));
  }

  /** True for the one process that may work on the job. */
  async begin(id: string): Promise<boolean> {
    const begun = await this.dataSource
      .createQueryBuilder()
      .update(Job)
      .set({ state: 'running', startedAt: () => 'now()' })
      .where(`id = :id and state = 'queued'`, { id })
      .execute();
    if (begun.affected === 1) await this.tell(id);
    return begun.affected === 1;
  }

  /** Whether somebody wants it to stop. A job that others have given up is stopped, too. */
  async isStopRequested(id: string): Promise<boolean> {
    const job = await this.dataSource.getRepository(Job).findOneBy({ id });
    return job?.state !== 'running' || job.stopRequested;
  }

  /** One question for the change and the telling: both happen for every unit of every round. */
  async progress(id: string, place: number, change: ItemChange): Promise<void> {
    const columns = Object.entries(change);
    const sets = columns.map(([name], at) => `${snakeCase(name)} = $${at + 3}`).join(', ');
    await this.dataSource.query(
      `with changed as (update job_item set ${sets} where job_id = $1 and place = $2 returning job_id)
       select pg_notify('${JOB_CHANNEL}', job_id::text) from changed`,
      [id, place, ...columns.map(([, value]) => value as unknown)],
    );
  }

  async endItem(
    id: string,
    place: number,
    outcome: OutcomeCode,
    text: string,
    kept: Partial<Pick<JobItem, 'backupId' | 'foundAgain'>> = {},
  ): Promise<void> {
    await this.progress(id, place, { state: 'ended', outcome, text, ...kept, endedAt: new Date() });
  }

  async finish(id: string, state: 'done' | 'stopped'): Promise<void> {
    await this.dataSource
      .getRepository(Job)
      .update({ id, state: 'running' }, { state, finishedAt: new Date() });
    await this.tell(id);
  }

  /** A queued job ends at once; a running one ends at its next step. */
  async requestStop(id: string): Promise<void> {
    const job = await this.load(id);
    await this.dataSource.getRepository(Job).update({ id: job.id }, { stopRequested: true });
    const never = await this.dataSource
      .getRepository(Job)
      .update({ id: job.id, state: 'queued' }, { state: 'stopped', finishedAt: new Date() });
    if (never.affected === 1) await this.endOpenItems([id], 'stopped', 'Stopped before it began.');
    await this.tell(id);
  }

  /** Finds jobs whose worker has died and says so. */
  async sweep(): Promise<void> {
    const running = await this.dataSource
      .getRepository(Job)
      .find({ where: { state: 'running' }, select: { id: true } });
    for (const { id } of running) await this.giveUp(id);
  }

  /**
   * Forgets, unit by unit, how old backups went: what they kept or found is in the record, and the job itself stays.
   * Without this, ten years of nights would be told by their outcomes longer than by what they kept.
   */
  async tidy(): Promise<void> {
    await this.dataSource.query(
      `delete from job_item i using job j
        where j.id = i.job_id and j.kind = 'backup' and j.finished_at < now() - interval '${ITEMS_KEPT_FOR}'
          and i.found_again is distinct from 'to-record'`,
    );
  }

  private async giveUp(id: string): Promise<void> {
    const given = await this.dataSource.transaction(async (manager) => {
      const [lock]: { free: boolean }[] = await manager.query(
        `select pg_try_advisory_xact_lock(${JOB_LOCK}) as free`,
        [id],
      );
      if (!lock?.free) return false;
      const change = { state: 'interrupted' as const, finishedAt: new Date() };
      const { affected } = await manager.update(Job, { id, state: 'running' }, change);
      return affected === 1;
    });
    if (!given) return;
    const text =
      'The server was interrupted before this unit was done. Nothing half-read was kept. Run it again.';
    await this.endOpenItems([id], 'interrupted', text);
    await this.tell(id);
  }

  private async endOpenItems(ids: readonly string[], outcome: OutcomeCode, text: string): Promise<void> {
    await this.dataSource
      .createQueryBuilder()
      .update(JobItem)
      .set({ state: 'ended', outcome, text, endedAt: () => 'now()' })
      .where(`job_id in (:...ids) and state <> 'ended'`, { ids })
      .execute();
  }

  private async tell(id: string): Promise<void> {
    await this.dataSource.query(`select pg_notify('${JOB_CHANNEL}', $1)`, [id]);
  }
}

export const jobView = (job: Job): JobView => ({
  id: job.id,
  kind: job.kind,
  state: job.state,
  requestedBy: job.requestedBy,
  requestedAt: job.requestedAt.toISOString(),
  finishedAt: job.finishedAt?.toISOString() ?? null,
  reason: job.reason,
  items: job.items.map((item) => ({
    tag: item.unit.position.tag,
    duty: item.unit.position.duty,
    state: item.state,
    done: item.done,
    total: item.total,
    outcome: item.outcome,
    text: item.text,
    backupId: item.backupId,
  })),
});
