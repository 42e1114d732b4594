// A plant list comes in: first a preview that keeps nothing, then the same file again. The preview makes the very changes
// and takes them back, so that what it says is what happens.

import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { FindingView, PlantListPreview, PlantListRowView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { finding, tableFinding } from '@drive-keep/core/findings';
import { writeTable } from '@drive-keep/core/values';
import { WIRING_COLUMNS } from '@drive-keep/core/wiring';
import type { EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { writeSheets, type SheetToWrite } from '../file-content/spreadsheet.ts';
import { tableFrom, type UploadedFile } from '../file-content/uploaded-file.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { ProblemException } from '../problems/problem.ts';
import {
  contradictingColumns,
  missingColumns,
  PLANT_LIST_COLUMNS,
  readPlantList,
  strangeColumns,
  type PlantListRow,
} from './plant-list-rows.ts';
import { comparable, differing, RegisterChanges, type NewPosition } from './register-changes.service.ts';
import { Overview } from '../overview/overview.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';

const MOST_ROWS = 5000;
/** Of a list that left here: it says nothing of positions and units. */
const WIRING_SHEET = 'Wiring';

/** Thrown to take a preview back; never seen outside. */
class TakeBack extends Error {
  constructor(readonly rows: readonly PlantListRowView[]) {
    super('preview');
  }
}

@Injectable()
export class PlantLists {
  constructor(
    private readonly overview: Overview,
    private readonly changes: RegisterChanges,
    private readonly dictionaries: Dictionaries,
    private readonly wirings: Wirings,
    private readonly logbook: Logbook,
  ) {}

  async preview(file: UploadedFile, account: Account): Promise<PlantListPreview> {
    const { rows: read, notes } = await this.read(file);
    const rows = await this.changes
      .change(async (manager): Promise<readonly PlantListRowView[]> => {
        throw new TakeBack(await this.apply(manager, read, account));
      })
      .catch((error: unknown) => {
        if (error instanceof TakeBack) return error.rows;
        throw error;
      });
    const acceptable = rows.some(({ does }) => does === 'add' || does === 'change') && !rows.some(isStopped);
    return { fileName: file.originalname, hash: hashOf(file), notes, rows, acceptable };
  }

  async keep(file: UploadedFile, seenHash: string, account: Account): Promise<PlantListPreview> {
    if (hashOf(file) !== seenHash) {
      const detail = 'The file is not the one that was shown before. Look at it again. Nothing was changed.';
      throw new ProblemException(409, 'file-changed', detail);
    }
    const { rows: read, notes } = await this.read(file);
    const rows = await this.changes.change(async (manager) => {
      const done = await this.apply(manager, read, account);
      const stopped = done.filter(isStopped);
      if (stopped.length > 0) throw notAcceptable(stopped);
      const count = (does: PlantListRowView['does']) => done.filter((row) => row.does === does).length;
      const text = `Took in the plant list ${file.originalname}: ${count('add')} added, ${count('change')} changed.`;
      await this.logbook.write({ person: account.person, action: 'plant-list', text }, manager);
      return done;
    });
    return { fileName: file.originalname, hash: seenHash, notes, rows, acceptable: true };
  }

  /** The whole register in the same columns; a spreadsheet has the wirings on a sheet of their own. */
  async write(format: 'csv' | 'xlsx'): Promise<string | Uint8Array> {
    const positions = (await this.overview.positions()).filter(({ retiredAt }) => retiredAt === null);
    const rows = positions.map(({ unit, ...position }) => [
      position.tag,
      position.duty,
      position.area,
      position.machine,
      position.criticality,
      position.motor,
      unit.dictionary,
      unit.rating,
      unit.region,
      String(unit.serial),
      unit.firmware,
      unit.line?.name ?? '',
      unit.line ? String(unit.line.address) : '',
    ]);
    if (format === 'csv') return writeTable(PLANT_LIST_COLUMNS, rows);
    const columns = PLANT_LIST_COLUMNS.map((heading) => ({ heading, width: WIDTHS[heading] ?? 14 }));
    return writeSheets([
      { name: 'Plant list', columns, rows },
      await this.wiringSheet(rows.map(([tag]) => tag)),
    ]);
  }

  /** One conductor, link or device a row, with the position it belongs to. */
  private async wiringSheet(tags: readonly (string | undefined)[]): Promise<SheetToWrite> {
    const columns = ['tag', ...WIRING_COLUMNS].map((heading) => ({ heading, width: WIDTHS[heading] ?? 14 }));
    const kept = new Map((await this.wirings.everyNewest()).map((each) => [each.tag, each]));
    const rows = tags.flatMap((tag = '') => {
      const found = kept.get(tag);
      if (!found) return [];
      return found.rows?.map((cells) => [tag, ...cells]) ?? [[tag, 'The wiring that was kept is damaged.']];
    });
    return { name: WIRING_SHEET, columns, rows };
  }

  private async read(file: UploadedFile): Promise<{
    readonly rows: readonly PlantListRow[];
    readonly notes: readonly FindingView[];
  }> {
    const { table: read, notes } = await tableFrom(file, [WIRING_SHEET]);
    const refuse = (detail: string): never => {
      throw new ProblemException(422, 'plant-list', `${detail} Nothing was changed.`);
    };
    if (!read.ok) return refuse(findingLine(findingView(tableFinding(read.fault))));
    const table = read.value;
    const missing = missingColumns(table);
    if (missing.length > 0)
      refuse(
        `The list has no column ${missing.join(', ')}. A plant list has the columns ${PLANT_LIST_COLUMNS.join(', ')}.`,
      );
    const twice = contradictingColumns(table);
    if (twice.length > 0)
      refuse(`The columns ${twice.join(' and ')} are headed by words for the same. Take one of them out.`);
    if (table.rows.length === 0 || table.rows.length > MOST_ROWS)
      refuse(`The list has ${table.rows.length} rows; 1 to ${MOST_ROWS} can be taken in at once.`);
    const columns = strangeColumns(table);
    const unused = columns.length > 0 ? [finding('look', { line: 1 }, 'columns-not-used', { columns })] : [];
    const rows = readPlantList(table, await this.dictionaries.everyVersion());
    return { rows, notes: [...notes, ...unused].map(findingView) };
  }

  private async apply(
    manager: EntityManager,
    read: readonly PlantListRow[],
    account: Account,
  ): Promise<readonly PlantListRowView[]> {
    // A tag is the same whatever its case.
    const known = new Map((await this.overview.positions()).map((each) => [each.tag.toLowerCase(), each]));
    const models = await this.dictionaries.everyVersion();
    const rows: PlantListRowView[] = [];
    for (const { line, tag, duty, position: told, untold, findings } of read) {
      const base = { line, tag, duty };
      const stops = findings.map((text) => ({ attention: 'stop' as const, text }));
      if (!told) {
        rows.push({ ...base, does: 'stopped', changes: [], findings: stops });
        continue;
      }
      const before = known.get(tag.toLowerCase());
      const position = before ? { ...keeping(factsOf(before), told, untold), tag: before.tag } : told;
      const changes = before ? differing(comparable(factsOf(before)), comparable(position)) : [];
      const does = before ? (changes.length > 0 ? 'change' : 'nothing') : 'add';
      const regionless = before ? undefined : this.regionless(models, told);
      const refusal =
        regionless ??
        (await this.within(manager, () =>
          before
            ? this.changeBoth(manager, position, changes.length > 0, account)
            : this.changes.addWithin(manager, position, account),
        ));
      rows.push({
        ...base,
        does: refusal === undefined ? does : 'stopped',
        changes: changes.map(({ text }) => text),
        findings: refusal === undefined ? [] : [{ attention: 'stop', text: refusal }],
      });
    }
    return rows;
  }

  /** Which region it is decides about defaults and the frequency of the mains: it is never taken to be the first. */
  private regionless(models: readonly Dictionary[], { dictionary, region }: NewPosition): string | undefined {
    const model = models.find(({ id }) => id === dictionary);
    if (!model || region !== '') return undefined;
    const names = model.regions.map(({ id, name }) => `${id} (${name})`).join(' or ');
    return `The column region is empty. A ${model.name} is for ${names}: write one of them.`;
  }

  private async changeBoth(
    manager: EntityManager,
    { dictionary, rating, region, serial, firmware, line, lineAddress, ...place }: NewPosition,
    differs: boolean,
    account: Account,
  ): Promise<void> {
    if (!differs) return;
    await this.changes.changePositionWithin(manager, place.tag, place, account);
    const unit = { dictionary, rating, region, serial, firmware, line, lineAddress };
    await this.changes.changeUnitWithin(manager, place.tag, unit, account);
  }

  /** A row that is refused leaves the others as they are. */
  private async within(manager: EntityManager, work: () => Promise<void>): Promise<string | undefined> {
    await manager.query('savepoint plant_list_row');
    try {
      await work();
      await manager.query('release savepoint plant_list_row');
      return undefined;
    } catch (error) {
      await manager.query('rollback to savepoint plant_list_row');
      if (error instanceof ProblemException) return error.problem.detail.replace(/ Nothing was \w+\.$/, '');
      throw error;
    }
  }
}

/** What is told, with what the register has where nothing is. */
function keeping(
  before: NewPosition,
  told: NewPosition,
  untold: readonly (keyof NewPosition)[],
): NewPosition {
  return { ...told, ...Object.fromEntries(untold.map((name) => [name, before[name]])) };
}

const isStopped = ({ does }: PlantListRowView): boolean => does === 'stopped';

const hashOf = ({ buffer }: UploadedFile): string =>
  `sha256:${createHash('sha256').update(buffer).digest('hex')}`;

function factsOf({ unit, ...position }: Awaited<ReturnType<Overview['positions']>>[number]): NewPosition {
  return {
    area: position.area,
    machine: position.machine,
    tag: position.tag,
    duty: position.duty,
    criticality: position.criticality,
    motor: position.motor,
    dictionary: unit.dictionary,
    rating: unit.rating,
    region: unit.region,
    serial: unit.serial,
    firmware: unit.firmware,
    ...(unit.line ? { line: unit.line.name, lineAddress: unit.line.address } : {}),
  };
}

function notAcceptable(stopped: readonly PlantListRowView[]): ProblemException {
  const findings = stopped.map(({ line, findings: each }) => `Line ${line}: ${each[0]?.text ?? ''}`);
  const detail = `The list cannot be taken in: ${findings[0] ?? ''} Nothing was changed.`;
  return new ProblemException(422, 'plant-list', detail, findings.slice(0, 200));
}

const WIDTHS: Readonly<Record<string, number>> = {
  duty: 36,
  area: 20,
  machine: 20,
  motor: 48,
  model: 20,
  facts: 40,
  what: 30,
};
