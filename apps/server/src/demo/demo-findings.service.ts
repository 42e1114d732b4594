// What the checks find in the demo plant, and since when: as if they had looked every night. What the engineer has accepted of it
// names the values of today.

import { Injectable } from '@nestjs/common';
import { findMeaning } from '@drive-keep/core/dictionary';
import { meaningOf } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { CheckFinding } from '../checks/check-finding.entity.ts';
import { Checks } from '../checks/checks.service.ts';
import { FindingAcceptance } from '../checks/finding-acceptance.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { dayOf } from '../tolerations/tolerations.service.ts';
import { CHANGE_HOUR, demoTime, ROUND_HOUR, type Placed } from './demo-history.ts';
import { ENGINEER } from './story.ts';

const DAY_MS = 86_400_000;

@Injectable()
export class DemoFindings {
  constructor(
    private readonly dataSource: DataSource,
    private readonly checks: Checks,
    private readonly logbook: Logbook,
  ) {}

  async make(placed: readonly Placed[], now: Date): Promise<void> {
    await this.checks.lookAgain();
    for (const each of placed) {
      const found = await this.dataSource
        .getRepository(CheckFinding)
        .findBy({ positionId: each.position.id });
      for (const finding of found) await this.date(each, finding, now);
      for (const told of each.told.accepted) await this.accept(each, found, told, now);
    }
  }

  /** First seen by the round after the last change of what it is about. */
  private async date({ told, dictionary }: Placed, finding: CheckFinding, now: Date): Promise<void> {
    const codes = finding.values.map(({ code }) => code);
    const change = told.changes.findLast(({ values }) =>
      Object.keys(values).some((meaning) =>
        codes.includes(findMeaning(dictionary, meaningOf(meaning))?.code ?? ''),
      ),
    );
    if (!change) return;
    const since = demoTime(now, change.nightsAgo - 1, ROUND_HOUR);
    const { positionId, identity } = finding;
    await this.dataSource.getRepository(CheckFinding).update({ positionId, identity }, { since });
  }

  private async accept(
    { told, position }: Placed,
    found: readonly CheckFinding[],
    { finding, nightsAgo, daysLeft, reason }: Placed['told']['accepted'][number],
    now: Date,
  ): Promise<void> {
    const own = found.find(({ identity }) => identity === finding);
    if (!own) throw new Error(`${told.tag}: nobody finds ${finding}`);
    const until = dayOf(new Date(now.getTime() + daysLeft * DAY_MS));
    const acceptedAt = demoTime(now, nightsAgo, CHANGE_HOUR + 3);
    const { identity, signature, text } = own;
    const { id } = await this.dataSource.getRepository(FindingAcceptance).save({
      ...{ positionId: position.id, identity, signature, text, reason, until, person: ENGINEER },
    });
    await this.dataSource.query('update finding_acceptance set accepted_at = $1 where id = $2', [
      acceptedAt,
      id,
    ]);
    await this.logbook.write({
      ...{ person: ENGINEER, action: 'finding-accepted', tag: told.tag },
      text: `Accepted until ${until} (${reason}): ${text}`,
    });
  }
}
