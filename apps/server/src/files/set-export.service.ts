// Sets leave as files: JSON by the published schema, CSV for spreadsheets.

import { Injectable } from '@nestjs/common';
import { writeSetCsv, writeSetJson } from '@drive-keep/core/formats';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';

export interface WrittenFile {
  readonly name: string;
  readonly type: string;
  readonly text: string;
}

@Injectable()
export class SetExport {
  constructor(
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly dictionaries: Dictionaries,
    private readonly logbook: Logbook,
  ) {}

  async write(backupId: string, format: 'json' | 'csv', { person }: Account): Promise<WrittenFile> {
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
    if (format === 'csv')
      return { name, type: 'text/csv; charset=utf-8', text: writeSetCsv(dictionary, set) };
    const text = writeSetJson(dictionary, set, {
      position: tag,
      serial: String(backup.serial),
      firmware: backup.firmware,
      rating: backup.unit.rating,
      region: backup.unit.region,
      takenAt: backup.takenAt.toISOString(),
      takenBy: backup.takenBy,
      how: backup.how,
      reason: backup.reason,
    });
    return { name, type: 'application/json; charset=utf-8', text };
  }
}
