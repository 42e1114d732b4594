// Keeping and finding backups. A backup is who, when, how and which unit; its content is kept once by hash.

import { Injectable } from '@nestjs/common';
import type { BackupHow } from '@drive-keep/api';
import type { Code } from '@drive-keep/core/dictionary';
import { unreadableCount, type ParameterSet } from '@drive-keep/core/sets';
import type { Reading } from '@drive-keep/core/values';
import { DataSource, type EntityManager } from 'typeorm';
import { notFound } from '../problems/problem.ts';
import type { Position } from '../register/position.entity.ts';
import type { Unit } from '../register/unit.entity.ts';
import { Backup } from './backup.entity.ts';
import { ContentStore } from './content-store.service.ts';

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

  /** The newest backup that holds this content, for "same as …". */
  async newestWith(positionId: string, contentHash: string): Promise<Backup | null> {
    return this.newestFirst(positionId)
      .andWhere('backup.content_hash = :contentHash', { contentHash })
      .getOne();
  }

  async newest(positionId: string): Promise<Backup | null> {
    return this.newestFirst(positionId).getOne();
  }

  /** One plain question: it is asked for every unit of every round. */
  private newestFirst(positionId: string) {
    return this.dataSource
      .getRepository(Backup)
      .createQueryBuilder('backup')
      .where('backup.position_id = :positionId', { positionId })
      .orderBy('backup.takenAt', 'DESC')
      .addOrderBy('backup.seq', 'DESC')
      .limit(1);
  }

  async get(id: string): Promise<Backup> {
    const backup = isUuid(id)
      ? await this.dataSource.getRepository(Backup).findOne({
          where: { id },
          relations: { position: true, unit: true },
        })
      : null;
    if (!backup) throw notFound('This backup');
    return backup;
  }
}

export const isUuid = (text: string): boolean => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(text);
