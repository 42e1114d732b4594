// Sets leave as files: JSON by the published schema, CSV and XLSX for spreadsheets, DCF for other tools (CiA 306).

import { Injectable } from '@nestjs/common';
import { factsOf, type Dictionary, type Facts, type Outfit } from '@drive-keep/core/dictionary';
import {
  SET_CSV_COLUMNS,
  setRows,
  writeSetCsv,
  writeSetDcf,
  writeSetJson,
  type SetFileKind,
  type SetOrigin,
} from '@drive-keep/core/formats';
import { hashOf, type ParameterSet } from '@drive-keep/core/sets';
import { assertNever } from '@drive-keep/core/values';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { writeSheets } from '../file-content/spreadsheet.ts';

export interface WrittenFile {
  readonly name: string;
  readonly type: string;
  readonly content: string | Uint8Array;
}

@Injectable()
export class SetExport {
  constructor(
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly dictionaries: Dictionaries,
    private readonly logbook: Logbook,
  ) {}

  async write(backupId: string, format: SetFileKind, { person }: Account): Promise<WrittenFile> {
    const backup = await this.backups.get(backupId);
    const set = await this.contents.get(backup.contentHash);
    const dictionary = await this.dictionaries.get(set.dictionary);
    const { tag } = backup.position;
    const day = backup.takenAt.toISOString().slice(0, 16).replace(/[:T]/g, '-');
    const name = `${tag}_${day}.${format}`;
    await this.logbook.write({
      person,
      action: 'exported',
      tag,
      text: `Exported a backup as ${format.toUpperCase()}: ${name}.`,
    });
    const origin: SetOrigin = {
      position: tag,
      serial: String(backup.serial),
      firmware: backup.firmware,
      rating: backup.unit.rating,
      region: backup.unit.region,
      takenAt: backup.takenAt.toISOString(),
      takenBy: backup.takenBy,
      how: backup.how,
      reason: backup.reason,
      ...(backup.unit.lineAddress === null ? {} : { node: backup.unit.lineAddress }),
    };
    const facts = factsOf(dictionary, backup.unit) ?? {};
    return { name, type: TYPES[format], content: await writeAs(format, dictionary, set, origin, facts) };
  }

  /** A set that belongs to no backup. */
  async writeSet(
    set: ParameterSet,
    outfit: Outfit,
    origin: SetOrigin,
    format: SetFileKind,
    told: { readonly name: string; readonly what: string },
    { person }: Account,
  ): Promise<WrittenFile> {
    const dictionary = await this.dictionaries.get(set.dictionary);
    const name = `${told.name}.${format}`;
    const text = `Exported ${told.what} as ${format.toUpperCase()}: ${name}.`;
    await this.logbook.write({ person, action: 'exported', text });
    const facts = factsOf(dictionary, outfit) ?? {};
    return { name, type: TYPES[format], content: await writeAs(format, dictionary, set, origin, facts) };
  }
}

const TYPES: Readonly<Record<SetFileKind, string>> = {
  json: 'application/json; charset=utf-8',
  csv: 'text/csv; charset=utf-8',
  dcf: 'text/plain; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
};

async function writeAs(
  format: SetFileKind,
  dictionary: Dictionary,
  set: ParameterSet,
  origin: SetOrigin,
  facts: Facts,
): Promise<string | Uint8Array> {
  switch (format) {
    case 'csv':
      return writeSetCsv(dictionary, set);
    case 'json':
      return writeSetJson(dictionary, set, origin);
    case 'dcf':
      return writeSetDcf(dictionary, set, origin, facts);
    case 'xlsx':
      return writeSpreadsheet(dictionary, set, origin);
    default:
      return assertNever(format);
  }
}

/** The widths in characters that the columns of a set need. */
const WIDTHS: Readonly<Record<(typeof SET_CSV_COLUMNS)[number], number>> = {
  dictionary: 18,
  code: 10,
  name: 32,
  value: 14,
  unit: 8,
  text: 28,
  raw: 12,
  unreadable: 12,
};

/** Values are numbers with all their places; codes are text, as a spreadsheet program would make dates of them. */
const writeSpreadsheet = (
  dictionary: Dictionary,
  set: ParameterSet,
  origin: SetOrigin,
): Promise<Uint8Array> =>
  writeSheets([
    {
      name: 'Parameters',
      columns: SET_CSV_COLUMNS.map((heading) => ({
        ...{ heading, width: WIDTHS[heading] },
        numeric: heading === 'value' || heading === 'raw',
      })),
      rows: setRows(dictionary, set),
    },
    {
      name: 'About',
      columns: [
        { heading: 'what', width: 16 },
        { heading: 'is', width: 72 },
      ],
      rows: [...Object.entries(origin), ['dictionary', set.dictionary], ['hash', hashOf(set)]],
    },
  ]);
