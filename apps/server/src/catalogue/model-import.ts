// The one way in for models, shipped or a user's own: files are checked as a whole and kept as they came.

import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Injectable, Logger } from '@nestjs/common';
import { readModel, type DictionaryId, type ModelFiles } from '@drive-keep/core/dictionary';
import { describe, type Finding } from '@drive-keep/core/findings';
import { fail, ok, type Result } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { filesOf } from './dictionaries.service.ts';
import { StoredDictionary } from './dictionary.entity.ts';
import { filesHash } from './files-hash.ts';
import { modelFilesIn } from './model-folder.ts';

export type ImportFault =
  | { readonly code: 'findings'; readonly findings: readonly Finding[] }
  /** The version is kept already with other content; a change needs a new version number. */
  | { readonly code: 'version-taken'; readonly id: DictionaryId };

@Injectable()
export class ModelImport {
  private readonly logger = new Logger('ModelImport');

  constructor(private readonly dataSource: DataSource) {}

  /** `by` is the person who brings a model of the plant's own; nobody for a shipped one. */
  async take(files: ModelFiles, by: string | null = null): Promise<Result<DictionaryId, ImportFault>> {
    const repository = this.dataSource.getRepository(StoredDictionary);
    const hash = filesHash(files);
    // Files that were checked once need not be checked at every start.
    const known = await repository.findOneBy({ filesHash: hash });
    if (known && filesHash(filesOf(known)) === hash) return ok(known.id as DictionaryId);
    const read = readModel(files);
    if (!read.ok) return fail({ code: 'findings', findings: read.fault });
    const { id, model, version, maker, name } = read.value;
    const kept = await repository.findOneBy({ id });
    if (kept) {
      if (kept.filesHash !== hash) return fail({ code: 'version-taken', id });
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

  /** Takes in every model of the catalogue folder; a model that is not right is named and left out. */
  async takeCatalogue(folder: string): Promise<void> {
    for (const name of readdirSync(folder).sort()) {
      const taken = await this.take(modelFilesIn(join(folder, name)));
      if (!taken.ok) this.logger.error(`${name}: ${describeImportFault(taken.fault)}`);
    }
  }
}

const columnsOf = ({ model, parameters, terminals }: ModelFiles) => ({
  modelFile: model,
  parametersFile: parameters,
  terminalsFile: terminals ?? null,
});

export function describeImportFault(fault: ImportFault): string {
  if (fault.code === 'version-taken')
    return `${fault.id} is kept with other content; give the change a new version.`;
  return fault.findings.map((each) => `${each.file}, line ${each.line}: ${describe(each)}`).join('\n');
}
