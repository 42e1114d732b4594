// Starting backups. Two people who start the same get one job: the request is checked under one lock.

import { Injectable } from '@nestjs/common';
import type { StartedJob } from '@drive-keep/api';
import { DataSource, In, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { JobItem } from '../jobs/job-item.entity.ts';
import { Job } from '../jobs/job.entity.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';

@Injectable()
export class BackupJobs {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly jobs: Jobs,
    private readonly logbook: Logbook,
  ) {}

  async start(tags: readonly string[], reason: string, person: Pick<Account, 'person'>): Promise<StartedJob> {
    const wanted = await this.unitsAt(tags);
    const { id, joined } = await this.dataSource.transaction((manager) =>
      this.startWithin(manager, wanted, reason, person),
    );
    return { job: await this.jobs.view(id), joined };
  }

  /** Asked before the transaction that begins with them: one that waits for another connection could wait for ever. */
  unitsAt = (tags: readonly string[]): Promise<readonly PositionWithUnit[]> =>
    this.register.inPlace([...new Set(tags)]);

  /** For those who have something waiting for the end of the job, and write that down in the same transaction. */
  async startWithin(
    manager: EntityManager,
    wanted: readonly PositionWithUnit[],
    reason: string,
    person: Pick<Account, 'person'>,
  ): Promise<{ id: string; joined: boolean }> {
    await manager.query(`select pg_advisory_xact_lock(hashtextextended('start-backup', 0))`);
    const running = await this.covering(manager, wanted);
    if (running) return { id: running, joined: true };
    return { id: await this.create(manager, wanted, reason, person), joined: false };
  }

  async runAgain(id: string, person: Account): Promise<StartedJob> {
    const before = await this.jobs.view(id);
    if (before.kind !== 'backup') {
      throw new ProblemException(
        422,
        'not-a-backup',
        'Only backups are run again; make a new write plan instead.',
      );
    }
    const open = before.items.filter((item) => item.backupId === null).map((item) => item.tag);
    if (open.length === 0) {
      throw new ProblemException(
        409,
        'nothing-left',
        'Every unit of this job was backed up; there is nothing left.',
      );
    }
    return this.start(open, before.reason, person);
  }

  private async create(
    manager: EntityManager,
    wanted: readonly PositionWithUnit[],
    reason: string,
    { person }: Pick<Account, 'person'>,
  ): Promise<string> {
    const units = wanted.map(({ unit }) => unit);
    const id = await this.jobs.create(manager, { kind: 'backup', reason, requestedBy: person }, units);
    const [only] = wanted;
    const alone = wanted.length === 1 && only ? { tag: only.position.tag } : {};
    const text = `Started a backup${wanted.length === 1 ? '' : ` of ${wanted.length} units`}: ${reason}.`;
    await this.logbook.write(
      { person, action: 'backup-started', ...alone, text, facts: { job: id } },
      manager,
    );
    return id;
  }

  /** A backup at work that still has all of these units before it or in hand. */
  private async covering(
    manager: EntityManager,
    wanted: readonly PositionWithUnit[],
  ): Promise<string | undefined> {
    const open = await manager.getRepository(Job).find({
      where: { kind: 'backup', state: In(['queued', 'running']), stopRequested: false },
      select: { id: true },
    });
    for (const { id } of open) {
      const items = await manager
        .getRepository(JobItem)
        .find({ where: { jobId: id }, relations: { unit: true } });
      const inHand = new Set(items.filter((item) => item.state !== 'ended').map((item) => item.unit.id));
      if (wanted.every(({ unit }) => inHand.has(unit.id))) return id;
    }
    return undefined;
  }
}
