// Findings that somebody has accepted, for a while and with a reason. An acceptance names the values that it is about: when they
// change, or after its last day, the finding is open again by itself.

import { Injectable } from '@nestjs/common';
import type { AcceptanceView } from '@drive-keep/api';
import { DataSource, In, IsNull } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Clock } from '../storage/clock.ts';
import { isUuid } from '../storage/uuid.ts';
import { dayOf, isDay } from '../tolerations/tolerations.service.ts';
import { FindingAcceptance } from './finding-acceptance.entity.ts';

const LONGEST_DAYS = 366;
const LEAST_REASON = 3;
const DAY_MS = 86_400_000;

/** What was accepted of a position, the newest of each finding. */
export class Accepted {
  private readonly byIdentity = new Map<string, FindingAcceptance>();
  private readonly today: string;

  constructor(today: string) {
    this.today = today;
  }

  add(row: FindingAcceptance): void {
    this.byIdentity.set(row.identity, row);
  }

  /** In force: for the same values, and until today at least. */
  of(identity: string, signature: string): AcceptanceView | null {
    const row = this.byIdentity.get(identity);
    return row && row.signature === signature && row.until >= this.today ? acceptanceView(row) : null;
  }

  /** Not in force any more: its day is over, or the values have changed. */
  lapsed(identity: string, signature: string): AcceptanceView | null {
    const row = this.byIdentity.get(identity);
    return row && this.of(identity, signature) === null ? acceptanceView(row) : null;
  }
}

const acceptanceView = ({ id, reason, until, person, acceptedAt }: FindingAcceptance): AcceptanceView => ({
  ...{ id, reason, until, person },
  at: acceptedAt.toISOString(),
});

export interface AcceptWish {
  readonly positionId: string;
  readonly tag: string;
  readonly identity: string;
  readonly signature: string;
  readonly text: string;
  readonly reason: string;
  readonly until: string;
}

@Injectable()
export class Acceptances {
  constructor(
    private readonly dataSource: DataSource,
    private readonly logbook: Logbook,
    private readonly clock: Clock,
  ) {}

  /** Of each of these positions. */
  async among(positionIds: readonly string[]): Promise<ReadonlyMap<string, Accepted>> {
    const today = dayOf(this.clock.now());
    const found = new Map(positionIds.map((id) => [id, new Accepted(today)]));
    const rows = await this.dataSource.getRepository(FindingAcceptance).find({
      where: { positionId: In([...positionIds]), endedAt: IsNull() },
      order: { acceptedAt: 'ASC' },
    });
    for (const row of rows) found.get(row.positionId)?.add(row);
    return found;
  }

  async of(positionId: string): Promise<Accepted> {
    return (await this.among([positionId])).get(positionId) ?? new Accepted('');
  }

  async accept(wish: AcceptWish, { person }: Account): Promise<void> {
    const { positionId, tag, identity, signature, text, until } = wish;
    const reason = wish.reason.trim();
    if (reason.length < LEAST_REASON)
      throw refused('Say why: who reads it in a year wants to know. Nothing was accepted.');
    const now = this.clock.now();
    const latest = dayOf(new Date(now.getTime() + LONGEST_DAYS * DAY_MS));
    if (!isDay(until) || until <= dayOf(now) || until > latest)
      throw refused(`A finding is accepted until a day from tomorrow to ${latest}; then it comes back.`);
    await this.dataSource.transaction(async (manager) => {
      // One at a time for a position: two people at once leave one acceptance, the later one's.
      await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`accept ${positionId}`]);
      const open = { positionId, identity, endedAt: IsNull() };
      // The second click of two says nothing new.
      const same = { ...open, signature, reason, until, person };
      if (await manager.existsBy(FindingAcceptance, same)) return;
      await manager.update(FindingAcceptance, open, { endedAt: now, endedBy: person });
      await manager.insert(FindingAcceptance, {
        positionId,
        identity,
        signature,
        text,
        reason,
        until,
        person,
      });
      const note = `Accepted until ${until} (${reason}): ${text}`;
      await this.logbook.write({ person, action: 'finding-accepted', tag, text: note }, manager);
    });
  }

  async end(tag: string, positionId: string, id: string, { person }: Account): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      const open = isUuid(id)
        ? await manager.findOneBy(FindingAcceptance, { id, positionId, endedAt: IsNull() })
        : null;
      const ended = open
        ? await manager.update(
            FindingAcceptance,
            { id, endedAt: IsNull() },
            { endedAt: this.clock.now(), endedBy: person },
          )
        : null;
      if (!open || ended?.affected !== 1)
        throw new ProblemException(409, 'not-accepted', 'This finding is not accepted any more. Look again.');
      const text = `No longer accepted: ${open.text}`;
      await this.logbook.write({ person, action: 'finding-reopened', tag, text }, manager);
    });
  }
}

const refused = (detail: string): ProblemException => new ProblemException(422, 'acceptance-refused', detail);
