// Content of sets by hash. What is stored is the canonical text, deflated, and reading it back checks the hash: damaged
// content is named and never shown as good.

import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { Injectable } from '@nestjs/common';
import {
  canonicalText,
  hashText,
  parseCanonical,
  type ContentHash,
  type ParameterSet,
} from '@drive-keep/core/sets';
import { DataSource, type EntityManager } from 'typeorm';
import { ProblemException } from '../problems/problem.ts';
import { SetContent } from './set-content.entity.ts';

/** Parsed sets kept at hand: distinct contents are few, and the newest ones are asked for again and again. */
const MOST_AT_HAND = 500;

@Injectable()
export class ContentStore {
  private readonly atHand = new Map<string, ParameterSet>();

  constructor(private readonly dataSource: DataSource) {}

  /** Stores content once; equal content is found again by its hash. */
  async keep(set: ParameterSet, manager: EntityManager = this.dataSource.manager): Promise<ContentHash> {
    const text = canonicalText(set);
    const hash = hashText(text);
    const content = deflateRawSync(Buffer.from(text, 'utf8'), { level: 9 });
    const row = { hash, dictionaryId: set.dictionary, content, packed: true };
    await manager.createQueryBuilder().insert().into(SetContent).values(row).orIgnore().execute();
    return hash;
  }

  async get(hash: string): Promise<ParameterSet> {
    const known = this.atHand.get(hash);
    if (known) return known;
    const row = await this.dataSource.getRepository(SetContent).findOneBy({ hash });
    const set = row && keptSet(row);
    if (!set) throw damaged(hash);
    if (this.atHand.size >= MOST_AT_HAND) this.atHand.delete(this.atHand.keys().next().value ?? '');
    this.atHand.set(hash, set);
    return set;
  }
}

/** The set in a row; nothing where the row is damaged. */
export function keptSet({ hash, content, packed }: SetContent): ParameterSet | undefined {
  const text = packed ? inflated(content) : content.toString('utf8');
  const set = text !== undefined && hashText(text) === hash ? parseCanonical(text) : undefined;
  return set?.ok ? set.value : undefined;
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
    `The kept content ${hash.slice(0, 19)}… is damaged and is not shown. Restore it from a copy of the database.`,
  );
