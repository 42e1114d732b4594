// Long work: a job with one item per unit. A job and its entry in the queue are made in one transaction; whoever works on
// it holds a lock of the database. A job that its worker does not bring to its end takes along, in one transaction, all that
// hangs on it.

import { Injectable } from '@nestjs/common';
import type { JobKind, JobState, JobView, OutcomeCode } from '@drive-keep/api';
import { DataSource, In, Not, type EntityManager } from 'typeorm';
import { notFound } from '../problems/problem.ts';
import { SharedAnswer } from '../storage/shared-answer.ts';
import { isUuid } from '../storage/uuid.ts';
import { WorkQueue } from '../queue/work-queue.service.ts';
import { snakeCase } from '../storage/snake-naming.ts';
import type { Unit } from '../register/unit.entity.ts';
import { JobItem } from './job-item.entity.ts';
import { Job } from './job.entity.ts';

/** Name of the database channel on which changes of jobs are told. */
export const JOB_CHANNEL = 'drive_keep_job';

/** Name of the lock that the worker of a job holds. */
export const jobLock = (id: string): string => `job ${id}`;

/** A process that has taken a job from the queue begins it at once; one that has not after so long is dead. */
const TAKEN_FOR_SECONDS = 10;

/** How a job ended that its worker did not bring to its end. */
export type EarlyEnd = 'stopped' | 'interrupted';

/** What hangs on the jobs of a kind. */
export interface Hanging {
  /** Ends it in the transaction that ends the job, and says with which words the open items of the job end. */
  endWithJob(manager: EntityManager, jobId: string, how: EarlyEnd): Promise<string>;
  /** Jobs that are over although some of it has no end. */
  leftBehind(): Promise<readonly string[]>;
}

/** Longer than any round's last runs are looked at. */
const ITEMS_KEPT_FOR = '400 days';

const MOST_LISTED = 50;
const JOB_STATES = ['queued', 'running', 'done', 'stopped', 'interrupted'] as const;

type ItemChange = Partial<Omit<JobItem, 'job' | 'jobId' | 'place' | 'unit'>>;

@Injectable()
export class Jobs {
  private readonly sharedOpen = new SharedAnswer(() => this.list(['queued', 'running']));
  private readonly sharedRecent = new SharedAnswer(() => this.list([...JOB_STATES]));
  private readonly hanging = new Map<JobKind, Hanging>();

  constructor(
    private readonly dataSource: DataSource,
    private readonly queue: WorkQueue,
  ) {}

  /** Whoever works on jobs of a kind says, before any job is looked at, how all ends that hangs on them. */
  endAlong(kind: JobKind, hanging: Hanging): void {
    this.hanging.set(kind, hanging);
  }

  async create(
    manager: EntityManager,
    job: { kind: JobKind; reason: string; requestedBy: string },
    units: readonly Unit[],
  ): Promise<string> {
    const saved = await manager.getRepository(Job).save({ ...job, state: 'queued' as const });
    const items = units.map((unit, place) => ({ jobId: saved.id, place, unit: { id: unit.id } }));
    await manager.getRepository(JobItem).insert(items);
    await this.queue.send(job.kind, saved.id, manager);
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

  /** Every screen asks for them again and again while something is at work. */
  open = (): Promise<JobView[]> => this.sharedOpen.ask();

  recent = (): Promise<JobView[]> => this.sharedRecent.ask();

  private async list(states: JobState[]): Promise<JobView[]> {
    const jobs = await this.dataSource.getRepository(Job).find({
      where: { state: In(states) },
      order: { requestedAt: 'DESC' },
      take: MOST_LISTED,
      select: { id: true },
    });
    return Promise.all(jobs.map((job) => this.view(job.id)));
  }

  /** True for the one process that may work on the job; not, where it was asked for before `notBefore`. */
  async begin(id: string, notBefore: Date | null): Promise<boolean> {
    const begun = await this.dataSource
      .createQueryBuilder()
      .update(Job)
      .set({ state: 'running', startedAt: () => 'now()' })
      .where(
        `id = :id and state = 'queued' and (:notBefore::timestamptz is null or requested_at >= :notBefore)`,
        {
          id,
          notBefore,
        },
      )
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
  async progress(
    id: string,
    place: number,
    change: ItemChange,
    manager: EntityManager = this.dataSource.manager,
  ): Promise<void> {
    const columns = Object.entries(change);
    const sets = columns.map(([name], at) => `${snakeCase(name)} = $${at + 3}`).join(', ');
    await manager.query(
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
    {
      manager,
      ...kept
    }: Partial<Pick<JobItem, 'backupId' | 'foundAgain' | 'foundSerial'>> & {
      readonly manager?: EntityManager;
    } = {},
  ): Promise<void> {
    const change = { state: 'ended' as const, outcome, text, ...kept, endedAt: new Date() };
    await this.progress(id, place, change, manager);
  }

  /** A worker that ends something else together with its job gives the transaction. */
  async finish(
    id: string,
    state: 'done' | 'stopped',
    manager: EntityManager = this.dataSource.manager,
  ): Promise<void> {
    await manager.update(Job, { id, state: 'running' }, { state, finishedAt: new Date() });
    await this.tell(id, manager);
  }

  /** A queued job ends at once, with all that hangs on it; a running one ends at its next step. */
  async requestStop(id: string): Promise<void> {
    const job = await this.load(id);
    await this.dataSource.transaction(async (manager) => {
      await manager.update(Job, { id: job.id }, { stopRequested: true });
      await this.endEarly(manager, job, 'queued', 'stopped');
      await this.tell(id, manager);
    });
  }

  /** Ends every job that no living process has in hand or in its queue, and all that outlived its job. */
  async sweep(): Promise<void> {
    const open = await this.dataSource
      .getRepository(Job)
      .find({ where: { state: In(['queued', 'running']) }, select: { id: true, kind: true, state: true } });
    const queued = open.filter(({ state }) => state === 'queued').map(({ id }) => id);
    const lost = new Set(await this.queue.lostOf(queued, TAKEN_FOR_SECONDS));
    for (const job of open) if (job.state === 'running' || lost.has(job.id)) await this.giveUp(job);
    for (const hanging of this.hanging.values())
      for (const id of await hanging.leftBehind())
        await this.whereFree(id, (manager) => hanging.endWithJob(manager, id, 'interrupted'));
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

  /** Does nothing while somebody works on it. */
  async giveUp(job: Pick<Job, 'id' | 'kind' | 'state'>): Promise<void> {
    await this.whereFree(job.id, (manager) => this.endEarly(manager, job, job.state, 'interrupted'));
  }

  private async whereFree(id: string, work: (manager: EntityManager) => Promise<unknown>): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      const [lock]: { free: boolean }[] = await manager.query(
        `select pg_try_advisory_xact_lock(hashtextextended($1, 0)) as free`,
        [jobLock(id)],
      );
      if (lock?.free) await work(manager);
    });
  }

  /** A job is never ended without what hangs on it. */
  private hangingOn(kind: JobKind): Hanging {
    const hanging = this.hanging.get(kind);
    if (!hanging) throw new Error(`nobody says how jobs of the kind ${kind} end`);
    return hanging;
  }

  private async endEarly(
    manager: EntityManager,
    { id, kind }: Pick<Job, 'id' | 'kind'>,
    from: JobState,
    how: EarlyEnd,
  ): Promise<void> {
    const open = await manager.countBy(JobItem, { jobId: id, state: Not('ended') });
    // All was done, and only the last word is missing.
    const state = how === 'interrupted' && open === 0 ? 'done' : how;
    const ended = await manager.update(Job, { id, state: from }, { state, finishedAt: new Date() });
    if (ended.affected !== 1) return;
    const text = await this.hangingOn(kind).endWithJob(manager, id, how);
    await manager
      .createQueryBuilder()
      .update(JobItem)
      .set({ state: 'ended', outcome: how, text, endedAt: () => 'now()' })
      .where(`job_id = :id and state <> 'ended'`, { id })
      .execute();
    await this.tell(id, manager);
  }

  private async tell(id: string, manager: EntityManager = this.dataSource.manager): Promise<void> {
    await manager.query(`select pg_notify('${JOB_CHANNEL}', $1)`, [id]);
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
