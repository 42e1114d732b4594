// Keeping and finding backups. A backup is who, when, how and which unit; its content is kept once by hash. A unit
// that holds what its newest backup holds gets no second one.

import { Injectable } from '@nestjs/common';
import type { BackupHow } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import { unreadableCount, type ParameterSet } from '@drive-keep/core/sets';
import type { Reading } from '@drive-keep/core/values';
import { DataSource, type EntityManager } from 'typeorm';
import { notFound } from '../problems/problem.ts';
import { isUuid } from '../storage/uuid.ts';
import type { Position } from '../register/position.entity.ts';
import type { Unit } from '../register/unit.entity.ts';
import { Backup } from './backup.entity.ts';
import { ContentStore } from './content-store.service.ts';
import { FoundAgain, type Repeat } from './found-again.service.ts';

export interface NewBackup {
  readonly position: Position;
  readonly unit: Unit;
  readonly set: ParameterSet;
  readonly aside: ReadonlyMap<Code, Reading>;
  readonly takenBy: string;
  readonly how: BackupHow;
  readonly reason: string;
  readonly serial: number;
  readonly firmware: string;
  /** When it was read; now, where nothing is given. */
  readonly takenAt?: Date;
}

@Injectable()
export class Backups {
  constructor(
    private readonly dataSource: DataSource,
    private readonly contents: ContentStore,
    private readonly foundAgain: FoundAgain,
  ) {}

  async keep(fresh: NewBackup, manager: EntityManager = this.dataSource.manager): Promise<Backup> {
    const contentHash = await this.contents.keep(fresh.set, manager);
    const repository = manager.getRepository(Backup);
    const backup = repository.create({
      ...fresh,
      contentHash,
      takenAt: fresh.takenAt ?? new Date(),
      unreadable: unreadableCount(fresh.set),
      aside: Object.fromEntries(fresh.aside),
    });
    await repository.insert(backup);
    return backup;
  }

  /** Keeps what was read of a unit; where that is what its newest backup holds, only that it was found again. */
  async keepOrFind(fresh: NewBackup, manager: EntityManager = this.dataSource.manager): Promise<KeptOrFound> {
    const hash = await this.contents.keep(fresh.set, manager);
    const aside = JSON.stringify(Object.fromEntries(fresh.aside));
    const [rows]: [{ id: string }[], number] = await manager.query(
      `update last_look set at = greatest(last_look.at, $6), taken_by = $7, reason = $8, aside = $9
         from backup b
        where last_look.position_id = $1 and b.id = last_look.backup_id
          and b.unit_id = $2 and b.content_hash = $3 and b.serial = $4 and b.firmware = $5
       returning b.id`,
      [
        ...[fresh.position.id, fresh.unit.id, hash, fresh.serial, fresh.firmware],
        ...[fresh.takenAt ?? new Date(), fresh.takenBy, fresh.reason, aside],
      ],
    );
    const [same] = rows;
    if (same) return { backupId: same.id, found: true };
    return { backupId: (await this.keep(fresh, manager)).id, found: false };
  }

  /** The newest backup that holds this content, for "same as …". */
  async newestWith(positionId: string, contentHash: string): Promise<Backup | null> {
    return this.dataSource.getRepository(Backup).findOne({
      where: { position: { id: positionId }, contentHash },
      order: { takenAt: 'DESC', seq: 'DESC' },
    });
  }

  /** The newest look at what the unit of a position holds; a file is no look. One that found a backup again is told as that backup, at its own time. */
  async newest(positionId: string): Promise<Backup | null> {
    const [look]: LookRow[] = await this.dataSource.query(
      'select backup_id, at, taken_by, reason, aside from last_look where position_id = $1',
      [positionId],
    );
    const backup = look && (await this.dataSource.getRepository(Backup).findOneBy({ id: look.backup_id }));
    if (!look || !backup) return null;
    if (look.at.getTime() === backup.takenAt.getTime()) return backup;
    const repeat = (await this.foundAgain.of([backup])).at(-1);
    const { at: takenAt, taken_by: takenBy, reason, aside } = look;
    const id = repeat?.at.getTime() === takenAt.getTime() ? repeatId(backup, repeat) : backup.id;
    return Object.assign(backup, { id, takenAt, takenBy, reason, aside, how: 'read' as const });
  }

  /** All looks at a position, oldest first; each that found a backup again as a backup of its own time. */
  async all(positionId: string): Promise<LookedAt[]> {
    const kept = await this.dataSource.getRepository(Backup).find({
      where: { position: { id: positionId } },
      order: { takenAt: 'ASC', seq: 'ASC' },
      // Years of monitors and counters would be read for nothing.
      select: WITHOUT_ASIDE,
    });
    const bySeq = new Map(kept.map((backup) => [Number(backup.seq), backup]));
    const again = (await this.foundAgain.of(kept)).flatMap((repeat) => {
      const backup = bySeq.get(Number(repeat.seq));
      return backup ? [repeated(backup, repeat)] : [];
    });
    return [...kept, ...again].sort((a, b) => a.takenAt.getTime() - b.takenAt.getTime());
  }

  /** By its id; `ID.N` is the look number N, which found the backup ID again. */
  async get(id: string): Promise<Backup> {
    const [own = '', look] = id.split('.');
    const backup = isUuid(own)
      ? await this.dataSource.getRepository(Backup).findOne({
          where: { id: own },
          relations: { position: true, unit: true },
        })
      : null;
    if (!backup) throw notFound('This backup');
    if (look === undefined) return backup;
    const newest = await this.newest(backup.position.id);
    if (newest?.id === id) return Object.assign(newest, { position: backup.position, unit: backup.unit });
    const repeat = (await this.foundAgain.of([backup])).find((each) => String(each.id) === look);
    if (!repeat) throw notFound('This backup');
    return repeated(backup, repeat);
  }
}

/** A backup without what stood beside its settings. */
export type LookedAt = Omit<Backup, 'aside'>;

const WITHOUT_ASIDE = {
  ...{ id: true, seq: true, contentHash: true, takenAt: true, takenBy: true, how: true, reason: true },
  ...{ serial: true, firmware: true, unreadable: true },
} as const;

interface LookRow {
  readonly backup_id: string;
  readonly at: Date;
  readonly taken_by: string;
  readonly reason: string;
  readonly aside: object;
}

export interface KeptOrFound {
  readonly backupId: string;
  /** The backup is an older one, whose content was found again. */
  readonly found: boolean;
}

const repeatId = ({ id }: Backup, repeat: Repeat): string => `${id}.${repeat.id}`;

/** Monitors are kept with backups of their own and with the newest look alone. */
function repeated(backup: Backup, repeat: Repeat): Backup {
  const { at: takenAt, taken_by: takenBy, reason } = repeat;
  const id = repeatId(backup, repeat);
  return Object.assign(new Backup(), backup, { id, takenAt, takenBy, reason, how: 'read', aside: {} });
}
