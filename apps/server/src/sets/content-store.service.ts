// Content of sets by hash. What is stored is the canonical text, deflated, and reading it back checks the hash: damaged
// content is named and never shown as good. Nothing is called kept that was not read back in the very act that keeps it,
// and equal content that arrives mends a damaged row.

import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { Injectable } from '@nestjs/common';
import {
  canonicalText,
  hashText,
  parseCanonical,
  type ContentHash,
  type ParameterSet,
} from '@drive-keep/core/sets';
import { DataSource, In, type EntityManager } from 'typeorm';
import { ProblemException } from '../problems/problem.ts';
import { SetContent } from './set-content.entity.ts';

/** Parsed sets kept at hand: distinct contents are few, and the newest ones are asked for again and again. */
const MOST_AT_HAND = 500;

@Injectable()
export class ContentStore {
  private readonly atHand = new Map<string, ParameterSet>();

  constructor(private readonly dataSource: DataSource) {}

  /** Stores content once; equal content is found again by its hash, read back, and mended where it was damaged. */
  async keep(set: ParameterSet, manager: EntityManager = this.dataSource.manager): Promise<ContentHash> {
    const text = canonicalText(set);
    const hash = hashText(text);
    const content = deflateRawSync(Buffer.from(text, 'utf8'), { level: 9 });
    const row = { hash, dictionaryId: set.dictionary, content, packed: true };
    await manager.createQueryBuilder().insert().into(SetContent).values(row).orIgnore().execute();
    if (await this.isGood(hash, manager)) return hash;
    // The database takes this where the text has this hash, and nothing else (migration Evidence).
    const plain = { dictionaryId: set.dictionary, content: Buffer.from(text, 'utf8'), packed: false };
    await manager.update(SetContent, { hash }, plain);
    if (!(await this.isGood(hash, manager))) throw damaged(hash);
    await manager.query('delete from damaged_content where hash = $1', [hash]);
    return hash;
  }

  private async isGood(hash: string, manager: EntityManager): Promise<boolean> {
    const row = await manager.getRepository(SetContent).findOneBy({ hash });
    return row !== null && keptSet(row) !== undefined;
  }

  async get(hash: string): Promise<ParameterSet> {
    const known = this.atHand.get(hash);
    if (known) return known;
    const row = await this.dataSource.getRepository(SetContent).findOneBy({ hash });
    const set = row && keptSet(row);
    if (!set) {
      await this.noteDamage([hash]);
      throw damaged(hash);
    }
    if (this.atHand.size >= MOST_AT_HAND) this.atHand.delete(this.atHand.keys().next().value ?? '');
    this.atHand.set(hash, set);
    return set;
  }

  /** Nothing where the content is damaged, for those who have others to go on with. */
  async getIfGood(hash: string): Promise<ParameterSet | undefined> {
    try {
      return await this.get(hash);
    } catch (error) {
      if (error instanceof ProblemException && error.problem.type === damaged(hash).problem.type)
        return undefined;
      throw error;
    }
  }

  /** Hashes these contents again, from the disk; those that are damaged are noted, and are no longer at hand. */
  async check(hashes: readonly string[]): Promise<readonly string[]> {
    const rows = await this.dataSource.getRepository(SetContent).findBy({ hash: In([...hashes]) });
    const good = new Set(rows.filter((row) => keptSet(row)).map(({ hash }) => hash));
    const bad = hashes.filter((hash) => !good.has(hash));
    await this.noteDamage(bad);
    if (good.size > 0)
      await this.dataSource.query('delete from damaged_content where hash = any($1)', [[...good]]);
    return bad;
  }

  /** Contents in which the units and baselines of today are told, as far as they are known to be damaged. */
  async knownDamage(): Promise<ReadonlySet<string>> {
    const rows: { hash: string }[] = await this.dataSource.query('select hash from damaged_content');
    return new Set(rows.map(({ hash }) => hash));
  }

  private async noteDamage(hashes: readonly string[]): Promise<void> {
    if (hashes.length === 0) return;
    for (const hash of hashes) this.atHand.delete(hash);
    await this.dataSource.query(
      'insert into damaged_content (hash) select unnest($1::text[]) on conflict do nothing',
      [hashes],
    );
  }
}

/** The set in a row; nothing where the row is damaged. */
export function keptSet({ hash, content, packed, dictionaryId }: SetContent): ParameterSet | undefined {
  const text = packed ? inflated(content) : content.toString('utf8');
  const set = text !== undefined && hashText(text) === hash ? parseCanonical(text) : undefined;
  return set?.ok && set.value.dictionary === dictionaryId ? set.value : undefined;
}

function inflated(content: Buffer): string | undefined {
  try {
    return inflateRawSync(content).toString('utf8');
  } catch {
    return undefined;
  }
}

const damaged = (hash: string): ProblemException =>
  new ProblemException(
    500,
    'content-damaged',
    `The kept content ${hash.slice(0, 19)}… is damaged and is not shown. A unit that holds the same mends it when it is backed up; so does a file of this set; else restore a copy of the database.`,
  );
