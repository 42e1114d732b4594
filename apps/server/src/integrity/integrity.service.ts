// Everything that was kept is hashed again: contents, dictionaries, signatures, looks, and the chain that all evidence is in.
// What is damaged is named by what it is, with what it can be restored from; it is never shown as good and never changed here.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { IntegrityFinding, IntegrityReport } from '@drive-keep/api';
import { DataSource, IsNull, Not } from 'typeorm';
import { WiringPhotos } from '../wiring/wiring-photos.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { DraftRevisions } from '../drafts/draft-revisions.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Clock } from '../storage/clock.ts';
import { Traces } from '../traces/traces.service.ts';
import { EvidenceChain } from './evidence-chain.service.ts';
import { IntegrityCheck } from './integrity-check.entity.ts';
import { checkReplacements } from './closed-replacements.ts';
import { checkLooks } from './looks.ts';
import { checkSignatures } from './signatures.ts';

const AT_ONCE = 500;
/** The hour of the day, local time, after which the check of that day is due: rounds are over by then. */
const DUE_HOUR = 4;
const LOOK_MS = 60_000;
/** A check that has not ended after so long belonged to a process that died. */
const GIVEN_UP_AFTER = '2 hours';
/** How often the contents that the register shows are hashed again, in ms. */
const REGISTER_MS = 300_000;

@Injectable()
export class Integrity implements OnApplicationShutdown {
  private readonly logger = new Logger('Integrity');
  private readonly timers: NodeJS.Timeout[] = [];

  constructor(
    private readonly dataSource: DataSource,
    private readonly contents: ContentStore,
    private readonly dictionaries: Dictionaries,
    private readonly wirings: Wirings,
    private readonly photos: WiringPhotos,
    private readonly traces: Traces,
    private readonly drafts: DraftRevisions,
    private readonly chain: EvidenceChain,
    private readonly logbook: Logbook,
    private readonly clock: Clock,
  ) {}

  /** Every night, by whichever server process comes first; what the register shows more often. */
  watch(): void {
    this.chain.watch();
    this.every(LOOK_MS, () => this.checkWhenDue());
    this.every(REGISTER_MS, () => this.checkShown());
  }

  onApplicationShutdown(): void {
    for (const timer of this.timers) clearInterval(timer);
  }

  /** The last report, whichever process has made it. */
  async report(): Promise<IntegrityReport | null> {
    const last = await this.dataSource
      .getRepository(IntegrityCheck)
      .findOne({ where: { report: Not(IsNull()) }, order: { begunAt: 'DESC' } });
    return last?.report ?? null;
  }

  async check(person: string): Promise<IntegrityReport> {
    const { id } = await this.dataSource.getRepository(IntegrityCheck).save({ person });
    return this.carryOut(id, person);
  }

  /** One process takes the check of a day; one that was left unfinished is taken again. */
  async checkWhenDue(): Promise<void> {
    const now = this.clock.now();
    if (now.getHours() < DUE_HOUR) return;
    const day = `${now.getFullYear()}-${now.getMonth() + 1}-${now.getDate()}`;
    const person = 'Nightly check';
    const rows: { id: string }[] = await this.dataSource.query(
      `insert into integrity_check (due, person) values ($1, $2)
       on conflict (due) do update set begun_at = now()
         where integrity_check.report is null and integrity_check.begun_at < now() - interval '${GIVEN_UP_AFTER}'
       returning id`,
      [day, person],
    );
    const [taken] = rows;
    if (taken) await this.carryOut(taken.id, person);
  }

  /** Newest backups and baselines, from the disk: damage to them is seen before somebody needs them. */
  async checkShown(): Promise<void> {
    const rows: { hash: string }[] = await this.dataSource.query(
      `select b.content_hash as hash from last_look l join backup b on b.id = l.backup_id
       union select content_hash from baseline`,
    );
    for (let from = 0; from < rows.length; from += AT_ONCE)
      await this.contents.check(rows.slice(from, from + AT_ONCE).map(({ hash }) => hash));
  }

  private async carryOut(id: string, person: string): Promise<IntegrityReport> {
    const { checked, damaged } = await this.checkContents();
    const { rows, findings: chained } = await this.chain.check();
    const { manager } = this.dataSource;
    const findings: readonly IntegrityFinding[] = [
      ...(await this.checkDictionaries()),
      ...(await this.checkWirings()),
      ...(await this.checkTraces()),
      ...(await this.checkDrafts()),
      ...(await checkReplacements(manager)),
      ...(await checkSignatures(manager)),
      ...(await checkLooks(manager)),
      ...chained,
    ];
    const found = await Promise.all(damaged.map((hash) => this.describe(hash)));
    const report = { at: this.clock.now().toISOString(), checked, rows, damaged: found, findings };
    await this.dataSource.getRepository(IntegrityCheck).update(id, { report });
    await this.note(person, report);
    return report;
  }

  private async checkContents(): Promise<{ readonly checked: number; readonly damaged: readonly string[] }> {
    const damaged: string[] = [];
    let checked = 0;
    for (let after = ''; ;) {
      const rows: { hash: string }[] = await this.dataSource.query(
        'select hash from set_content where hash > $1 order by hash limit $2',
        [after, AT_ONCE],
      );
      damaged.push(...(await this.contents.check(rows.map(({ hash }) => hash))));
      checked += rows.length;
      const last = rows.at(-1);
      if (!last || rows.length < AT_ONCE) return { checked, damaged };
      after = last.hash;
    }
  }

  private async checkWirings(): Promise<readonly IntegrityFinding[]> {
    const named = [
      ...(await this.wirings.damaged()).map(
        ({ tag, revision }) => `Revision ${revision} of the wiring of ${tag}`,
      ),
      ...(await this.photos.damaged()).map(
        ({ tag, caption }) => `A photograph of the wiring of ${tag} (${caption})`,
      ),
    ];
    return named.map((name) => ({
      kind: 'changed' as const,
      what: 'wiring',
      text: `${name} is damaged: it is not what was kept. Restore a copy of the database.`,
    }));
  }

  private async checkTraces(): Promise<readonly IntegrityFinding[]> {
    return (await this.traces.damaged()).map(({ tag, title }) => ({
      kind: 'changed' as const,
      what: 'trace',
      text: `The trace “${title}” of ${tag} is damaged: it is not what was kept. Restore a copy of the database.`,
    }));
  }

  private async checkDrafts(): Promise<readonly IntegrityFinding[]> {
    return (await this.drafts.damaged()).map((title) => ({
      kind: 'changed' as const,
      what: 'draft',
      text: `${title} is damaged: it is not what was kept. Keep the draft once more, or restore a copy of the database.`,
    }));
  }

  private async checkDictionaries(): Promise<readonly IntegrityFinding[]> {
    return (await this.dictionaries.damaged()).map((id) => ({
      kind: 'changed' as const,
      what: 'dictionary',
      text: `The dictionary ${id} is damaged: its files are not those that were taken in. Bring the same files once more, or restore a copy of the database.`,
    }));
  }

  private async note(person: string, { checked, rows, damaged, findings }: IntegrityReport): Promise<void> {
    const all = [
      ...damaged.map(({ hash }) => `content ${hash.slice(0, 19)}… damaged`),
      ...findings.map(({ text }) => text),
    ];
    const what = `Checked ${checked} kept contents and ${rows} rows of evidence`;
    const text =
      all.length === 0
        ? `${what}: all are as they were kept.`
        : `${what}: ${all.length} ${all.length === 1 ? 'is' : 'are'} not. ${all.slice(0, 5).join(' ')}`;
    await this.logbook.write({ person, action: 'integrity-checked', text, facts: { damaged, findings } });
  }

  private async describe(hash: string): Promise<IntegrityReport['damaged'][number]> {
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
       union all select d.name, 'revision ' || r.revision || ' of the draft'
         from draft_revision r join settings_draft d on d.id = r.draft_id where r.content_hash = $1
       union all select d.name, 'what the draft begins with' from settings_draft d where d.base_hash = $1
       order by 1, 2`,
      [hash],
    );
    const [content]: { dictionary_id: string }[] = await this.dataSource.query(
      'select dictionary_id from set_content where hash = $1',
      [hash],
    );
    return {
      hash,
      dictionary: content?.dictionary_id ?? '',
      usedBy: rows.map(({ tag, what }) => `${tag}: ${what}`),
      restoreFrom:
        'It is mended when the same content arrives again: by a backup of a unit that still holds it, or by importing a file of this set. Else restore a copy of the database.',
    };
  }

  private every(ms: number, work: () => Promise<void>): void {
    const timer = setInterval(() => {
      work().catch((error: unknown) => this.logger.error(String(error)));
    }, ms);
    this.timers.push(timer);
  }
}
