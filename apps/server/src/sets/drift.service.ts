// How many parameters lie between two kept contents. Contents never change, so neither does the answer: it is kept, so
// that the register of thousands of positions is one question to the database.

import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { compareSets } from '@drive-keep/core/compare';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ContentStore } from './content-store.service.ts';

@Injectable()
export class Drift {
  /** Asked for at the same time by many positions, counted once. */
  private readonly counted = new Map<string, Promise<number | null>>();

  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly contents: ContentStore,
  ) {}

  /** Differences that somebody has to look at; nothing where the contents are of different models, or cannot be read. */
  count(hashA: string, hashB: string): Promise<number | null> {
    if (hashA === hashB) return Promise.resolve(0);
    const key = `${hashA}|${hashB}`;
    const known = this.counted.get(key);
    if (known) return known;
    const counting = this.countOnce(hashA, hashB);
    // A damaged content may be restored: what failed is asked for again.
    const told = counting.catch((error: unknown) => {
      this.counted.delete(key);
      if (error instanceof Damaged) return null;
      throw error;
    });
    this.counted.set(key, told);
    return told;
  }

  private async countOnce(hashA: string, hashB: string): Promise<number | null> {
    const known = await this.remembered(hashA, hashB);
    if (known !== undefined) return known;
    const [a, b] = await Promise.all([this.contents.getIfGood(hashA), this.contents.getIfGood(hashB)]);
    if (!a || !b) throw new Damaged();
    if (a.dictionary !== b.dictionary) return null;
    const { rows } = compareSets(await this.dictionaries.get(a.dictionary), a, b);
    await this.remember(hashA, hashB, rows.length);
    return rows.length;
  }

  private async remembered(hashA: string, hashB: string): Promise<number | undefined> {
    const [row]: { differences: number }[] = await this.dataSource.query(
      'select differences from drift_count where baseline_hash = $1 and content_hash = $2',
      [hashA, hashB],
    );
    return row?.differences;
  }

  private async remember(hashA: string, hashB: string, differences: number): Promise<void> {
    await this.dataSource.query('insert into drift_count values ($1, $2, $3) on conflict do nothing', [
      hashA,
      hashB,
      differences,
    ]);
  }
}

class Damaged extends Error {}
