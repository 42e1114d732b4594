// Tables of settings that machine makers give: looked at before they are kept, kept whole with their revisions.

import { Injectable } from '@nestjs/common';
import type { SettingTablePreview, SettingTableView } from '@drive-keep/api';
import { hasStop, tableFinding, type Finding } from '@drive-keep/core/findings';
import { readSettingTable } from '@drive-keep/core/tables';
import { writeTable, type Table } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { tableFrom, type UploadedFile } from '../file-content/uploaded-file.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { ProblemException } from '../problems/problem.ts';
import { Dictionaries } from './dictionaries.service.ts';
import { StoredSettingTable } from './setting-table.entity.ts';

const MOST_TOLD = 5;

@Injectable()
export class SettingTables {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly logbook: Logbook,
  ) {}

  /** The newest revision of each name. */
  async all(): Promise<readonly SettingTableView[]> {
    const rows: StoredSettingTable[] = await this.dataSource
      .getRepository(StoredSettingTable)
      .createQueryBuilder('t')
      .distinctOn(['t.name'])
      .orderBy('t.name')
      .addOrderBy('t.revision', 'DESC')
      .getMany();
    return rows.map(({ id, name, revision, dictionaryId: dictionary, content, savedBy, savedAt, why }) => ({
      ...{ id, name, revision, dictionary, content, savedBy, why },
      savedAt: savedAt.toISOString(),
    }));
  }

  /** How a file is understood; nothing is kept. */
  async read(dictionaryId: string, file: UploadedFile): Promise<SettingTablePreview> {
    const { table, findings } = await this.understood(dictionaryId, file);
    return {
      columns: table?.columns ?? [],
      rows: (table?.rows ?? []).map(({ cells }) => table?.columns.map((column) => cells[column] ?? '') ?? []),
      findings: findings.map(findingView),
    };
  }

  /** As a further revision where one of that name is kept already. */
  async keep(
    { name, dictionary, why }: { name: string; dictionary: string; why: string },
    file: UploadedFile,
    { person }: Account,
  ): Promise<readonly SettingTableView[]> {
    const { table, findings } = await this.understood(dictionary, file);
    if (!table || hasStop(findings)) {
      const told = findings.slice(0, MOST_TOLD).map((each) => findingLine(findingView(each)));
      const more = findings.length > MOST_TOLD ? ` And ${findings.length - MOST_TOLD} more.` : '';
      throw new ProblemException(422, 'setting-table', `${told.join(' ')}${more} Nothing was kept.`);
    }
    const content = writeTable(
      table.columns,
      table.rows.map(({ cells }) => table.columns.map((column) => cells[column] ?? '')),
    );
    await this.dataSource.transaction(async (manager) => {
      await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`setting table ${name}`]);
      const last = (await manager.maximum(StoredSettingTable, 'revision', { name })) ?? 0;
      await manager.insert(StoredSettingTable, {
        ...{ name, revision: last + 1, dictionaryId: dictionary, content, savedBy: person, why },
      });
      const text = `Kept revision ${last + 1} of the setting table "${name}" with ${table.rows.length} rows: ${why}.`;
      await this.logbook.write({ person, action: 'setting-table-kept', text }, manager);
    });
    return this.all();
  }

  private async understood(
    dictionaryId: string,
    file: UploadedFile,
  ): Promise<{ readonly table: Table | undefined; readonly findings: readonly Finding[] }> {
    const dictionary = await this.dictionaries.get(dictionaryId);
    const { table, notes } = await tableFrom(file);
    if (!table.ok) return { table: undefined, findings: [tableFinding(table.fault)] };
    const read = readSettingTable(table.value, dictionary);
    return { table: table.value, findings: [...notes, ...(read.ok ? [] : read.fault)] };
  }
}
