// Looks at the clock and does what rounds ask for. Any number of server processes may do so: a due time belongs to the
// process whose row the database took, and every step is a change of that row which only one of them can make.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { OutcomeCode } from '@drive-keep/api';
import { DataSource, IsNull, type EntityManager } from 'typeorm';
import { BackupJobs } from '../backup/backup-jobs.service.ts';
import { Job } from '../jobs/job.entity.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import type { PositionWithUnit } from '../register/register.service.ts';
import { isQuiet, lastDue, retryTime } from './due-times.ts';
import { RoundRun } from './round-run.entity.ts';
import { Round } from './round.entity.ts';
import { RoundScopes } from './round-scopes.service.ts';

const LOOK_MS = 20_000;

/** Ends after which another try may help. Another unit in the place does not go away by asking again. */
const WORTH_ANOTHER_TRY: readonly OutcomeCode[] = [
  'no-connection',
  'no-answer',
  'late',
  'broke-off',
  'wrong-answer',
  'busy',
  'interrupted',
  'failed',
];

@Injectable()
export class RoundClock implements OnApplicationShutdown {
  private readonly logger = new Logger('RoundClock');
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly dataSource: DataSource,
    private readonly scopes: RoundScopes,
    private readonly backups: BackupJobs,
    private readonly jobs: Jobs,
    private readonly logbook: Logbook,
  ) {}

  watch(): void {
    const look = () => this.look(new Date()).catch((error: unknown) => this.logger.error(String(error)));
    this.timer = setInterval(() => void look(), LOOK_MS);
    void look();
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  /** Starts what is due, tries again what has failed, closes what is over. A missed due time is caught up, once. */
  async look(now: Date): Promise<void> {
    for (const round of await this.dataSource.getRepository(Round).findBy({ enabled: true })) {
      if (isQuiet(round.quiet, now)) continue;
      await this.startDue(round, now);
    }
    const open = await this.dataSource
      .getRepository(RoundRun)
      .find({ where: { doneAt: IsNull() }, relations: { round: true } });
    for (const run of open) await this.follow(run, now);
  }

  private async startDue(round: Round, now: Date): Promise<void> {
    const dueAt = lastDue(round, now);
    if (!dueAt) return;
    const runs = this.dataSource.getRepository(RoundRun);
    const newest = await runs.findOne({ where: { round: { id: round.id } }, order: { dueAt: 'DESC' } });
    // A round that was made after its due time waits for the next one.
    if (!newest || newest.dueAt >= dueAt) return;
    const units = await this.backups.unitsAt(await this.scopes.tags(round.scope));
    await this.dataSource.transaction(async (manager) => {
      const inserted = await manager
        .createQueryBuilder()
        .insert()
        .into(RoundRun)
        .values({ round, dueAt, tries: 1 })
        .orIgnore()
        .returning('id')
        .execute();
      const [taken] = inserted.raw as { id: string }[];
      if (taken) await this.send(manager, taken.id, round, units, now);
    });
  }

  private async send(
    manager: EntityManager,
    runId: string,
    round: Round,
    units: readonly PositionWithUnit[],
    now: Date,
  ): Promise<void> {
    if (units.length === 0) {
      await manager.update(RoundRun, runId, { doneAt: now });
      return;
    }
    const { id } = await this.backups.startWithin(manager, units, round.name, { person: round.name });
    await manager.update(RoundRun, runId, { jobId: id, retryAt: null });
  }

  private async follow(run: RoundRun, now: Date): Promise<void> {
    if (run.retryAt) return this.tryAgain(run, now);
    const job = run.jobId && (await this.dataSource.getRepository(Job).findOneBy({ id: run.jobId }));
    if (!job || job.state === 'queued' || job.state === 'running') return;
    const left = await this.leftOver(job.id);
    const again = left.length > 0 && run.tries <= run.round.retries && job.state !== 'stopped';
    const change = again ? { retryAt: retryTime(run.tries, now) } : { doneAt: now };
    await this.dataSource.transaction(async (manager) => {
      const open = { id: run.id, jobId: job.id, retryAt: IsNull(), doneAt: IsNull() };
      const changed = await manager.update(RoundRun, open, change);
      if (changed.affected !== 1 || again || left.length === 0) return;
      const { name } = run.round;
      const text = `${name}: ${left.join(', ')} not backed up after ${run.tries} ${run.tries === 1 ? 'try' : 'tries'}.`;
      await this.logbook.write({ person: name, action: 'round-failed', text }, manager);
    });
  }

  /** What has left the round since its first try is not asked again. */
  private async tryAgain(run: RoundRun, now: Date): Promise<void> {
    if (!run.retryAt || run.retryAt > now || isQuiet(run.round.quiet, now)) return;
    const covered = new Set(await this.scopes.tags(run.round.scope));
    const left = (await this.leftOver(run.jobId ?? '')).filter((tag) => covered.has(tag));
    const units = await this.backups.unitsAt(left);
    await this.dataSource.transaction(async (manager) => {
      const mine = { id: run.id, tries: run.tries, doneAt: IsNull() };
      const taken = await manager.update(RoundRun, mine, { tries: run.tries + 1, retryAt: null });
      if (taken.affected === 1) await this.send(manager, run.id, run.round, units, now);
    });
  }

  private async leftOver(jobId: string): Promise<readonly string[]> {
    const { items } = await this.jobs.view(jobId);
    return items
      .filter(({ outcome }) => outcome !== null && WORTH_ANOTHER_TRY.includes(outcome))
      .map(({ tag }) => tag);
  }
}
