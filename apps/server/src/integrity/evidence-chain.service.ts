// The chain of evidence: rows that count as evidence are hashed, link by link, each link over the one before. A row that was
// changed, taken away or put in beside the product, and a link that was, is named by what it is.

import { createHash } from 'node:crypto';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { IntegrityFinding } from '@drive-keep/api';
import { DataSource, type EntityManager } from 'typeorm';
import { EVIDENCE, FORM, sourceOf, type EvidenceSource } from './evidence-sources.ts';

/** How soon a row is linked after it was written, in ms. */
const LINK_MS = 1000;
const ROWS_A_LINK = 2000;
const LINKS_AT_ONCE = 200;
/** Bytes of a row's digest that stand beside the link. */
const MARK = 8;
/** Findings of one kind that are named one by one. */
const MOST_NAMED = 50;
const NO_DIGEST = Buffer.alloc(32);
const START = createHash('sha256').update('').digest();

interface LinkRow {
  readonly place: string;
  readonly form: number;
  readonly at: Date;
  readonly source: string;
  readonly keys: string[];
  readonly marks: Buffer;
  readonly link: Buffer;
}

type NewLink = Omit<LinkRow, 'link' | 'marks'> & { readonly digests: readonly Buffer[] };

@Injectable()
export class EvidenceChain implements OnApplicationShutdown {
  private readonly logger = new Logger('EvidenceChain');
  private timer: NodeJS.Timeout | undefined;
  private linking: Promise<unknown> = Promise.resolve();

  constructor(private readonly dataSource: DataSource) {}

  watch(): void {
    this.timer = setInterval(() => {
      this.linking = this.link().catch((error: unknown) => this.logger.error(String(error)));
    }, LINK_MS);
  }

  async onApplicationShutdown(): Promise<void> {
    clearInterval(this.timer);
    await this.linking;
  }

  /** Links all rows that wait; only one process at a time does. */
  async link(): Promise<void> {
    while (await this.dataSource.transaction((manager) => this.linkSome(manager)));
  }

  /** What does not fit together, by the rows and links as they stand on the disk. */
  async check(): Promise<{ readonly rows: number; readonly findings: readonly IntegrityFinding[] }> {
    await this.link();
    return this.dataSource.transaction('REPEATABLE READ', async (manager) => {
      await manager.query(`set local timezone = 'UTC'`);
      const findings: IntegrityFinding[] = [];
      const linked = new Map<string, number>();
      let before: Buffer = START;
      let place = 0;
      for (;;) {
        const links: LinkRow[] = await manager.query(
          'select * from evidence_link where place > $1 order by place limit $2',
          [place, LINKS_AT_ONCE],
        );
        if (links.length === 0) break;
        const digests = await digestsOf(manager, links);
        for (const row of links) {
          findings.push(...checkLink(row, before, place, digests));
          linked.set(row.source, (linked.get(row.source) ?? 0) + row.keys.length);
          before = row.link;
          place = Number(row.place);
        }
      }
      findings.push(...(await this.checkHead(manager, place, before)));
      for (const source of EVIDENCE) findings.push(...(await unlinkedIn(manager, source)));
      return { rows: [...linked.values()].reduce((sum, each) => sum + each, 0), findings };
    });
  }

  /** True where there may be more. */
  private async linkSome(manager: EntityManager): Promise<boolean> {
    await manager.query(`select pg_advisory_xact_lock(hashtextextended('evidence', 0))`);
    const [waiting]: [{ source: string; key: string }[], number] = await manager.query(
      `delete from evidence_waiting where id in (select id from evidence_waiting order by id limit $1)
       returning source, key`,
      [ROWS_A_LINK],
    );
    if (waiting.length === 0) return false;
    await manager.query(`set local timezone = 'UTC'`);
    // A head that somebody took away is not made anew: that it is missing is told by every check.
    const [head]: { place: string; link: Buffer }[] = await manager.query(
      `select place, link from (select place, link, 0 as rank from evidence_head
         union all (select place, link, 1 from evidence_link order by place desc limit 1)) last
        order by rank limit 1`,
    );
    let place = Number(head?.place ?? 0);
    let before: Buffer = head?.link ?? START;
    for (const source of EVIDENCE) {
      const keys = waiting.filter((row) => row.source === source.table).map(({ key }) => key);
      if (keys.length === 0) continue;
      const known = await digestsIn(manager, source, keys);
      const digests = keys.map((key) => known.get(key) ?? NO_DIGEST);
      place += 1;
      const at = new Date();
      const fresh = { place: String(place), form: FORM, at, source: source.table, keys, digests };
      before = linkOver(before, fresh);
      await manager.query(
        'insert into evidence_link (place, form, at, source, keys, marks, link) values ($1, $2, $3, $4, $5, $6, $7)',
        [place, FORM, at, source.table, keys, marksOf(digests), before],
      );
    }
    await manager.query('update evidence_head set place = $1, link = $2', [place, before]);
    return waiting.length === ROWS_A_LINK;
  }

  private async checkHead(
    manager: EntityManager,
    place: number,
    before: Buffer,
  ): Promise<readonly IntegrityFinding[]> {
    const heads: { place: string; link: Buffer }[] = await manager.query(
      'select place, link from evidence_head',
    );
    const [head] = heads;
    if (head && Number(head.place) === place && head.link.equals(before)) return [];
    const text = 'The chain of evidence has lost its end: its last links were taken away or exchanged.';
    return [{ kind: 'chain', what: 'evidence_head', text }];
  }
}

/** Rows that no link knows: they came in beside the product. */
async function unlinkedIn(
  manager: EntityManager,
  { table, key, name, where = 'true' }: EvidenceSource,
): Promise<readonly IntegrityFinding[]> {
  const rows: { key: string }[] = await manager.query(
    `select key from (select ${key}::text as key from ${table} where ${where} except
       select unnest(keys) from evidence_link where source = $1 except
       select key from evidence_waiting where source = $1) unlinked order by key limit ${MOST_NAMED}`,
    [table],
  );
  return rows.map((row) => ({
    kind: 'added',
    what: table,
    text: `${capital(name(row.key))} is in no link of the chain: it was put in beside Drive Keep.`,
  }));
}

type Digests = ReadonlyMap<string, ReadonlyMap<string, Buffer>>;

async function digestsOf(manager: EntityManager, links: readonly LinkRow[]): Promise<Digests> {
  const all = new Map<string, ReadonlyMap<string, Buffer>>();
  for (const source of EVIDENCE) {
    const keys = links.filter((row) => row.source === source.table).flatMap((row) => row.keys);
    if (keys.length > 0) all.set(source.table, await digestsIn(manager, source, keys));
  }
  return all;
}

async function digestsIn(
  manager: EntityManager,
  { table, key, columns }: EvidenceSource,
  keys: readonly string[],
): Promise<ReadonlyMap<string, Buffer>> {
  const rows: { key: string; digest: Buffer }[] = await manager.query(
    `select ${key}::text as key, sha256(convert_to(jsonb_build_array(${columns.join(', ')})::text, 'UTF8')) as digest
       from ${table} where ${key}::text = any($1)`,
    [keys],
  );
  return new Map(rows.map(({ key: own, digest }) => [own, digest]));
}

function linkOver(before: Buffer, { place, form, at, source, keys, digests }: NewLink): Buffer {
  const hash = createHash('sha256').update(before);
  hash.update(JSON.stringify([Number(place), form, at.toISOString(), source, keys]));
  for (const digest of digests) hash.update(digest);
  return hash.digest();
}

const marksOf = (digests: readonly Buffer[]): Buffer =>
  Buffer.concat(digests.map((digest) => digest.subarray(0, MARK)));

function checkLink(
  row: LinkRow,
  before: Buffer,
  placeBefore: number,
  all: Digests,
): readonly IntegrityFinding[] {
  const source = sourceOf(row.source);
  const known = all.get(row.source) ?? new Map<string, Buffer>();
  const digests = row.keys.map((key) => known.get(key) ?? NO_DIGEST);
  const whole = linkOver(before, { ...row, digests }).equals(row.link);
  const findings = row.keys.flatMap((key, at): IntegrityFinding[] => {
    const digest = known.get(key);
    const marked = digest?.subarray(0, MARK).equals(row.marks.subarray(at * MARK, (at + 1) * MARK));
    if (marked || (digest && whole)) return [];
    const name = capital(source?.name(key) ?? `${row.source} ${key}`);
    const text = digest ? `${name} was changed after it was kept.` : `${name} was kept and is gone.`;
    return [{ kind: digest ? 'changed' : 'gone', what: row.source, text }];
  });
  if (Number(row.place) !== placeBefore + 1) {
    const text = `Links ${placeBefore + 1} to ${Number(row.place) - 1} of the chain of evidence are gone.`;
    findings.push({ kind: 'chain', what: 'evidence_link', text });
  }
  if (findings.length === 0 && !(whole && marksOf(digests).equals(row.marks))) {
    const text = `Link ${row.place} of the chain of evidence was changed, or one of the ${row.keys.length} rows that it stands for (${row.source}).`;
    findings.push({ kind: 'chain', what: 'evidence_link', text });
  }
  return findings;
}

const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
