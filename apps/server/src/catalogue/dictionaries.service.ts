// Dictionaries by id, each in its newest wording. Files are read once and then kept: what was taken in never changes, and a
// later wording comes in beside it.

import { Injectable } from '@nestjs/common';
import type { ModelListing } from '@drive-keep/api';
import {
  readModel,
  terminalsOf,
  type Dictionary,
  type DictionaryId,
  type ModelFiles,
} from '@drive-keep/core/dictionary';
import { DataSource } from 'typeorm';
import { notFound, ProblemException } from '../problems/problem.ts';
import { StoredDictionary } from './dictionary.entity.ts';
import { DictionaryRevision } from './dictionary-revision.entity.ts';
import { filesHash } from './files-hash.ts';

type FileColumn = 'modelFile' | 'parametersFile' | 'terminalsFile' | 'faultsFile';

/** How often a process looks for wordings that another one has taken in, in ms. */
const LOOK_MS = 2000;

@Injectable()
export class Dictionaries {
  private readonly known = new Map<string, Dictionary>();
  private lookedAt = 0;

  constructor(private readonly dataSource: DataSource) {}

  async get(id: string): Promise<Dictionary> {
    await this.noticeLater();
    const known = this.known.get(id);
    if (known) return known;
    const stored = await this.newestFiles(id);
    if (filesHash(filesOf(stored)) !== stored.filesHash) throw damaged(id);
    const read = readModel(filesOf(stored), 'told');
    if (!read.ok) throw new Error(`dictionary ${id} was kept but cannot be read`);
    const dictionary = { ...read.value, revision: stored.revision };
    this.known.set(id, dictionary);
    return dictionary;
  }

  /** A wording that another server process has taken in counts here, too, soon after. */
  private async noticeLater(): Promise<void> {
    const now = performance.now();
    if (now - this.lookedAt < LOOK_MS) return;
    this.lookedAt = now;
    const later: { id: string; revision: number }[] = await this.dataSource.query(
      'select dictionary_id as id, max(revision) as revision from dictionary_revision group by 1',
    );
    for (const { id, revision } of later) {
      const known = this.known.get(id);
      if (known && known.revision !== revision) this.known.delete(id);
    }
  }

  /** A later wording has come in: it is read when it is asked for next. */
  forget(id: string): void {
    this.known.delete(id);
  }

  private async newestFiles(id: string): Promise<
    Pick<StoredDictionary, FileColumn | 'filesHash'> & {
      revision: number;
    }
  > {
    const stored = await this.dataSource.getRepository(StoredDictionary).findOneBy({ id });
    if (!stored) throw notFound(`The dictionary ${id}`);
    const [later] = await this.dataSource
      .getRepository(DictionaryRevision)
      .find({ where: { dictionaryId: id }, order: { revision: 'DESC' }, take: 1 });
    return later ?? { ...stored, revision: 1 };
  }

  /** Maker and name alone, whatever state its files are in. */
  async named(id: string): Promise<Pick<Dictionary, 'id' | 'maker' | 'name'>> {
    const stored = await this.dataSource.getRepository(StoredDictionary).findOneBy({ id });
    if (!stored) throw notFound(`The dictionary ${id}`);
    return { id: id as DictionaryId, maker: stored.maker, name: stored.name };
  }

  /** Its files in the newest wording, letter for letter as they came in. */
  async files(id: string): Promise<ModelFiles> {
    const stored = await this.newestFiles(id);
    if (filesHash(filesOf(stored)) !== stored.filesHash) throw damaged(id);
    return filesOf(stored);
  }

  /** The hash of its files, for a signature that stands for them. */
  async hashOf(id: string): Promise<string> {
    const stored = await this.dataSource.getRepository(StoredDictionary).findOneBy({ id });
    if (!stored || filesHash(filesOf(stored)) !== stored.filesHash) throw damaged(id);
    return stored.filesHash;
  }

  /** Reads all of them, one after the other with room for others in between: the first question then need not wait. */
  async readAhead(): Promise<void> {
    for (const { id } of await this.all()) {
      await new Promise((resolve) => setImmediate(resolve));
      await this.get(id).catch(() => undefined);
    }
  }

  /** Those whose files are not the ones that were taken in; they are no longer at hand. */
  async damaged(): Promise<readonly string[]> {
    const later = await this.dataSource.getRepository(DictionaryRevision).find();
    const bad = [
      ...(await this.all()).filter(isBad).map(({ id }) => id),
      ...later.filter(isBad).map(({ dictionaryId }) => dictionaryId),
    ];
    for (const id of bad) this.known.delete(id);
    return [...new Set(bad)];
  }

  async listing(): Promise<readonly ModelListing[]> {
    const used: { id: string; positions: string }[] = await this.dataSource.query(
      'select dictionary_id as id, count(*) as positions from unit where removed_at is null group by 1',
    );
    const positions = new Map(used.map(({ id, positions: count }) => [id, Number(count)]));
    const all = await this.all();
    return Promise.all(
      all.map(async ({ id, importedBy }) => {
        const { model, version, maker, name, about, firmware, parameters, terminals, line } =
          await this.get(id);
        return {
          ...{ id, model, version, maker, name, about, firmware, importedBy },
          parameters: parameters.length,
          terminals: terminals ? terminalsOf(terminals).length : 0,
          hasLine: line !== null,
          positions: positions.get(id) ?? 0,
        };
      }),
    );
  }

  /** The newest version of each model. */
  async newest(): Promise<readonly Dictionary[]> {
    const newest = new Map<string, string>();
    for (const { model, id } of await this.all()) if (!newest.has(model)) newest.set(model, id);
    return Promise.all([...newest.values()].map((id) => this.get(id)));
  }

  /** Every version of every model. */
  async everyVersion(): Promise<readonly Dictionary[]> {
    return Promise.all((await this.all()).map(({ id }) => this.get(id)));
  }

  /** By maker and name, the newest version of a model first. */
  async all(): Promise<readonly StoredDictionary[]> {
    return this.dataSource
      .getRepository(StoredDictionary)
      .find({ order: { maker: 'ASC', name: 'ASC', version: 'DESC' } });
  }
}

const isBad = (stored: StoredDictionary | DictionaryRevision): boolean =>
  filesHash(filesOf(stored)) !== stored.filesHash;

const damaged = (id: string): ProblemException =>
  new ProblemException(
    500,
    'dictionary-damaged',
    `The kept dictionary ${id} is damaged: no value of it is shown. Bring its files once more under Models, or restore a copy of the database.`,
  );

export const filesOf = (stored: Pick<StoredDictionary, FileColumn>): ModelFiles => ({
  model: stored.modelFile,
  parameters: stored.parametersFile,
  terminals: stored.terminalsFile,
  faults: stored.faultsFile,
});
