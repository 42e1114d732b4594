// The history strip of a position: every backup with its differences from the baseline that was in force; baselines
// and wirings, each in force until the next.

import { Injectable } from '@nestjs/common';
import type { BackupMark, BaselineMark, DifferenceOrigin, HistoryView, ParameterStep } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import { sameReading, type Reading } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { Wirings } from '../wiring/wirings.service.ts';
import { Proofs } from '../proofs/proofs.service.ts';
import { Backups, type LookedAt } from './backups.service.ts';
import { Baseline } from './baseline.entity.ts';
import { ContentStore } from './content-store.service.ts';
import { SetParts } from './set-parts.service.ts';
import { Drift } from './drift.service.ts';

@Injectable()
export class History {
  constructor(
    private readonly dataSource: DataSource,
    private readonly backups: Backups,
    private readonly drift: Drift,
    private readonly contents: ContentStore,
    private readonly wirings: Wirings,
    private readonly parts: SetParts,
    private readonly proofs: Proofs,
  ) {}

  async of(positionId: string): Promise<HistoryView> {
    const baselines = await this.baselines(positionId);
    const backups = await this.backups.all(positionId);
    const damaged = await this.contents.knownDamage();
    const proofs = await this.proofs.byHash(positionId);
    const marks: BackupMark[] = [];
    for (const [at, backup] of backups.entries()) {
      const inForce = baselines.findLast((baseline) => baseline.signedAt <= backup.takenAt);
      marks.push({
        id: backup.id,
        takenAt: backup.takenAt.toISOString(),
        takenBy: backup.takenBy,
        how: backup.how,
        reason: backup.reason,
        serial: backup.serial,
        firmware: backup.firmware,
        hash: backup.contentHash,
        differences:
          inForce && !damaged.has(backup.contentHash) && !damaged.has(inForce.contentHash)
            ? await this.drift.count(inForce.contentHash, backup.contentHash)
            : null,
        unreadable: backup.unreadable,
        damaged: damaged.has(backup.contentHash),
        sameAsBefore: backups[at - 1]?.contentHash === backup.contentHash,
      });
    }
    const newest = backups.findLast(({ how }) => how !== 'imported');
    const differed = backups.findLast(({ contentHash }) => newest && contentHash !== newest.contentHash);
    return {
      newest: newest?.id ?? null,
      lastThatDiffered: differed?.id ?? null,
      backups: marks,
      baselines: baselines.map((each) => baselineMark(each, damaged.has(each.contentHash), proofs)),
      wirings: await this.wirings.marks(positionId),
      parts: await this.parts.of(positionId),
      swaps: await this.swaps(positionId),
    };
  }

  /** When another unit came in, and what it took the place of. */
  private async swaps(positionId: string): Promise<HistoryView['swaps']> {
    const stays: { at: Date; model: string; name: string; rating: string; serial: string }[] =
      await this.dataSource.query(
        `select u.installed_at as at, d.model, d.name, u.rating, u.serial
           from unit u join dictionary d on d.id = u.dictionary_id
          where u.position_id = $1 order by u.installed_at, u.removed_at nulls last`,
        [positionId],
      );
    return stays.slice(1).map(({ at, model, name, rating, serial }, place) => {
      const before = stays[place];
      return {
        at: at.toISOString(),
        otherModel: before?.model !== model,
        text: `${before?.name ?? ''} ${before?.rating ?? ''} serial ${before?.serial ?? ''} out, ${name} ${rating} serial ${serial} in`,
      };
    });
  }

  /** When one parameter changed, by the backups that first show it. Contents that repeat are read once. */
  async ofParameter(positionId: string, code: Code): Promise<readonly ParameterStep[]> {
    const steps: ParameterStep[] = [];
    let before: Reading | undefined;
    let beforeHash = '';
    for (const backup of await this.backups.all(positionId)) {
      if (backup.contentHash === beforeHash) continue;
      beforeHash = backup.contentHash;
      // What cannot be read says nothing, and stops nothing.
      const reading = (await this.contents.getIfGood(backup.contentHash))?.readings.get(code);
      if (steps.length > 0 && sameReading(before, reading)) continue;
      before = reading;
      const { takenAt, takenBy, reason } = backup;
      steps.push({ at: takenAt.toISOString(), reading: reading ?? null, by: takenBy, reason });
    }
    return steps;
  }

  /**
   * When each difference between the newest baseline and the newest backup came about: the first backup of the unbroken
   * run that holds what is held now. Contents that repeat are read once.
   */
  async origins(positionId: string): Promise<readonly DifferenceOrigin[]> {
    const signed = (await this.baselines(positionId)).at(-1);
    // A file is a set of its own time, and says nothing of what the unit holds.
    const looks = (await this.backups.all(positionId)).filter(({ how }) => how !== 'imported');
    const backups = looks.reverse();
    const [newest] = backups;
    if (!signed || !newest) return [];
    const [baseline, now] = await Promise.all([
      this.contents.get(signed.contentHash),
      this.contents.get(newest.contentHash),
    ]);
    const open = new Set(
      [...new Set([...baseline.readings.keys(), ...now.readings.keys()])].filter(
        (code) => !sameReading(baseline.readings.get(code), now.readings.get(code)),
      ),
    );
    const first = new Map<Code, LookedAt>([...open].map((code) => [code, newest]));
    for (const backup of backups) {
      if (open.size === 0) break;
      const readings = (await this.contents.getIfGood(backup.contentHash))?.readings;
      if (!readings) break;
      for (const code of open) {
        if (sameReading(readings.get(code), now.readings.get(code))) first.set(code, backup);
        else open.delete(code);
      }
    }
    return [...first].map(([code, { takenAt, takenBy, reason }]) => ({
      code,
      since: takenAt.toISOString(),
      by: takenBy,
      reason,
      atSigning: takenAt <= signed.signedAt,
    }));
  }

  async baselines(positionId: string): Promise<Baseline[]> {
    return this.dataSource
      .getRepository(Baseline)
      .find({ where: { position: { id: positionId } }, order: { revision: 'ASC' } });
  }
}

const baselineMark = (
  baseline: Baseline,
  damaged: boolean,
  proofs: ReadonlyMap<string, string>,
): BaselineMark => ({
  damaged,
  revision: baseline.revision,
  signedAt: baseline.signedAt.toISOString(),
  signedBy: baseline.signedBy,
  reason: baseline.reason,
  hash: baseline.contentHash,
  wiring: baseline.wiringRevision,
  proof: baseline.proofHash === null ? null : (proofs.get(baseline.proofHash) ?? null),
});
