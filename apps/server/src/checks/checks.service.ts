// The checks of positions: as they stand, kept and looked at again whenever anything that they looked at has changed, and of any
// other set of a position.

import { createHash } from 'node:crypto';
import { Injectable, Logger } from '@nestjs/common';
import type { CheckFindingView, ChecksView, PlantFindingsView } from '@drive-keep/api';
import { identityOf, runChecks, signatureOf, type Found, type Report } from '@drive-keep/core/checks';
import { CHECK_WORDS, describe } from '@drive-keep/core/findings';
import type { Outfit } from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import type { Wiring } from '@drive-keep/core/wiring';
import { DataSource, In } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { PositionSets } from '../compare/position-sets.service.ts';
import type { UploadedFile } from '../file-content/uploaded-file.ts';
import { SetImport } from '../files/set-import.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Clock } from '../storage/clock.ts';
import { dayOf } from '../tolerations/tolerations.service.ts';
import { Acceptances, Accepted } from './acceptances.service.ts';
import { CheckFinding } from './check-finding.entity.ts';
import { CheckGrounds, Neighbours, type GroundRow } from './check-grounds.service.ts';
import { CheckRun } from './check-run.entity.ts';

/** Positions whose findings are kept together. */
const AT_ONCE = 120;
/** Questions to the database at a time; most of its connections are for people. */
const LANES = 4;
/** Of what is new; the rest is on the register. */
const MOST_FRESH = 200;

@Injectable()
export class Checks {
  private readonly logger = new Logger('Checks');

  constructor(
    private readonly dataSource: DataSource,
    private readonly grounds: CheckGrounds,
    private readonly register: Register,
    private readonly sets: PositionSets,
    private readonly contents: ContentStore,
    private readonly imports: SetImport,
    private readonly acceptances: Acceptances,
    private readonly clock: Clock,
  ) {}

  /** What the unit was last seen to hold, checked now where anything has changed since; or another set, against that. */
  async of(tag: string, reference: string): Promise<ChecksView> {
    const at = await this.register.unitAt(tag);
    const { row, around } = await this.placed(tag);
    const accepted = await this.acceptances.of(row.id);
    const own = { tag, reference, with: withOf(row, around) };
    if (reference === 'newest') {
      const { run, findings } = await this.asItStands(row, around);
      return {
        ...own,
        ...{ dictionary: row.dictionary_id, title: 'As it was last seen' },
        ...{ at: row.looked_at?.toISOString() ?? null, checkedAt: run.checkedAt.toISOString() },
        ...{ looked: run.looked, findings: findings.map((each) => keptView(each, accepted)) },
        untold: run.untold.map(untoldView),
        against: null,
      };
    }
    const { title, when, set } = await this.sets.of(at, reference);
    return this.ofSet({ row, around, accepted }, { ...own, title, at: when }, set);
  }

  /** A file, before anything of it is kept: what it does not tell is as the unit was last seen, or as delivered. */
  async ofFile(tag: string, file: UploadedFile, carry: boolean): Promise<ChecksView> {
    const at = await this.register.unitAt(tag);
    const { row, around } = await this.placed(tag);
    const told = await this.imports.setIn(tag, file, carry);
    if (!told) throw refused('This file cannot be kept as it is: there is nothing to check.');
    const accepted = await this.acceptances.of(row.id);
    const base = await this.sets.of(at, row.content_hash === null ? 'default' : 'newest');
    const same = base.set.dictionary === told.dictionary;
    const readings = same ? new Map([...base.set.readings, ...told.readings]) : told.readings;
    const own = { tag, reference: 'file', with: withOf(row, around), title: file.originalname, at: null };
    return this.ofSet({ row, around, accepted }, own, { dictionary: told.dictionary, readings });
  }

  /** A set of another model with wires of its own, as a replacement promises it. */
  async ofPromise(tag: string, { set, outfit, wiring, reference, title }: PromisedSet): Promise<ChecksView> {
    const { row, around } = await this.placed(tag);
    const report = runChecks(await this.grounds.gather(row, around, set, { outfit, wiring }));
    return {
      ...{ tag, reference, title, at: null, dictionary: set.dictionary, with: withOf(row, around) },
      ...{ checkedAt: this.clock.now().toISOString(), looked: report.looked, against: null },
      findings: report.found.map((each) => freshView(each, new Accepted(''))),
      untold: report.untold.map(untoldView),
    };
  }

  /** A position with those beside it. */
  private async placed(tag: string): Promise<{ readonly row: GroundRow; readonly around: Neighbours }> {
    const rows = await this.grounds.around(tag);
    const row = rows.find((each) => each.tag === tag);
    if (!row) throw refused(`No unit is at ${tag}: there is nothing to check.`);
    return { row, around: new Neighbours(rows) };
  }

  private async ofSet(
    { row, around, accepted }: { row: GroundRow; around: Neighbours; accepted: Accepted },
    own: Pick<ChecksView, 'tag' | 'reference' | 'with' | 'title' | 'at'>,
    set: ParameterSet,
  ): Promise<ChecksView> {
    if (set.dictionary !== row.dictionary_id)
      throw refused(
        `${own.title} is of ${set.dictionary}, and ${row.dictionary_id} sits at ${row.tag}: it cannot be checked here.`,
      );
    const report = await this.reportOf(row, around, set);
    const findings = report.found.map((each) => freshView(each, accepted));
    return {
      ...own,
      ...{ dictionary: set.dictionary, checkedAt: this.clock.now().toISOString() },
      ...{ looked: report.looked, findings, untold: report.untold.map(untoldView) },
      against: row.content_hash === null ? null : await this.against(row, around, findings, accepted),
    };
  }

  private async against(
    row: GroundRow,
    around: Neighbours,
    findings: readonly CheckFindingView[],
    accepted: Accepted,
  ): Promise<ChecksView['against']> {
    const now = (await this.asItStands(row, around)).findings.map((each) => keptView(each, accepted));
    const without = (list: readonly CheckFindingView[], other: readonly CheckFindingView[]) =>
      list.filter(({ identity }) => other.every((each) => each.identity !== identity));
    return { fewer: without(now, findings), more: without(findings, now) };
  }

  private async reportOf(row: GroundRow, around: Neighbours, set: ParameterSet): Promise<Report> {
    return runChecks(await this.grounds.gather(row, around, set));
  }

  /** From what is kept, where nothing has changed since; checked and kept otherwise. */
  private async asItStands(
    row: GroundRow,
    around: Neighbours,
  ): Promise<{ readonly run: CheckRun; readonly findings: readonly CheckFinding[] }> {
    if (row.content_hash === null)
      throw refused(
        `Nothing is known of what the unit at ${row.tag} holds. Back it up, or read it off, first.`,
      );
    const groundHash = await this.grounds.hashOf(row, around);
    const known = await this.dataSource.getRepository(CheckRun).findOneBy({ positionId: row.id });
    if (known?.groundHash !== groundHash)
      await this.keep([{ row, groundHash, report: await this.reportOf(row, around, await this.held(row)) }]);
    const run = await this.dataSource.getRepository(CheckRun).findOneByOrFail({ positionId: row.id });
    const findings = await this.dataSource
      .getRepository(CheckFinding)
      .find({ where: { positionId: row.id }, order: { place: 'ASC' } });
    return { run, findings };
  }

  private held = ({ content_hash: hash }: GroundRow): Promise<ParameterSet> => this.contents.get(hash ?? '');

  /** Keeps what was found; a finding that was known keeps the time at which it was first seen. */
  private async keep(checked: readonly Checked[]): Promise<void> {
    const ids = checked.map(({ row }) => row.id).sort();
    if (ids.length === 0) return;
    const checkedAt = this.clock.now();
    await this.dataSource.transaction(async (manager) => {
      // In one order, whoever checks: two who look at the same positions wait for each other and never both.
      await manager.query(
        `select pg_advisory_xact_lock(hashtextextended('checks ' || id, 0)) from unnest($1::text[]) id`,
        [ids],
      );
      const before = await manager.findBy(CheckFinding, { positionId: In(ids) });
      const runs = await manager.find(CheckRun, {
        where: { positionId: In(ids) },
        select: { positionId: true },
      });
      const known = new Set(runs.map(({ positionId }) => positionId));
      const since = new Map(before.map((each) => [`${each.positionId} ${each.identity}`, each.since]));
      const rows = checked.map(({ row, groundHash, report }) => ({
        ...{ positionId: row.id, groundHash, contentHash: row.content_hash ?? '', checkedAt },
        ...{ looked: report.looked, untold: [...report.untold] },
      }));
      await manager.upsert(CheckRun, rows, ['positionId']);
      await manager.delete(CheckFinding, { positionId: In(ids) });
      const found = checked.flatMap(({ row, report }) =>
        report.found.map((each, place) => {
          const at = since.get(`${row.id} ${identityOf(each)}`);
          const first = known.has(row.id) ? checkedAt : null;
          return findingRow(row.id, each, place, at === undefined ? first : at);
        }),
      );
      if (found.length > 0) await manager.insert(CheckFinding, found as never);
    });
  }

  /** Checks whatever has changed since it was checked; gives how many positions that were. Others get their turn in between. */
  async lookAgain(): Promise<number> {
    const rows = await this.grounds.all();
    const around = new Neighbours(rows);
    const stale = await this.staleAmong(rows, around);
    let looked = 0;
    for (let from = 0; from < stale.length; from += AT_ONCE) {
      const checked: Checked[] = [];
      const waiting = stale.slice(from, from + AT_ONCE).values();
      // While one is computed, others are read.
      const lane = async (): Promise<void> => {
        for (const each of waiting) {
          const report = await this.unlessAmiss(each.row, async () =>
            this.reportOf(each.row, around, await this.held(each.row)),
          );
          if (report) checked.push({ ...each, report });
          await new Promise((resolve) => setImmediate(resolve));
        }
      };
      await Promise.all(Array.from({ length: LANES }, lane));
      await this.keep(checked);
      looked += checked.length;
    }
    return looked;
  }

  private async staleAmong(
    rows: readonly GroundRow[],
    around: Neighbours,
  ): Promise<readonly Omit<Checked, 'report'>[]> {
    const runs = await this.dataSource
      .getRepository(CheckRun)
      .find({ select: { positionId: true, groundHash: true } });
    const known = new Map(runs.map(({ positionId, groundHash }) => [positionId, groundHash]));
    const stale: Omit<Checked, 'report'>[] = [];
    for (const row of rows) {
      if (row.content_hash === null) continue;
      const groundHash = await this.unlessAmiss(row, () => this.grounds.hashOf(row, around));
      if (groundHash !== undefined && known.get(row.id) !== groundHash) stale.push({ row, groundHash });
    }
    // Peers one after the other: what they are held against is at hand then.
    return stale.sort((a, b) => (a.row.machine_id < b.row.machine_id ? -1 : 1));
  }

  /**
   * One that cannot be checked waits openly, and the others are checked all the same. A damaged row says so itself, where it
   * is looked at; anything else is told to whoever runs the server.
   */
  private async unlessAmiss<T>({ tag }: GroundRow, work: () => Promise<T>): Promise<T | undefined> {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof ProblemException))
        this.logger.error(`${tag} could not be checked: ${String(error)}`);
      return undefined;
    }
  }

  /** How much is open in the plant, and what of it was first seen since then; what must be mended comes first. */
  async ofPlant(since: Date | null): Promise<PlantFindingsView> {
    const today = dayOf(this.clock.now());
    const [counts]: PlantCounts[] = await this.dataSource.query(COUNTS, [today]);
    const rows: (CheckFinding & { tag: string; duty: string; fresh: number })[] = since
      ? await this.dataSource.query(FRESH, [today, since, MOST_FRESH])
      : [];
    return {
      findings: rows.map(({ tag, duty, identity, attention, text, ...row }) => ({
        ...{ tag, duty, identity, attention, text },
        name: wordsOf(row.checkId).name,
        since: row.since?.toISOString() ?? '',
      })),
      fresh: rows[0]?.fresh ?? 0,
      ...{ open: counts?.open ?? 0, positions: counts?.positions ?? 0 },
      ...{ checked: counts?.checked ?? 0, waiting: counts?.waiting ?? 0, unknown: counts?.unknown ?? 0 },
    };
  }

  async accept(
    tag: string,
    {
      identity,
      signature,
      reason,
      until,
    }: { identity: string; signature: string; reason: string; until: string },
    by: Account,
  ): Promise<ChecksView> {
    const view = await this.of(tag, 'newest');
    const found = view.findings.find((each) => each.identity === identity);
    if (!found) throw gone('This finding is not there any more. Look again; nothing was accepted.');
    if (found.signature !== signature)
      throw gone(`It says something else now: ${found.text} Look at it again; nothing was accepted.`);
    const { position } = await this.register.unitAt(tag);
    const wish = { positionId: position.id, tag, identity, signature, text: found.text, reason, until };
    await this.acceptances.accept(wish, by);
    return this.of(tag, 'newest');
  }

  async reopen(tag: string, id: string, by: Account): Promise<ChecksView> {
    const { position } = await this.register.unitAt(tag);
    await this.acceptances.end(tag, position.id, id, by);
    return this.of(tag, 'newest');
  }
}

interface PlantCounts {
  readonly open: number;
  readonly positions: number;
  readonly checked: number;
  readonly waiting: number;
  readonly unknown: number;
}

/** Positions in place by what their unit was last seen to hold, and findings that nobody has accepted ($1 is today). */
const IN_PLACE = `
here as (
  select p.id, p.tag, p.duty, b.content_hash, r.content_hash as checked_hash
    from position p join unit u on u.position_id = p.id and u.removed_at is null
    left join last_look look on look.position_id = p.id
    left join backup b on b.id = look.backup_id and b.unit_id = u.id
    left join check_run r on r.position_id = p.id
   where p.retired_at is null
), open as (
  select f.* from check_finding f where not exists (
    select 1 from finding_acceptance a
     where a.position_id = f.position_id and a.identity = f.identity and a.signature = f.signature
       and a.ended_at is null and a.until >= $1)
)`;

const COUNTS = `
with ${IN_PLACE}
select (select count(*)::int from open join here on here.id = open.position_id
         where here.content_hash = here.checked_hash) as open,
       (select count(distinct open.position_id)::int from open join here on here.id = open.position_id
         where here.content_hash = here.checked_hash) as positions,
       count(*) filter (where content_hash = checked_hash)::int as checked,
       count(*) filter (where content_hash is not null and content_hash is distinct from checked_hash)::int as waiting,
       count(*) filter (where content_hash is null)::int as unknown
  from here`;

const FRESH = `
with ${IN_PLACE}
select here.tag, here.duty, open.identity, open.attention, open.text, open.since, open.check_id as "checkId",
       count(*) over ()::int as fresh
  from open join here on here.id = open.position_id and here.content_hash = here.checked_hash
 where open.since >= $2 order by open.attention desc, here.tag, open.place limit $3`;

export interface PromisedSet {
  readonly set: ParameterSet;
  readonly outfit: Outfit;
  readonly wiring: Wiring;
  readonly reference: string;
  readonly title: string;
}

interface Checked {
  readonly row: GroundRow;
  readonly groundHash: string;
  readonly report: Report;
}

const findingRow = (positionId: string, found: Found, place: number, since: Date | null) => ({
  ...{ positionId, identity: identityOf(found), place, signature: shortSignature(found), since },
  ...{ checkId: found.check, attention: found.attention, text: describe(found.said), mends: found.mends },
  values: found.values.map(({ code, reading }) => ({ code, reading: reading ?? null })),
});

const shortSignature = (found: Found): string =>
  createHash('sha256').update(signatureOf(found)).digest('hex').slice(0, 24);

const wordsOf = (check: string) => CHECK_WORDS[check] ?? { name: check, why: '' };

function keptView(kept: CheckFinding, accepted: Accepted): CheckFindingView {
  const { identity, signature, checkId: check, attention, text, values, mends, since } = kept;
  return {
    ...{ identity, signature, check, attention, text, values, mends, ...wordsOf(check) },
    since: since?.toISOString() ?? null,
    accepted: accepted.of(identity, signature),
    lapsed: accepted.lapsed(identity, signature),
  };
}

function freshView(found: Found, accepted: Accepted): CheckFindingView {
  const { check, attention, said, mends } = found;
  const [identity, signature] = [identityOf(found), shortSignature(found)];
  return {
    ...{ identity, signature, check, attention, mends, ...wordsOf(check), since: null },
    text: describe(said),
    values: found.values.map(({ code, reading }) => ({ code, reading: reading ?? null })),
    accepted: accepted.of(identity, signature),
    lapsed: accepted.lapsed(identity, signature),
  };
}

const untoldView = ({ check, missing }: Report['untold'][number]) => ({
  ...{ check, name: wordsOf(check).name, missing },
});

const withOf = (row: GroundRow, around: Neighbours): ChecksView['with'] => ({
  motor: row.plate !== null,
  wiring: row.wiring_revision ?? 0,
  supply: row.supply_id !== null,
  cabinet: row.cabinet_id !== null,
  peers: around.peersOf(row).filter(({ content_hash: hash }) => hash !== null).length,
});

const refused = (detail: string): ProblemException => new ProblemException(422, 'not-checked', detail);
const gone = (detail: string): ProblemException => new ProblemException(409, 'finding-changed', detail);
