// How many parameters lie between two kept contents. Contents never change, so neither does the answer.

import { Injectable } from '@nestjs/common';
import { compareSets } from '@drive-keep/core/compare';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ContentStore } from './content-store.service.ts';

@Injectable()
export class Drift {
  private readonly counted = new Map<string, number>();

  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly contents: ContentStore,
  ) {}

  /** Differences that somebody has to look at; nothing where the contents are of different models. */
  async count(hashA: string, hashB: string): Promise<number | null> {
    if (hashA === hashB) return 0;
    const key = `${hashA}|${hashB}`;
    const known = this.counted.get(key);
    if (known !== undefined) return known;
    const [a, b] = await Promise.all([this.contents.get(hashA), this.contents.get(hashB)]);
    if (a.dictionary !== b.dictionary) return null;
    const { rows } = compareSets(await this.dictionaries.get(a.dictionary), a, b);
    this.counted.set(key, rows.length);
    return rows.length;
  }
}
