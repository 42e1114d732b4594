// Models that a plant brings itself: a maker's list as CSV, XLSX or JSON, or an EDS. First a preview that keeps nothing,
// then the same file again; what comes in goes through the same importer as a shipped model.

import { Injectable } from '@nestjs/common';
import type { OwnModelPreview, OwnParameterView } from '@drive-keep/api';
import {
  guessColumns,
  guessDecimalMark,
  headingsByColumn,
  isCatalogueTable,
  kindOfText,
  makeOwnModel,
  modelSlug,
  readEds,
  takeApart,
  type ColumnAssignment,
  type DecimalMark,
  type OwnModel,
  type OwnParameter,
} from '@drive-keep/core/formats';
import type { ModelFiles } from '@drive-keep/core/dictionary';
import { finding, hasStop, type Finding } from '@drive-keep/core/findings';
import { readTable, tableFromJson, type Table } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { contentOf, type UploadedFile } from '../file-content/uploaded-file.ts';
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
  readonly assignment?: ColumnAssignment;
  readonly decimalMark?: DecimalMark;
}

const MOST_FINDINGS = 200;
const SAMPLE_ROWS = 5;
const MOST_SHOWN = 40;
const MOST_PARAMETERS = 5000;

interface TakenFile {
  readonly kind: OwnModelPreview['kind'];
  readonly table: Table;
  readonly assignment: ColumnAssignment;
  readonly decimalMark: DecimalMark;
  readonly parameters: readonly OwnParameter[];
  readonly findings: readonly Finding[];
  readonly maker: string;
  readonly name: string;
  readonly about: string;
}

const NO_TABLE: Table = { columns: [], rows: [] };

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
    const model = makeOwnModel(facts, taken.parameters, headingsByColumn(taken.assignment));
    const findings = [...nameFindings(maker, name), ...taken.findings, ...model.findings];
    return {
      model,
      preview: {
        fileName: file.originalname,
        kind: taken.kind,
        columns: taken.table.columns,
        sample: taken.table.rows
          .slice(0, SAMPLE_ROWS)
          .map(({ cells }) => taken.table.columns.map((column) => cells[column] ?? '')),
        assignment: taken.assignment,
        decimalMark: taken.decimalMark,
        ...facts,
        dictionary: `${slug}@${version}`,
        rows: taken.parameters.length,
        parameters: taken.parameters.slice(0, MOST_SHOWN).map(parameterView),
        findings: findings.slice(0, MOST_FINDINGS).map(findingView),
        acceptable: !hasStop(findings) && taken.parameters.length > 0,
      },
    };
  }

  private async take(file: UploadedFile, wish: OwnModelWish): Promise<TakenFile> {
    const content = await contentOf(file);
    if (content.kind === 'sheet') return this.takeTable(content.table, wish);
    const kind = kindOfText(content.text);
    if (kind === 'dcf') return takeEds(content.text);
    const table = kind === 'json' ? tableFromJson(content.text) : readTable(content.text);
    if (!table.ok) {
      const { fault } = table;
      const line = 'line' in fault ? fault.line : 1;
      const found =
        fault.code === 'table-surplus'
          ? finding('stop', { line }, 'table-surplus', { text: fault.text })
          : finding('stop', { line }, 'list-broken', {});
      return { ...EMPTY, findings: [found] };
    }
    return this.takeTable(table.value, wish);
  }

  private takeTable(table: Table, wish: OwnModelWish): TakenFile {
    const decimalMark = wish.decimalMark ?? guessDecimalMark(table);
    if (table.rows.length > MOST_PARAMETERS) {
      const facts = { rows: table.rows.length, most: MOST_PARAMETERS };
      return { ...EMPTY, findings: [finding('stop', { line: 1 }, 'list-too-long', facts)] };
    }
    if (isCatalogueTable(table)) {
      const parameters = table.rows.map(({ line, cells }) => ({ line, cells }));
      return { ...EMPTY, kind: 'catalogue-table', table, parameters };
    }
    const assignment = wish.assignment ?? guessColumns(table);
    return { ...EMPTY, table, assignment, decimalMark, ...takeApart(table, assignment, decimalMark) };
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
  table: NO_TABLE,
  assignment: {},
  decimalMark: 'point',
  parameters: [],
  findings: [],
  maker: '',
  name: '',
  about: '',
};

function takeEds(text: string): TakenFile {
  const { vendor, product, description, parameters, findings } = readEds(text);
  return {
    ...EMPTY,
    kind: 'eds',
    parameters,
    findings,
    maker: vendor,
    name: product,
    about: description,
  };
}

function nameFindings(maker: string, name: string): Finding[] {
  const missing = [...(maker === '' ? ['the maker'] : []), ...(name === '' ? ['the name of the model'] : [])];
  if (missing.length > 0) return [finding('stop', { line: 1 }, 'model-not-named', { missing })];
  if (modelSlug(maker, name) !== '') return [];
  return [finding('stop', { line: 1 }, 'name-without-letter', {})];
}

function parameterView({ line, cells }: OwnParameter): OwnParameterView {
  const { code = '', name = '', unit = '', minimum = '', maximum = '', options = '', access = '' } = cells;
  const range = minimum === '' && maximum === '' ? '' : `${minimum} to ${maximum}`;
  return { line, code, name, range, default: cells.default ?? '', unit, options, access };
}
