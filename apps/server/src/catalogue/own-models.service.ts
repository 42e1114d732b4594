// Models that a plant brings itself: a maker's list as CSV, XLSX or JSON, or an EDS. First a preview that keeps nothing,
// then the same file again; what comes in goes through the same importer as a shipped model.

import { Injectable } from '@nestjs/common';
import type { ListFindingView, OwnModelPreview, OwnParameterView } from '@drive-keep/api';
import {
  gridOf,
  headingsByColumn,
  isCatalogueTable,
  kindOfText,
  makeOwnModel,
  modelSlug,
  readEds,
  understandList,
  type ColumnUse,
  type DecimalMark,
  type ListParameter,
  type OwnModel,
  type UnderstoodList,
} from '@drive-keep/core/formats';
import type { Access, DeviceNumbers, ModelFiles } from '@drive-keep/core/dictionary';
import { finding, hasStop, tableFinding, type Finding } from '@drive-keep/core/findings';
import { readGrid, tableFromJson, tableOf, type Grid, type Table } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { sheetNamed, type Sheet } from '../file-content/spreadsheet.ts';
import { contentOf, sheetNotes, type UploadedFile } from '../file-content/uploaded-file.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { ProblemException } from '../problems/problem.ts';
import { StoredDictionary } from './dictionary.entity.ts';
import { describeImportFault, ModelImport } from './model-import.ts';

/** What the person says about a file; what is missing is guessed or taken from the file. */
export interface OwnModelWish {
  readonly maker?: string;
  readonly name?: string;
  readonly about?: string;
  readonly firmwareFrom?: string;
  readonly firmwareTo?: string;
  readonly sheet?: string;
  readonly headLine?: number;
  readonly assignment?: Readonly<Record<string, ColumnUse>>;
  readonly decimalMark?: DecimalMark;
  /** Lines that are no parameters. */
  readonly leftOut?: readonly number[];
  /** Cells in other words: line, heading, text. */
  readonly mended?: readonly (readonly [line: number, heading: string, text: string])[];
  /** What a word of the access means. */
  readonly access?: readonly (readonly [text: string, access: Access])[];
}

/** Findings told at the most; how many there are more is said. */
const MOST_FINDINGS = 300;
const SAMPLE_ROWS = 5;
const FIRST_LINES = 40;
const MOST_PARAMETERS = 5000;

interface TakenFile {
  readonly kind: OwnModelPreview['kind'];
  readonly sheets: readonly Sheet[];
  readonly sheet: Sheet | null;
  readonly grid: Grid;
  readonly list: UnderstoodList | null;
  readonly columns: readonly string[];
  readonly parameters: readonly ListParameter[];
  readonly findings: readonly Finding[];
  readonly maker: string;
  readonly name: string;
  readonly about: string;
  readonly device?: DeviceNumbers;
}

@Injectable()
export class OwnModels {
  constructor(
    private readonly dataSource: DataSource,
    private readonly models: ModelImport,
    private readonly logbook: Logbook,
  ) {}

  async preview(file: UploadedFile, wish: OwnModelWish): Promise<OwnModelPreview> {
    return (await this.understand(file, wish)).preview;
  }

  async keep(file: UploadedFile, wish: OwnModelWish, { person }: Account): Promise<{ id: string }> {
    const { preview, model } = await this.understand(file, wish);
    if (!preview.acceptable) {
      const findings = preview.findings.filter(({ attention }) => attention === 'stop').map(findingLine);
      const detail = `The model cannot be taken in: ${findings[0] ?? 'it has no parameters.'} Nothing was kept.`;
      throw new ProblemException(422, 'model-not-acceptable', detail, findings);
    }
    const taken = await this.models.take(model.files, person);
    if (!taken.ok) throw new ProblemException(409, 'model-not-kept', describeImportFault(taken.fault));
    const text = `Brought the model ${preview.maker} ${preview.name} with ${preview.rows} parameters from ${file.originalname}.`;
    await this.logbook.write({ person, action: 'model-imported', text, facts: { dictionary: taken.value } });
    return { id: taken.value };
  }

  /** The files that a list or an EDS becomes, right or not yet. */
  async filesFrom(file: UploadedFile, wish: OwnModelWish): Promise<ModelFiles> {
    const { preview, model } = await this.understand(file, wish);
    if (preview.rows > 0) return model.files;
    const detail = preview.findings[0]?.text ?? 'The file holds no parameters.';
    throw new ProblemException(422, 'model-not-acceptable', `${detail} Nothing was kept.`);
  }

  private async understand(
    file: UploadedFile,
    wish: OwnModelWish,
  ): Promise<{ preview: OwnModelPreview; model: OwnModel }> {
    const taken = await this.take(file, wish);
    const maker = wish.maker?.trim() || taken.maker;
    const name = wish.name?.trim() || taken.name;
    const about = wish.about?.trim() || taken.about;
    const firmwareFrom = wish.firmwareFrom?.trim() || '0.00';
    const firmwareTo = wish.firmwareTo?.trim() || '99.99';
    const slug = modelSlug(maker, name);
    const version = await this.nextVersion(slug);
    const facts = { maker, name, about, firmwareFrom, firmwareTo, version };
    const { device } = taken;
    const { parameters, list, grid } = taken;
    const headings = headingsByColumn(list?.assignment ?? new Map());
    const model = makeOwnModel(
      { ...facts, ...(device && { device }) },
      parameters.filter(({ stopped }) => !stopped),
      headings,
    );
    const names = nameFindings(maker, name);
    // Without a name the facts of the model have faults that say the same once more.
    const own = names.length > 0 ? model.findings.filter(({ column }) => column !== '') : model.findings;
    const findings = [...names, ...taken.findings, ...own];
    const told = inOrder(findings).slice(0, MOST_FINDINGS);
    return {
      model,
      preview: {
        fileName: file.originalname,
        kind: taken.kind,
        sheets: taken.sheets.map((each) => ({
          name: each.name,
          hidden: each.hidden,
          rows: each.rows.length,
        })),
        sheet: taken.sheet?.name ?? null,
        headLine: list?.table.headLine ?? 1,
        firstLines: grid.rows.slice(0, FIRST_LINES).map(({ line, cells }) => ({
          line,
          text: cells
            .filter((cell) => cell !== '')
            .join(' · ')
            .slice(0, 120),
        })),
        columns: taken.columns,
        sample: (list?.table.rows ?? [])
          .slice(0, SAMPLE_ROWS)
          .map(({ cells }) => taken.columns.map((column) => cells[column] ?? '')),
        assignment: Object.fromEntries(list?.assignment ?? []),
        decimalMark: list?.mark ?? 'point',
        accessAsked: [...(list?.accessAsked ?? [])].map(([text, rows]) => ({ text, rows })),
        ...facts,
        dictionary: `${slug}@${version}`,
        rows: parameters.length,
        parameters: parameters.map(parameterView),
        findings: told.map((each) => ({ ...findingView(each), cell: cellOf(list, each) })),
        moreFindings: findings.length - told.length,
        acceptable: !hasStop(findings) && parameters.length > 0,
      },
    };
  }

  private async take(file: UploadedFile, wish: OwnModelWish): Promise<TakenFile> {
    const content = await contentOf(file);
    if (content.kind === 'sheets') {
      const sheet = sheetNamed(content.sheets, wish.sheet);
      if (!sheet) return { ...EMPTY, findings: [tableFinding({ code: 'table-empty' })] };
      const taken = this.takeGrid(sheet, wish);
      const others = sheetNotes(content.sheets, sheet).filter(({ code }) => code === 'sheets-not-read');
      return { ...taken, sheets: content.sheets, sheet, findings: [...others, ...taken.findings] };
    }
    const kind = kindOfText(content.text);
    if (kind === 'dcf') return takeEds(content.text);
    if (kind === 'json') {
      const table = tableFromJson(content.text);
      if (table.ok) return this.takeGrid(gridOf(table.value), { ...wish, headLine: 0 });
      const { fault } = table;
      const broken = fault.code === 'table-broken';
      return {
        ...EMPTY,
        findings: [broken ? finding('stop', { line: fault.line }, 'list-broken', {}) : tableFinding(fault)],
      };
    }
    const grid = readGrid(content.text);
    return grid.ok ? this.takeGrid(grid.value, wish) : { ...EMPTY, findings: [tableFinding(grid.fault)] };
  }

  private takeGrid(grid: Grid, wish: OwnModelWish): TakenFile {
    if (grid.rows.length > MOST_PARAMETERS + FIRST_LINES) {
      const facts = { rows: grid.rows.length, most: MOST_PARAMETERS };
      return { ...EMPTY, findings: [finding('stop', { line: 1 }, 'list-too-long', facts)] };
    }
    const [head] = grid.rows;
    if (head && isCatalogueTable({ columns: head.cells.map((cell) => cell.toLowerCase()) })) {
      const table = tableOf(grid);
      return table.ok ? catalogueTable(table.value) : { ...EMPTY, findings: [tableFinding(table.fault)] };
    }
    const { headLine, decimalMark, leftOut, mended, access, assignment } = wish;
    const list = understandList(grid, {
      ...(headLine === undefined ? {} : { headLine }),
      ...(decimalMark === undefined ? {} : { mark: decimalMark }),
      ...(assignment === undefined ? {} : { assignment: new Map(Object.entries(assignment)) }),
      leftOut: new Set(leftOut),
      mended: mendedCells(mended ?? []),
      access: new Map(access),
    });
    const { parameters, findings } = list;
    return { ...EMPTY, grid, list, columns: list.table.columns, parameters, findings };
  }

  private async nextVersion(model: string): Promise<number> {
    const newest = await this.dataSource
      .getRepository(StoredDictionary)
      .findOne({ where: { model }, order: { version: 'DESC' } });
    return (newest?.version ?? 0) + 1;
  }
}

const EMPTY: TakenFile = {
  kind: 'table',
  ...{ sheets: [], sheet: null, grid: { rows: [], hiddenColumns: [] }, list: null, columns: [] },
  ...{ parameters: [], findings: [], maker: '', name: '', about: '' },
};

const catalogueTable = ({ columns, rows }: Table): TakenFile => ({
  ...EMPTY,
  ...{ kind: 'catalogue-table', columns },
  parameters: rows.map(({ line, cells }) => ({ line, cells, stopped: false })),
});

function takeEds(text: string): TakenFile {
  const { vendor, product, description, device, parameters, findings } = readEds(text);
  return {
    ...{ ...EMPTY, kind: 'eds', findings, maker: vendor, name: product, about: description, device },
    parameters: parameters.map((each) => ({ ...each, stopped: false })),
  };
}

function mendedCells(
  cells: readonly (readonly [line: number, heading: string, text: string])[],
): ReadonlyMap<number, ReadonlyMap<string, string>> {
  const lines = new Map<number, Map<string, string>>();
  for (const [line, heading, text] of cells)
    lines.set(line, new Map([...(lines.get(line) ?? []), [heading, text]]));
  return lines;
}

/** What stops first, each in the order of the file; what holds for the whole before what holds for a line. */
const inOrder = (findings: readonly Finding[]): readonly Finding[] =>
  [...findings].sort(
    (a, b) =>
      Number(b.attention === 'stop') - Number(a.attention === 'stop') || (a.line ?? 0) - (b.line ?? 0),
  );

function cellOf(list: UnderstoodList | null, { line, column }: Finding): ListFindingView['cell'] {
  const row = list?.table.rows.find((each) => each.line === line);
  return row && list?.table.columns.includes(String(column)) ? (row.cells[String(column)] ?? '') : null;
}

function nameFindings(maker: string, name: string): Finding[] {
  const missing = [...(maker === '' ? ['the maker'] : []), ...(name === '' ? ['the name of the model'] : [])];
  if (missing.length > 0) return [finding('stop', { line: 1 }, 'model-not-named', { missing })];
  if (modelSlug(maker, name) !== '') return [];
  return [finding('stop', { line: 1 }, 'name-without-letter', {})];
}

function parameterView({ line, cells, stopped }: ListParameter): OwnParameterView {
  const { code = '', name = '', menu = '', unit = '', options = '', access = '' } = cells;
  const { minimum = '', maximum = '', default: usual = '' } = cells;
  const range = minimum === '' && maximum === '' ? '' : `${minimum} to ${maximum}`;
  return { line, code, name, menu, range, default: usual, unit, options, access, stopped };
}
