// Everything that was kept is hashed again and compared with its name. What is damaged is named, with what it can be
// restored from; it is never shown as good (the content store refuses it) and never changed here.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { IntegrityReport } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { Logbook } from '../logbook/logbook.service.ts';
import { keptSet } from '../sets/content-store.service.ts';
import { SetContent } from '../sets/set-content.entity.ts';

const AT_ONCE = 500;
const DAY_MS = 86_400_000;

@Injectable()
export class Integrity implements OnApplicationShutdown {
  private readonly logger = new Logger('Integrity');
  private timer: NodeJS.Timeout | undefined;
  private last: IntegrityReport | undefined;

  constructor(
    private readonly dataSource: DataSource,
    private readonly logbook: Logbook,
  ) {}

  /** Once a day while the server runs. */
  watch(): void {
    this.timer = setInterval(() => {
      this.check('Nightly check').catch((error: unknown) => this.logger.error(String(error)));
    }, DAY_MS);
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  /** The last report of this server process, if it has made one. */
  get report(): IntegrityReport | null {
    return this.last ?? null;
  }

  async check(person: string): Promise<IntegrityReport> {
    const damaged: { hash: string; dictionary: string }[] = [];
    let checked = 0;
    for (let after = ''; ;) {
      const rows = await this.dataSource
        .getRepository(SetContent)
        .createQueryBuilder('content')
        .where('content.hash > :after', { after })
        .orderBy('content.hash')
        .take(AT_ONCE)
        .getMany();
      for (const row of rows) {
        if (!keptSet(row)) damaged.push({ hash: row.hash, dictionary: row.dictionaryId });
      }
      checked += rows.length;
      const last = rows.at(-1);
      if (!last || rows.length < AT_ONCE) break;
      after = last.hash;
    }
    const found = await Promise.all(damaged.map((each) => this.describe(each)));
    this.last = { at: new Date().toISOString(), checked, damaged: found };
    const text =
      found.length === 0
        ? `Checked ${checked} kept contents: all are as they were kept.`
        : `Checked ${checked} kept contents: ${found.length} damaged (${found.map(({ hash }) => hash.slice(0, 19)).join(', ')}).`;
    await this.logbook.write({ person, action: 'integrity-checked', text, facts: { damaged: found } });
    return this.last;
  }

  private async describe({
    hash,
    dictionary,
  }: {
    hash: string;
    dictionary: string;
  }): Promise<IntegrityReport['damaged'][number]> {
    const rows: { tag: string; what: string }[] = await this.dataSource.query(
      `select p.tag, count(*) || case count(*) when 1 then ' backup' else ' backups' end
                     || ', the last of ' || to_char(max(look.at), 'FMDD Mon YYYY') as what
         from (select b.position_id, b.taken_at as at from backup b where b.content_hash = $1
               union all
               select b.position_id, f.at
                 from backup b join found_list l on l.seqs @> array[b.seq::integer]
                 join found_again f on f.list_id = l.id where b.content_hash = $1) look
         join position p on p.id = look.position_id group by p.tag
       union all select p.tag, 'revision ' || l.revision || ' of the baseline'
         from baseline l join position p on p.id = l.position_id where l.content_hash = $1
       order by 1, 2`,
      [hash],
    );
    return {
      hash,
      dictionary,
      usedBy: rows.map(({ tag, what }) => `${tag}: ${what}`),
      restoreFrom:
        'A copy of the database, or a file of this set that was saved: importing it again is recognised by its hash.',
    };
  }
}
