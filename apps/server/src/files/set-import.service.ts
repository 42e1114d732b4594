// Sets come in as files: first a preview that keeps nothing, then the same file again with the hash that was seen.

import { Injectable } from '@nestjs/common';
import type { FindingView, ImportedBackup, ImportPreview } from '@drive-keep/api';
import { factsOf, findParameter, isNoise, type Dictionary, type Outfit } from '@drive-keep/core/dictionary';
import { kindOfText, readSet, readSetTable, type ReadSet, type SetFileKind } from '@drive-keep/core/formats';
import { finding, hasStop } from '@drive-keep/core/findings';
import { hashOf } from '@drive-keep/core/sets';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Axes } from '../sets/axes.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { contentOf, type UploadedFile } from '../file-content/uploaded-file.ts';

/** Findings told at the most: whoever has more has the wrong file. */
export const MOST_FINDINGS = 200;

@Injectable()
export class SetImport {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly backups: Backups,
    private readonly axes: Axes,
    private readonly logbook: Logbook,
  ) {}

  async preview(tag: string, file: UploadedFile): Promise<ImportPreview> {
    const at = await this.register.unitAt(tag);
    const { dictionary, read, kind } = await this.read(at, file);
    const hash = hashOf(read.set);
    const same = await this.backups.newestWith(at.position.id, hash);
    const strange = await this.axes.strangeness(at.position, dictionary, read.set, read.serial);
    const findings = read.findings.slice(0, MOST_FINDINGS).map(findingView);
    return {
      fileName: file.originalname,
      kind,
      dictionary: dictionary.id,
      model: `${dictionary.maker} ${dictionary.name}`,
      likelyModels: await this.likelyModels(read, dictionary),
      parameters: read.set.readings.size,
      expected: dictionary.parameters.filter((parameter) => !isNoise(parameter)).length,
      hash,
      sameAs: same?.takenAt.toISOString() ?? null,
      acceptable: !hasStop(read.findings) && strange === undefined,
      findings: [...ofWhole(strange, read, at), ...findings],
    };
  }

  async keep(
    tag: string,
    file: UploadedFile,
    seenHash: string,
    { person }: Account,
  ): Promise<ImportedBackup> {
    const at = await this.register.unitAt(tag);
    const { dictionary, read } = await this.read(at, file);
    const hash = hashOf(read.set);
    if (hasStop(read.findings)) throw notAcceptable(read);
    const strange = await this.axes.strangeness(at.position, dictionary, read.set, read.serial);
    if (strange !== undefined) throw new ProblemException(422, 'other-axis', `${strange} Nothing was kept.`);
    if (hash !== seenHash) {
      const detail = 'The file is not the one that was shown before. Look at it again. Nothing was kept.';
      throw new ProblemException(409, 'file-changed', detail);
    }
    const same = await this.backups.newestWith(at.position.id, hash);
    const { position, unit } = at;
    return this.dataSource.transaction(async (manager) => {
      const { serial, firmware } = unit;
      const reason = `Imported from ${file.originalname}`;
      const aside = new Map();
      const how = 'imported' as const;
      const backup = await this.backups.keep(
        { position, unit, set: read.set, aside, takenBy: person, how, reason, serial, firmware },
        manager,
      );
      const text = `Imported ${read.set.readings.size} parameters from ${file.originalname}.`;
      await this.logbook.write(
        { person, action: 'imported', tag, text, facts: { backup: backup.id } },
        manager,
      );
      return { backupId: backup.id, hash, sameAs: same?.takenAt.toISOString() ?? null };
    });
  }

  private async read({ unit }: PositionWithUnit, file: UploadedFile): Promise<ReadFile> {
    return this.readFor(await this.dictionaries.get(unit.dictionaryId), unit, file);
  }

  /** A file as a set of a model, whether or not such a drive stands anywhere; nothing is kept. */
  async readFor(dictionary: Dictionary, outfit: Outfit, file: UploadedFile): Promise<ReadFile> {
    const facts = factsOf(dictionary, outfit) ?? {};
    const content = await contentOf(file);
    if (content.kind === 'sheet') {
      return { dictionary, kind: 'xlsx', read: readSetTable(content.table, dictionary, facts) };
    }
    const kind = kindOfText(content.text);
    return { dictionary, kind, read: readSet(kind, content.text, dictionary, facts) };
  }

  /** Other models that have the codes which this position's model does not know. */
  private async likelyModels(read: ReadSet, own: Dictionary): Promise<readonly string[]> {
    const unknown = read.findings.flatMap((found) =>
      found.code === 'not-of-the-model' ? [found.facts.text] : [],
    );
    if (unknown.length === 0) return [];
    const all = await this.dictionaries.newest();
    return all
      .filter((other) => other.id !== own.id)
      .map((other) => ({ other, known: unknown.filter((code) => findParameter(other, code)).length }))
      .filter(({ known }) => known * 2 > unknown.length)
      .sort((a, b) => b.known - a.known)
      .map(({ other }) => `${other.maker} ${other.name}`);
  }
}

export interface ReadFile {
  readonly dictionary: Dictionary;
  readonly kind: SetFileKind;
  readonly read: ReadSet;
}

/** What is to be said of the file as a whole: whose set it is. */
function ofWhole(
  strange: string | undefined,
  { serial }: ReadSet,
  { unit }: PositionWithUnit,
): FindingView[] {
  if (strange !== undefined) return [{ line: null, column: '', attention: 'stop', text: strange }];
  if (serial === null || serial === unit.serial) return [];
  return [findingView(finding('look', {}, 'other-unit', { found: serial, wanted: unit.serial }))];
}

function notAcceptable(read: ReadSet): ProblemException {
  const stopping = read.findings.filter(({ attention }) => attention === 'stop').slice(0, MOST_FINDINGS);
  const findings = stopping.map((found) => findingLine(findingView(found)));
  const detail = `The file cannot be taken in: ${findings[0] ?? ''} Nothing was kept.`;
  return new ProblemException(422, 'file-not-acceptable', detail, findings);
}
