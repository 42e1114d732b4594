// The one way in for models, shipped or a user's own: files are checked as a whole and kept as they came.

import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Injectable, Logger } from '@nestjs/common';
import {
  annotatesOnly,
  readModel,
  type Dictionary,
  type DictionaryId,
  type ModelFiles,
} from '@drive-keep/core/dictionary';
import { describe, type Finding } from '@drive-keep/core/findings';
import { fail, ok, type Result } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { Dictionaries, filesOf } from './dictionaries.service.ts';
import { StoredDictionary } from './dictionary.entity.ts';
import { DictionaryRevision } from './dictionary-revision.entity.ts';
import { filesHash } from './files-hash.ts';
import { modelFilesIn } from './model-folder.ts';

export type ImportFault =
  | { readonly code: 'findings'; readonly findings: readonly Finding[] }
  /** The version is kept already with other content; a change needs a new version number. */
  | { readonly code: 'version-taken'; readonly id: DictionaryId };

@Injectable()
export class ModelImport {
  private readonly logger = new Logger('ModelImport');

  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
  ) {}

  /** `by` is the person who brings a model of the plant's own; nobody for a shipped one. */
  async take(files: ModelFiles, by: string | null = null): Promise<Result<DictionaryId, ImportFault>> {
    const repository = this.dataSource.getRepository(StoredDictionary);
    const hash = filesHash(files);
    // Files that were checked once need not be checked at every start.
    const known = await repository.findOneBy({ filesHash: hash });
    if (known && filesHash(filesOf(known)) === hash) return ok(known.id as DictionaryId);
    const later = await this.dataSource.getRepository(DictionaryRevision).findOneBy({ filesHash: hash });
    if (later && filesHash(filesOf(later)) === hash) return ok(later.dictionaryId as DictionaryId);
    const read = readModel(files);
    if (!read.ok) return fail({ code: 'findings', findings: read.fault });
    const { id, model, version, maker, name } = read.value;
    const kept = await repository.findOneBy({ id });
    if (kept) {
      if (kept.filesHash !== hash) return this.correct(kept, read.value, files, by);
      // The same files mend a row that was damaged; the database takes nothing else.
      if (filesHash(filesOf(kept)) !== hash) await repository.update({ id }, columnsOf(files));
      return ok(id);
    }
    await repository.insert({
      id,
      model,
      version,
      maker,
      name,
      ...columnsOf(files),
      filesHash: hash,
      importedBy: by,
    });
    return ok(id);
  }

  /** A kept version in other words: a revision beside it. Anything else of it would say something else of kept sets. */
  private async correct(
    kept: StoredDictionary,
    after: Dictionary,
    files: ModelFiles,
    by: string | null,
  ): Promise<Result<DictionaryId, ImportFault>> {
    const before = readModel(filesOf(kept), 'told');
    if (!before.ok || !annotatesOnly(before.value, after))
      return fail({ code: 'version-taken', id: after.id });
    const filesHashNow = filesHash(files);
    // Two servers may start at once: the second finds the revision of the first.
    await this.dataSource.query(
      `insert into dictionary_revision
         (dictionary_id, revision, model_file, parameters_file, terminals_file, faults_file, files_hash, imported_by)
       select $1, coalesce(max(revision), 1) + 1, $2, $3, $4, $5, $6, $7
       from dictionary_revision where dictionary_id = $1
       having bool_and(files_hash <> $6) is not false
       on conflict do nothing`,
      [
        kept.id,
        files.model,
        files.parameters,
        files.terminals ?? null,
        files.faults ?? null,
        filesHashNow,
        by,
      ],
    );
    this.dictionaries.forget(kept.id);
    return ok(after.id);
  }

  /** Takes in every model of the catalogue folder; a model that is not right is named and left out. */
  async takeCatalogue(folder: string): Promise<void> {
    for (const name of readdirSync(folder).sort()) {
      const taken = await this.take(modelFilesIn(join(folder, name)));
      if (!taken.ok) this.logger.error(`${name}: ${describeImportFault(taken.fault)}`);
    }
  }
}

const columnsOf = ({ model, parameters, terminals, faults }: ModelFiles) => ({
  modelFile: model,
  parametersFile: parameters,
  terminalsFile: terminals ?? null,
  faultsFile: faults ?? null,
});

export function describeImportFault(fault: ImportFault): string {
  if (fault.code === 'version-taken')
    return `${fault.id} is kept with other content; give the change a new version.`;
  return fault.findings.map((each) => `${each.file}, line ${each.line}: ${describe(each)}`).join('\n');
}
