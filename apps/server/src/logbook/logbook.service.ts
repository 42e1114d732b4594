import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { LogbookRow } from './logbook.entity.ts';

export interface LogbookNote {
  readonly person: string;
  readonly action: string;
  readonly tag?: string;
  readonly text: string;
  readonly facts?: object;
}

/** Who did what, when, to which unit, why. */
@Injectable()
export class Logbook {
  constructor(private readonly dataSource: DataSource) {}

  /** Give the manager of the transaction that the note belongs to, so that both happen or neither. */
  async write(note: LogbookNote, manager: EntityManager = this.dataSource.manager): Promise<void> {
    await manager.insert(LogbookRow, { ...note, tag: note.tag ?? null, facts: note.facts ?? {} });
  }
}
