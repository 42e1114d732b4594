// Units that were read and hold what their newest backup holds. Nothing is kept for them but that it was so: one row for
// those that were found together, and one list of them for all nights in which the same ones were found.

import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { Logbook } from '../logbook/logbook.service.ts';
import type { Backup } from './backup.entity.ts';

export interface Finding {
  readonly at: Date;
  readonly takenBy: string;
  readonly reason: string;
  /** `seq` of the backups that were found again. */
  readonly seqs: readonly number[];
}

/** One look that found a backup again. */
export interface Repeat {
  readonly id: number;
  readonly seq: string;
  readonly at: Date;
  readonly taken_by: string;
  readonly reason: string;
}

/** A list is split so that one changed unit of a large plant makes a new list of some, and not of thousands. */
const LIST_LENGTH = 64;

@Injectable()
export class FoundAgain {
  constructor(
    private readonly dataSource: DataSource,
    private readonly logbook: Logbook,
  ) {}

  /** Says in the record what a job has found again. Done once, whichever processes ask. */
  async recordJob(jobId: string): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      const [items]: [Item[], number] = await manager.query(
        `update job_item i set found_again = 'recorded'
           from job j, backup b, position p
          where i.job_id = $1 and i.found_again = 'to-record'
            and j.id = i.job_id and b.id = i.backup_id and p.id = b.position_id
         returning p.tag, b.position_id, b.seq::integer as seq, i.ended_at, i.text, j.requested_by, j.reason`,
        [jobId],
      );
      const [first] = items;
      if (!first) return;
      const at = new Date(Math.max(...items.map(({ ended_at: ended }) => ended.getTime())));
      const { requested_by: person, reason } = first;
      for (const seqs of lists(items)) await this.record({ at, takenBy: person, reason, seqs }, manager);
      await this.note(items, person, reason, jobId, manager);
    });
  }

  /** What jobs have found that ended with their server. */
  async recordEnded(): Promise<void> {
    const rows: { job_id: string }[] = await this.dataSource.query(
      `select distinct i.job_id from job_item i join job j on j.id = i.job_id
        where i.found_again = 'to-record' and j.state not in ('queued', 'running')`,
    );
    for (const { job_id: id } of rows) await this.recordJob(id);
  }

  async record({ at, takenBy, reason, seqs }: Finding, manager: EntityManager): Promise<void> {
    const sorted = [...seqs].sort((a, b) => a - b);
    const [known]: { id: number }[] = await manager.query(
      'select id from found_list where seqs @> $1::integer[] and seqs = $1::integer[]',
      [sorted],
    );
    const [list]: { id: number }[] = known
      ? [known]
      : await manager.query('insert into found_list (seqs) values ($1) returning id', [sorted]);
    await manager.query('insert into found_again (list_id, at, taken_by, reason) values ($1, $2, $3, $4)', [
      list?.id,
      at,
      takenBy,
      reason,
    ]);
    await manager.query(
      `update last_look set at = $2, taken_by = $3, reason = $4
        where backup_id in (select id from backup where seq = any($1)) and at <= $2`,
      [sorted, at, takenBy, reason],
    );
  }

  /** Every time that one of these backups was found again, oldest first. */
  async of(backups: readonly Pick<Backup, 'seq'>[]): Promise<readonly Repeat[]> {
    return this.dataSource.query(
      `select f.id, l.seq, f.at, f.taken_by, f.reason
         from (select id, (select max(one) from unnest(seqs) one where one = any($1::integer[])) as seq
                 from found_list where seqs && $1::integer[]) l
         join found_again f on f.list_id = l.id order by f.at, f.id`,
      [backups.map(({ seq }) => Number(seq))],
    );
  }

  private async note(
    items: readonly Item[],
    person: string,
    reason: string,
    jobId: string,
    manager: EntityManager,
  ): Promise<void> {
    const [only] = items;
    const alone = items.length === 1;
    const text = alone
      ? `Backed up: ${only?.text}`
      : `${reason}: ${items.length} units hold what their backups before hold.`;
    await this.logbook.write(
      {
        person,
        action: 'backed-up',
        ...(alone && only ? { tag: only.tag } : {}),
        text,
        facts: { job: jobId },
      },
      manager,
    );
  }
}

interface Item {
  readonly tag: string;
  readonly position_id: string;
  readonly seq: number;
  readonly ended_at: Date;
  readonly text: string;
  readonly requested_by: string;
  readonly reason: string;
}

/** Split by position, which does not change from night to night. */
export function lists(items: readonly { readonly position_id: string; readonly seq: number }[]): number[][] {
  const count = Math.ceil(items.length / LIST_LENGTH);
  const split = Array.from({ length: count }, (): number[] => []);
  for (const { position_id: position, seq } of items) {
    split[parseInt(position.slice(0, 8), 16) % count]?.push(seq);
  }
  return split.filter((list) => list.length > 0);
}
