// Rounds as people see and set them.

import { Injectable } from '@nestjs/common';
import type { RoundRunView, RoundSettings, RoundView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { isUuid } from '../storage/uuid.ts';
import { nextDue } from './due-times.ts';
import { RoundRun } from './round-run.entity.ts';
import { RoundScopes } from './round-scopes.service.ts';
import { Round } from './round.entity.ts';

const RUNS_SHOWN = 14;

interface ItemRow {
  readonly tag: string;
  readonly backup_id: string | null;
  readonly text: string;
  readonly changed: boolean | null;
}

@Injectable()
export class Rounds {
  constructor(
    private readonly dataSource: DataSource,
    private readonly scopes: RoundScopes,
    private readonly logbook: Logbook,
  ) {}

  async list(now: Date = new Date()): Promise<readonly RoundView[]> {
    const rounds = await this.dataSource.getRepository(Round).find({ order: { name: 'ASC' } });
    return Promise.all(rounds.map((round) => this.view(round, now)));
  }

  /** `version` is the one that was looked at, where a known round is changed. */
  async save(
    id: string | null,
    settings: RoundSettings,
    version: number,
    { person }: Account,
  ): Promise<RoundView> {
    const now = new Date();
    const repository = this.dataSource.getRepository(Round);
    const known = id === null ? null : isUuid(id) ? await repository.findOneBy({ id }) : null;
    if (id !== null && !known) throw notFound('This round');
    if (known) requireSameVersion(known.version, version, `The round ${known.name}`);
    const same = await repository.findOneBy({ name: settings.name });
    if (same && same.id !== id)
      throw new ProblemException(
        409,
        'round-name',
        `There is a round "${settings.name}" already. Nothing was changed.`,
      );
    const { name, at, days, scope, retries, quiet, enabled } = settings;
    const round = await repository.save({
      ...(known ? { id: known.id, version: known.version + 1 } : {}),
      ...{ name, at, scope, retries, quiet, enabled, days: [...days] },
    });
    // The time at which it was made stands for a first run, so that it begins with its next due time.
    if (!known) await this.dataSource.getRepository(RoundRun).insert({ round, dueAt: now, doneAt: now });
    const text = `${known ? 'Changed' : 'Made'} the round ${name}: at ${at}, ${enabled ? 'switched on' : 'switched off'}.`;
    await this.logbook.write({ person, action: 'round-set', text, facts: { ...settings } });
    return this.view(await repository.findOneByOrFail({ id: round.id }), now);
  }

  private async view(round: Round, now: Date): Promise<RoundView> {
    const runs = await this.dataSource
      .getRepository(RoundRun)
      .find({ where: { round: { id: round.id } }, order: { dueAt: 'DESC' }, take: RUNS_SHOWN });
    const { id, version, name, at, days, scope, retries, quiet, enabled } = round;
    return {
      ...{ id, version, name, at, days, scope, retries, quiet, enabled },
      positions: (await this.scopes.tags(scope)).length,
      next: enabled ? (nextDue(round, now)?.toISOString() ?? null) : null,
      runs: await Promise.all(runs.filter(({ tries }) => tries > 0).map((run) => this.runView(run, name))),
    };
  }

  /** Over all tries: the newest word about each position counts. */
  private async runView(run: RoundRun, name: string): Promise<RoundRunView> {
    const items: ItemRow[] = await this.dataSource.query(
      `select distinct on (p.tag) p.tag, i.backup_id, i.text,
              i.found_again is null and b.content_hash <> (select content_hash from backup o
                where o.position_id = b.position_id and (o.taken_at, o.seq) < (b.taken_at, b.seq)
                order by o.taken_at desc, o.seq desc limit 1) as changed
         from job j join job_item i on i.job_id = j.id
         join unit u on u.id = i.unit_id join position p on p.id = u.position_id
         left join backup b on b.id = i.backup_id
        where j.requested_by = $1 and j.requested_at >= $2
          and j.requested_at <= coalesce($3, now()) and i.state = 'ended'
        order by p.tag, (i.backup_id is not null) desc, i.ended_at desc`,
      [name, run.dueAt, run.doneAt],
    );
    const kept = items.filter(({ backup_id }) => backup_id !== null);
    return {
      id: run.id,
      dueAt: run.dueAt.toISOString(),
      state: run.doneAt ? 'done' : run.retryAt ? 'waiting' : 'running',
      tries: run.tries,
      jobId: run.jobId,
      kept: kept.length,
      changed: kept.filter(({ changed }) => changed).map(({ tag }) => tag),
      failed: items.filter(({ backup_id }) => backup_id === null).map(({ tag, text }) => ({ tag, text })),
    };
  }
}
