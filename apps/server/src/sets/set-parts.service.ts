// Parts of sets that files told: kept by the hash of their content, and never changed.

import { Injectable } from '@nestjs/common';
import type { HistoryView } from '@drive-keep/api';
import type { ParameterSet } from '@drive-keep/core/sets';
import { DataSource, type EntityManager } from 'typeorm';
import { notFound } from '../problems/problem.ts';
import type { Position } from '../register/position.entity.ts';
import { isUuid } from '../storage/uuid.ts';
import { ContentStore } from './content-store.service.ts';
import { SetPart } from './set-part.entity.ts';

const MOST_PARTS = 5;

@Injectable()
export class SetParts {
  constructor(
    private readonly dataSource: DataSource,
    private readonly contents: ContentStore,
  ) {}

  /** Inside a transaction of the caller; answers with its id. */
  async keep(manager: EntityManager, { position, set, fileName, broughtBy }: Kept): Promise<string> {
    const contentHash = await this.contents.keep(set, manager);
    const { id } = await manager.save(SetPart, { position, contentHash, fileName, broughtBy });
    return id;
  }

  /** The newest first, as many as anybody looks at. */
  async of(positionId: string): Promise<HistoryView['parts']> {
    const parts = await this.dataSource
      .getRepository(SetPart)
      .find({ where: { position: { id: positionId } }, order: { broughtAt: 'DESC' }, take: MOST_PARTS });
    return parts.map(({ id, fileName, broughtBy: by, broughtAt }) => ({
      ...{ reference: `part:${id}`, fileName, by },
      at: broughtAt.toISOString(),
    }));
  }

  async get(positionId: string, id: string): Promise<SetPart> {
    const found = isUuid(id)
      ? await this.dataSource.getRepository(SetPart).findOneBy({ id, position: { id: positionId } })
      : null;
    if (!found) throw notFound('This part of a set');
    return found;
  }
}

interface Kept {
  readonly position: Position;
  readonly set: ParameterSet;
  readonly fileName: string;
  readonly broughtBy: string;
}
