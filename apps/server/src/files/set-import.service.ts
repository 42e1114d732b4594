// Sets come in as files: first a preview that keeps nothing, then the same file again with the hash that was seen.

import { Injectable } from '@nestjs/common';
import type { FindingView, ImportedFile, ImportPreview } from '@drive-keep/api';
import { factsOf, findParameter, isNoise, type Dictionary, type Outfit } from '@drive-keep/core/dictionary';
import {
  isPartial,
  kindOfText,
  readSet,
  readSetTable,
  type ReadSet,
  type SetFileKind,
} from '@drive-keep/core/formats';
import { carryOver } from '@drive-keep/core/plans';
import { finding, hasStop, tableFinding } from '@drive-keep/core/findings';
import { hashOf, type ParameterSet } from '@drive-keep/core/sets';
import { tableOf } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Axes } from '../sets/axes.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { SetParts } from '../sets/set-parts.service.ts';
import { sheetNamed } from '../file-content/spreadsheet.ts';
import { contentOf, sheetNotes, type UploadedFile } from '../file-content/uploaded-file.ts';
import { FilesAgainstKept } from './files-against-kept.service.ts';

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
    private readonly parts: SetParts,
    private readonly kept: FilesAgainstKept,
    private readonly logbook: Logbook,
  ) {}

  async preview(tag: string, file: UploadedFile, carry: boolean): Promise<ImportPreview> {
    const at = await this.register.unitAt(tag);
    const { dictionary, read, kind, carriesFrom } = await this.read(at, file, carry);
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
      acceptable: !hasStop(read.findings) && strange === undefined && read.set.readings.size > 0,
      partial: isPartial(dictionary, read.set.readings),
      carriesFrom,
      against: hasStop(read.findings) ? [] : await this.kept.of(at.position.id, dictionary, read.set),
      findings: [...ofWhole(strange, read, at), ...findings],
    };
  }

  /** The set of a file that may be kept, for whoever looks at it before; nothing where it may not. */
  async setIn(tag: string, file: UploadedFile, carry: boolean): Promise<ParameterSet | undefined> {
    const { read } = await this.read(await this.register.unitAt(tag), file, carry);
    return hasStop(read.findings) || read.set.readings.size === 0 ? undefined : read.set;
  }

  /** As a backup, or as a part of a set where the file tells no more than that. */
  async keep(
    tag: string,
    file: UploadedFile,
    { hash: seenHash, carry }: { readonly hash: string; readonly carry: boolean },
    { person }: Account,
  ): Promise<ImportedFile> {
    const at = await this.register.unitAt(tag);
    const { dictionary, read } = await this.read(at, file, carry);
    const hash = hashOf(read.set);
    if (hasStop(read.findings)) throw notAcceptable(read);
    if (read.set.readings.size === 0)
      throw new ProblemException(422, 'file-not-acceptable', 'The file holds no value. Nothing was kept.');
    const strange = await this.axes.strangeness(at.position, dictionary, read.set, read.serial);
    if (strange !== undefined) throw new ProblemException(422, 'other-axis', `${strange} Nothing was kept.`);
    if (hash !== seenHash) {
      const detail = 'The file is not the one that was shown before. Look at it again. Nothing was kept.';
      throw new ProblemException(409, 'file-changed', detail);
    }
    if (isPartial(dictionary, read.set.readings)) return this.keepPart(at, file, read.set, person);
    const same = await this.backups.newestWith(at.position.id, hash);
    return this.dataSource.transaction(async (manager) => {
      const { position, unit } = at;
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
      return { backupId: backup.id, partId: null, hash, sameAs: same?.takenAt.toISOString() ?? null };
    });
  }

  private keepPart(
    { position }: PositionWithUnit,
    { originalname: fileName }: UploadedFile,
    set: ParameterSet,
    person: string,
  ): Promise<ImportedFile> {
    return this.dataSource.transaction(async (manager) => {
      const partId = await this.parts.keep(manager, { position, set, fileName, broughtBy: person });
      const text = `Took in ${set.readings.size} values from ${fileName}: a part of a set, and no backup.`;
      const facts = { part: partId };
      await this.logbook.write({ person, action: 'imported', tag: position.tag, text, facts }, manager);
      return { backupId: null, partId, hash: hashOf(set), sameAs: null };
    });
  }

  private async read({ unit }: PositionWithUnit, file: UploadedFile, carry: boolean): Promise<ReadFile> {
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    const found = await this.readFor(dictionary, unit, file);
    const other = found.read.findings.find(({ code }) => code === 'other-dictionary');
    const id = other?.code === 'other-dictionary' ? other.facts.found : undefined;
    const from = (await this.dictionaries.everyVersion()).find((each) => each.id === id);
    if (!from || from.model !== dictionary.model) return found;
    return carry ? this.carried(dictionary, from, unit, file) : { ...found, carriesFrom: from.id };
  }

  /** A file of another version of the same model, by the values that both have. */
  private async carried(
    dictionary: Dictionary,
    from: Dictionary,
    outfit: Outfit,
    file: UploadedFile,
  ): Promise<ReadFile> {
    const { read, kind } = await this.readFor(from, outfit, file);
    const { readings, homeless } = carryOver(from, dictionary, read.set);
    const lost =
      homeless.length > 0
        ? [finding('look', {}, 'carried-without', { codes: homeless, to: dictionary.id })]
        : [];
    const findings = [finding('look', {}, 'carried-over', { from: from.id, to: dictionary.id }), ...lost];
    const set = { dictionary: dictionary.id, readings };
    return {
      ...{ dictionary, kind, carriesFrom: from.id },
      read: { ...read, set, findings: [...findings, ...read.findings] },
    };
  }

  /** A file as a set of a model, whether or not such a drive stands anywhere; nothing is kept. */
  async readFor(dictionary: Dictionary, outfit: Outfit, file: UploadedFile): Promise<ReadFile> {
    const facts = factsOf(dictionary, outfit) ?? {};
    const content = await contentOf(file);
    const base = { dictionary, carriesFrom: null };
    if (content.kind === 'sheets') {
      const sheet = sheetNamed(content.sheets);
      const notes = sheet ? sheetNotes(content.sheets, sheet, ['About']) : [];
      const table = sheet ? tableOf(sheet) : undefined;
      const read: ReadSet = table?.ok
        ? readSetTable(table.value, dictionary, facts)
        : {
            set: { dictionary: dictionary.id, readings: new Map() },
            findings: [tableFinding(table?.fault ?? { code: 'table-empty' })],
            serial: null,
          };
      return { ...base, kind: 'xlsx', read: { ...read, findings: [...notes, ...read.findings] } };
    }
    const kind = kindOfText(content.text);
    return { ...base, kind, read: readSet(kind, content.text, dictionary, facts) };
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
  /** The version of the model that the file is of, where it is another one that can be carried over. */
  readonly carriesFrom: string | null;
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
