// Long work: a job with one item per unit. The queue (pg-boss, in the same database) hands a job to one server
// process; a heartbeat tells the others that it is still at work. A job whose heart has stopped is interrupted.

import { Injectable } from '@nestjs/common';
import type { JobKind, JobState, JobView, OutcomeCode } from '@drive-keep/api';
import { DataSource, In, type EntityManager } from 'typeorm';
import { notFound } from '../problems/problem.ts';
import { isUuid } from '../sets/backups.service.ts';
import type { Unit } from '../register/unit.entity.ts';
import { JobItem } from './job-item.entity.ts';
import { Job } from './job.entity.ts';

export const HEARTBEAT_MS = 1000;
/** Missing for so long, a worker is taken for dead. */
export const SILENCE_MS = 6000;

/** Name of the database channel on which changes of jobs are told. */
export const JOB_CHANNEL = 'drive_keep_job';

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
      .set({ state: 'running', startedAt: () => 'now()', heartbeatAt: () => 'now()' })
      .where(`id = :id and state = 'queued'`, { id })
      .execute();
    if (begun.affected === 1) await this.tell(id);
    return begun.affected === 1;
  }

  /** Keeps the job alive; answers whether somebody wants it to stop. */
  async beat(id: string): Promise<{ stop: boolean }> {
    const result = await this.dataSource
      .createQueryBuilder()
      .update(Job)
      .set({ heartbeatAt: () => 'now()' })
      .where(`id = :id and state = 'running'`, { id })
      .returning('stop_requested')
      .execute();
    const [row] = result.raw as { stop_requested: boolean }[];
    // A job that is no longer running was given up by others: the worker must not go on with it.
    return { stop: row?.stop_requested ?? true };
  }

  async progress(id: string, place: number, change: Partial<JobItem>): Promise<void> {
    await this.dataSource.getRepository(JobItem).update({ jobId: id, place }, change);
    await this.tell(id);
  }

  async endItem(
    id: string,
    place: number,
    outcome: OutcomeCode,
    text: string,
    backupId?: string,
  ): Promise<void> {
    const ended = { state: 'ended' as const, outcome, text, backupId: backupId ?? null, endedAt: new Date() };
    await this.progress(id, place, ended);
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

  /** Finds jobs whose worker has died and says so; answers with their ids. */
  async sweep(): Promise<string[]> {
    const result = await this.dataSource
      .createQueryBuilder()
      .update(Job)
      .set({ state: 'interrupted', finishedAt: () => 'now()' })
      .where(`state = 'running' and heartbeat_at < now() - make_interval(secs => :seconds)`, {
        seconds: SILENCE_MS / 1000,
      })
      .returning('id')
      .execute();
    const ids = (result.raw as { id: string }[]).map((row) => row.id);
    const text =
      'The server was interrupted before this unit was done. Nothing half-read was kept. Run it again.';
    if (ids.length > 0) await this.endOpenItems(ids, 'interrupted', text);
    for (const id of ids) await this.tell(id);
    return ids;
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
