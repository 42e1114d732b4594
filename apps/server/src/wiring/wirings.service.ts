// The field wiring of positions. A wiring comes in as its table, whoever brings it, is checked against the chart of the
// unit's model, and is kept as a revision with who, when and why. What leads nowhere is refused; what electricity forbids is
// kept and told, as it may be what hangs there.

import { Injectable } from '@nestjs/common';
import type { WiringMark, WiringView } from '@drive-keep/api';
import { tableFinding, type Finding } from '@drive-keep/core/findings';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { readTable, type Table } from '@drive-keep/core/values';
import {
  checkWiring,
  formatFacts,
  formatWiring,
  NO_WIRING,
  readWiring,
  WIRING_COLUMNS,
  wiringRows,
  type Wiring,
} from '@drive-keep/core/wiring';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { tableFrom, type UploadedFile } from '../file-content/uploaded-file.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import type { Position } from '../register/position.entity.ts';
import { Register } from '../register/register.service.ts';
import { wiringHash } from './wiring-hash.ts';
import { WiringRevision } from './wiring-revision.entity.ts';

/** What names something that is not there: nothing can be made of such a wiring. */
const REFUSED: readonly Finding['code'][] = [
  'wiring-device-name',
  'wiring-device-twice',
  'wiring-no-terminal',
  'wiring-no-device',
  'wiring-no-connection',
  'wiring-same-ends',
  'wiring-no-place',
  'wiring-no-arrangement',
];
const MOST_TOLD = 5;

export type WiringRows = readonly (readonly string[])[];

@Injectable()
export class Wirings {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly logbook: Logbook,
  ) {}

  /** The newest revision, or the one that is asked for. */
  async view(tag: string, revision?: number): Promise<WiringView> {
    const { position, unit } = await this.register.unitAt(tag);
    const all = await this.revisions(position.id);
    const kept = revision === undefined ? all[0] : all.find((each) => each.revision === revision);
    if (revision !== undefined && !kept) throw notFound(`Revision ${revision} of the wiring of ${tag}`);
    const wiring = kept ? contentOfRevision(tag, kept, all) : NO_WIRING;
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    const elsewhere = await this.elsewhere(position.id);
    return {
      tag,
      dictionary: dictionary.id,
      madeFor: kept?.dictionaryId ?? null,
      revision: kept?.revision ?? 0,
      rows: wiringRows(wiring),
      findings: checkWiring(dictionary, wiring).map(findingView),
      revisions: all.map(wiringMark),
      elsewhere,
    };
  }

  /** The wiring itself with who kept it, for whoever computes with it or prints it; nothing where none was kept. */
  async newest(positionId: string, tag: string): Promise<(WiringMark & { wiring: Wiring }) | undefined> {
    const all = await this.revisions(positionId);
    return all[0] && { ...wiringMark(all[0]), wiring: contentOfRevision(tag, all[0], all) };
  }

  /** One revision of it, or the newest; no wiring where none was kept. */
  async kept(
    positionId: string,
    tag: string,
    revision?: number,
  ): Promise<{ readonly revision: number; readonly wiring: Wiring }> {
    const all = await this.revisions(positionId);
    const found = revision === undefined ? all[0] : all.find((each) => each.revision === revision);
    if (!found) return { revision: 0, wiring: NO_WIRING };
    return { revision: found.revision, wiring: contentOfRevision(tag, found, all) };
  }

  /** What a signature of a baseline stands for; nothing where no wiring was kept. Nobody signs what cannot be read back. */
  async seal(
    positionId: string,
    manager: EntityManager,
  ): Promise<{ readonly revision: number; readonly hash: string } | undefined> {
    const all = await this.revisions(positionId, manager);
    const [last] = all;
    if (!last) return undefined;
    const [position]: { tag: string }[] = await manager.query('select tag from position where id = $1', [
      positionId,
    ]);
    contentOfRevision(position?.tag ?? positionId, last, all);
    return { revision: last.revision, hash: last.hash };
  }

  /** Nothing where none was kept. */
  newestRevision(positionId: string): Promise<number | null> {
    return this.dataSource.getRepository(WiringRevision).maximum('revision', { positionId });
  }

  /** Of every revision when it was kept, by whom and why, the oldest first. */
  async marks(positionId: string): Promise<readonly WiringMark[]> {
    return (await this.revisions(positionId)).map(wiringMark).reverse();
  }

  /** `seen` is the revision that was looked at, 0 for none. */
  async save(
    tag: string,
    rows: WiringRows,
    why: string,
    seen: number,
    { person }: Account,
  ): Promise<WiringView> {
    const { position, unit } = await this.register.unitAt(tag);
    if (position.retiredAt)
      throw new ProblemException(422, 'retired', `${tag} is retired: its wiring stays as it was kept.`);
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    const wiring = taken(readWiring(tableOf(rows)));
    const refused = checkWiring(dictionary, wiring).filter(({ code }) => REFUSED.includes(code));
    if (refused.length > 0) throw notUnderstood(refused);
    await this.dataSource.transaction(async (manager) => {
      const last = await this.lockNewest(manager, position.id);
      requireSameVersion(last?.revision ?? 0, seen, `The wiring of ${tag}`);
      if (last?.content === formatWiring(wiring))
        throw new ProblemException(422, 'nothing-changed', 'The wiring is the same as the one that is kept.');
      await this.append(manager, position, dictionary.id, wiring, { why, person, last });
    });
    return this.view(tag);
  }

  /** Kept as a further revision inside another change, unless the newest is that very wiring for that very model. */
  async saveWithin(
    manager: EntityManager,
    position: Pick<Position, 'id' | 'tag'>,
    dictionaryId: string,
    wiring: Wiring,
    told: { readonly why: string; readonly person: string },
  ): Promise<void> {
    const last = await this.lockNewest(manager, position.id);
    if (last?.content === formatWiring(wiring) && last.dictionaryId === dictionaryId) return;
    await this.append(manager, position, dictionaryId, wiring, { ...told, last });
  }

  private async lockNewest(manager: EntityManager, positionId: string): Promise<WiringRevision | undefined> {
    await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`wiring ${positionId}`]);
    return (await this.revisions(positionId, manager))[0];
  }

  private async append(
    manager: EntityManager,
    { id: positionId, tag }: Pick<Position, 'id' | 'tag'>,
    dictionaryId: string,
    wiring: Wiring,
    {
      why,
      person,
      last,
    }: { readonly why: string; readonly person: string; readonly last: WiringRevision | undefined },
  ): Promise<void> {
    const revision = (last?.revision ?? 0) + 1;
    const content = formatWiring(wiring);
    const kept = { positionId, revision, dictionaryId, content, savedBy: person, why, savedAt: new Date() };
    await manager.insert(WiringRevision, { ...kept, hash: wiringHash(kept, last?.hash) });
    const text = `Kept revision ${revision} of the wiring: ${why}`;
    await this.logbook.write({ person, action: 'wiring-kept', tag, text }, manager);
  }

  /** How a file is understood; nothing is kept. */
  async read(tag: string, file: UploadedFile): Promise<Pick<WiringView, 'rows' | 'findings'>> {
    const { unit } = await this.register.unitAt(tag);
    return this.readFor(await this.dictionaries.get(unit.dictionaryId), file);
  }

  /** The same against the chart of a model, whether or not such a drive stands anywhere. */
  async readFor(dictionary: Dictionary, file: UploadedFile): Promise<Pick<WiringView, 'rows' | 'findings'>> {
    const read = readWiring(await tableIn(file));
    if (!read.ok) return { rows: [], findings: read.fault.map(findingView) };
    return { rows: wiringRows(read.value), findings: checkWiring(dictionary, read.value).map(findingView) };
  }

  async csv(tag: string): Promise<string> {
    const { position } = await this.register.unitAt(tag);
    return formatWiring((await this.newest(position.id, tag))?.wiring ?? NO_WIRING);
  }

  /** Revisions whose chain does not hold: what stands there is not what was kept. */
  async damaged(): Promise<readonly { readonly tag: string; readonly revision: number }[]> {
    return (await this.everyRevision()).filter(({ good }) => !good);
  }

  /** The newest wiring of every position that has one, as its table; nothing where it is damaged. */
  async everyNewest(): Promise<readonly { readonly tag: string; readonly rows?: WiringRows }[]> {
    const all = await this.everyRevision();
    return all
      .filter(({ tag }, at) => all[at + 1]?.tag !== tag)
      .map(({ tag, content, good }) => {
        const wiring = good ? parsed(content) : undefined;
        return { tag, rows: wiring && wiringRows(wiring) };
      });
  }

  /** By position and number, each with whether it is what was kept. */
  private async everyRevision() {
    const rows: (WiringRevision & { tag: string })[] = await this.dataSource.query(
      `select p.tag, w.position_id as "positionId", w.revision, w.dictionary_id as "dictionaryId", w.content, w.hash,
              w.saved_at as "savedAt", w.saved_by as "savedBy", w.why
       from wiring_revision w join position p on p.id = w.position_id order by p.tag, w.revision`,
    );
    return rows.map((row, at) => {
      const last = rows[at - 1];
      const before = last?.tag === row.tag ? last.hash : undefined;
      const { tag, revision, content } = row;
      return { tag, revision, content, good: row.hash === wiringHash(row, before) };
    });
  }

  private revisions(
    positionId: string,
    manager: EntityManager = this.dataSource.manager,
  ): Promise<readonly WiringRevision[]> {
    return manager.find(WiringRevision, { where: { positionId }, order: { revision: 'DESC' } });
  }

  /** Devices of the same machine in the wirings of its other positions. */
  private async elsewhere(positionId: string): Promise<WiringView['elsewhere']> {
    const rows: { tag: string; content: string }[] = await this.dataSource.query(
      `select distinct on (other.id) other.tag, w.content
       from position own
       join position other on other.machine_id = own.machine_id and other.id <> own.id
       join wiring_revision w on w.position_id = other.id
       where own.id = $1 order by other.id, w.revision desc`,
      [positionId],
    );
    return rows.flatMap(({ tag, content }) => {
      const wiring = parsed(content);
      return (wiring?.devices ?? []).map((device) => ({
        ...{ tag, name: device.name, kind: device.kind, what: device.what },
        facts: formatFacts(device),
      }));
    });
  }
}

function parsed(content: string): Wiring | undefined {
  const table = readTable(content);
  // A wiring without a row is one, too.
  if (!table.ok) return undefined;
  const read = readWiring(table.value);
  return read.ok ? read.value : undefined;
}

const wiringMark = ({ revision, savedAt, savedBy, why }: WiringRevision): WiringMark => ({
  ...{ revision, savedBy, why },
  savedAt: savedAt.toISOString(),
});

function contentOfRevision(tag: string, kept: WiringRevision, all: readonly WiringRevision[]): Wiring {
  const before = all.find(({ revision }) => revision === kept.revision - 1);
  const wiring = kept.hash === wiringHash(kept, before?.hash) ? parsed(kept.content) : undefined;
  if (wiring) return wiring;
  const detail = `Revision ${kept.revision} of the wiring of ${tag} is damaged: nothing of it is shown. Restore a copy of the database.`;
  throw new ProblemException(500, 'wiring-damaged', detail);
}

const tableOf = (rows: WiringRows): Table => ({
  columns: [...WIRING_COLUMNS],
  rows: rows.map((cells, at) => ({
    line: at + 1,
    cells: Object.fromEntries(WIRING_COLUMNS.map((column, place) => [column, (cells[place] ?? '').trim()])),
  })),
});

async function tableIn(file: UploadedFile): Promise<Table> {
  const { table, notes } = await tableFrom(file);
  if (!table.ok) throw notUnderstood([tableFinding(table.fault)]);
  // A wiring is kept from the form that it fills: what a spreadsheet hides has to be seen first.
  const hidden = notes.filter(({ code }) => code === 'row-hidden' || code === 'column-hidden');
  if (hidden.length > 0) throw notUnderstood(hidden);
  return table.value;
}

function taken(read: ReturnType<typeof readWiring>): Wiring {
  if (read.ok) return read.value;
  throw notUnderstood(read.fault);
}

function notUnderstood(findings: readonly Finding[]): ProblemException {
  const told = findings.slice(0, MOST_TOLD).map((each) => findingLine(findingView(each)));
  const rest = findings.length - told.length;
  const more = rest > 0 ? ` And ${rest} more.` : '';
  return new ProblemException(422, 'wiring-not-understood', `${told.join(' ')}${more} Nothing was kept.`);
}
