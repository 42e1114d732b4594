// Cross-references between two models: those that come with the catalogue, as they stand in their files, and before them the
// plant's own revisions.

import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { Injectable } from '@nestjs/common';
import type { CrossReferencePair, CrossReferenceView } from '@drive-keep/api';
import { readCrossReference } from '@drive-keep/core/replace';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { CrossReferenceRevision } from './cross-reference-revision.entity.ts';
import { Dictionaries } from './dictionaries.service.ts';

/** A model by its name alone: a cross-reference holds for all its versions. */
const NAME = /^[a-z0-9][a-z0-9-]*$/;
const MOST_TOLD = 5;

@Injectable()
export class CrossReferences {
  private folder = '';

  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly logbook: Logbook,
  ) {}

  /** `modelsFolder` is beside it in the catalogue. */
  load(modelsFolder: string): void {
    this.folder = join(modelsFolder, '../cross-references');
  }

  /** The newest, or the one that is asked for; 0 is what the catalogue ships. */
  async of(old: string, fresh: string, revision?: number): Promise<CrossReferenceView> {
    const all = await this.dataSource
      .getRepository(CrossReferenceRevision)
      .find({ where: { old, fresh }, order: { revision: 'DESC' } });
    const own = revision === undefined ? all[0] : all.find((each) => each.revision === revision);
    if (revision && !own) throw notFound(`Revision ${revision} of the cross-reference ${old} to ${fresh}`);
    return {
      ...{ old, fresh, revision: own?.revision ?? 0 },
      text: own ? own.content : this.shipped(old, fresh),
      revisions: all.map((each) => ({
        ...{ revision: each.revision, savedBy: each.savedBy, why: each.why },
        savedAt: each.savedAt.toISOString(),
      })),
    };
  }

  async pairs(): Promise<readonly CrossReferencePair[]> {
    const own: { old: string; fresh: string; revision: number }[] = await this.dataSource.query(
      'select old, fresh, max(revision)::int as revision from cross_reference_revision group by old, fresh',
    );
    const pairs = new Map<string, CrossReferencePair>();
    for (const file of existsSync(this.folder) ? readdirSync(this.folder) : []) {
      const [old = '', fresh = ''] = basename(file, '.yaml').split('--');
      pairs.set(`${old} ${fresh}`, { old, fresh, revision: 0, shipped: true });
    }
    for (const { old, fresh, revision } of own) {
      const shipped = pairs.has(`${old} ${fresh}`);
      pairs.set(`${old} ${fresh}`, { old, fresh, revision, shipped });
    }
    return [...pairs.values()].sort((a, b) => a.old.localeCompare(b.old) || a.fresh.localeCompare(b.fresh));
  }

  /** A further revision of the plant; a file with faults is refused with each of them. `seen` is the one that was looked at. */
  async save(
    { old, fresh, text, why, seen }: { old: string; fresh: string; text: string; why: string; seen: number },
    { person }: Account,
  ): Promise<CrossReferenceView> {
    const models = await this.dictionaries.newest();
    const [from, to] = [old, fresh].map((name) => models.find(({ model }) => model === name));
    if (!from || !to) throw notFound(`The model ${from ? fresh : old}`);
    const read = readCrossReference(text, from, to);
    if (!read.ok) {
      const told = read.fault.slice(0, MOST_TOLD).map((each) => `Line ${each.line}: ${each.text}.`);
      const more = read.fault.length > MOST_TOLD ? ` And ${read.fault.length - MOST_TOLD} more.` : '';
      throw new ProblemException(422, 'cross-reference-faults', `${told.join(' ')}${more} Nothing was kept.`);
    }
    await this.dataSource.transaction(async (manager) => {
      await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`cross ${old} ${fresh}`]);
      const last = (await manager.maximum(CrossReferenceRevision, 'revision', { old, fresh })) ?? 0;
      requireSameVersion(last, seen, `The cross-reference ${from.name} to ${to.name}`);
      await manager.insert(CrossReferenceRevision, {
        ...{ old, fresh, revision: last + 1, content: text, savedBy: person, why },
      });
      const told = `Kept revision ${last + 1} of the cross-reference from ${from.name} to ${to.name}: ${why}.`;
      await this.logbook.write({ person, action: 'cross-reference-kept', text: told }, manager);
    });
    return this.of(old, fresh);
  }

  private shipped(old: string, fresh: string): string | null {
    if (!NAME.test(old) || !NAME.test(fresh)) return null;
    const file = join(this.folder, `${old}--${fresh}.yaml`);
    return existsSync(file) ? readFileSync(file, 'utf8') : null;
  }
}
