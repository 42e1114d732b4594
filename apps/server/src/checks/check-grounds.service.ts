// What the checks of a position look at, gathered from the register, the library of motors, the wiring and the site. A hash of
// where all of it comes from tells whether it has to be looked at again.

import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { groundOf, type Ground, type Peer } from '@drive-keep/core/checks';
import { findMeaning, type Code, type Outfit } from '@drive-keep/core/dictionary';
import type { PlainSet } from '@drive-keep/core/meanings';
import type { MotorPlate } from '@drive-keep/core/motor';
import type { ParameterSet } from '@drive-keep/core/sets';
import { meaningOf } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { Baselines } from '../sets/baselines.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import type { Wiring } from '@drive-keep/core/wiring';
import { Wirings } from '../wiring/wirings.service.ts';

/** A position with a unit, by what decides its checks. */
export interface GroundRow {
  readonly id: string;
  readonly tag: string;
  readonly duty: string;
  readonly machine_id: string;
  readonly unit_id: string;
  readonly dictionary_id: string;
  readonly model: string;
  readonly rating: string;
  readonly region: string;
  readonly firmware: string;
  readonly line_id: string | null;
  readonly line_address: number | null;
  /** What this unit was last seen to hold; nothing where nobody has looked. */
  readonly content_hash: string | null;
  readonly looked_at: Date | null;
  readonly base_hash: string | null;
  readonly wiring_hash: string | null;
  readonly wiring_revision: number | null;
  readonly plate: MotorPlate | null;
  readonly supply_id: string | null;
  readonly cabinet_id: string | null;
  readonly nominal_volts: number | null;
  readonly frequency: number | null;
  readonly residual_milliamps: number | null;
  readonly volts: string | null;
  readonly ambient: number | null;
  /** Codes written and not saved; nothing where no plan tells it. */
  readonly unsaved: string[] | null;
  /** The newest proof run of its unit that was closed. */
  readonly last_proof: string | null;
}

const ROWS = `
select p.id, p.tag, p.duty, p.machine_id, u.id as unit_id, u.dictionary_id, d.model, u.rating, u.region, u.firmware,
       u.line_id, u.line_address, b.content_hash, look.at as looked_at, base.content_hash as base_hash,
       w.hash as wiring_hash, w.revision as wiring_revision, mo.plate, p.supply_id, p.cabinet_id,
       s.nominal_volts, s.frequency, s.residual_milliamps, m.volts, c.ambient, memory.unsaved, proof.run_id as last_proof
from position p
join unit u on u.position_id = p.id and u.removed_at is null
join dictionary d on d.id = u.dictionary_id
left join last_look look on look.position_id = p.id
left join backup b on b.id = look.backup_id and b.unit_id = u.id
left join lateral (
  select content_hash from baseline where position_id = p.id order by revision desc limit 1
) base on true
left join lateral (
  select revision, hash from wiring_revision where position_id = p.id order by revision desc limit 1
) w on true
left join motor mo on mo.id = p.motor_id
left join supply s on s.id = p.supply_id
left join lateral (
  select volts from supply_measurement where supply_id = s.id order by at desc, id desc limit 1
) m on true
left join cabinet c on c.id = p.cabinet_id
left join lateral (
  -- Of the plans for this unit that wrote something: what was written after the last one that saved.
  select coalesce(array_agg(distinct step.code) filter (where plan.ended_at > coalesce(
           (select max(ended_at) from write_plan where unit_id = u.id and saved), '-infinity')), '{}') as unsaved
    from write_plan plan left join write_step step on step.plan_id = plan.id and step.state = 'written' and not plan.saved
   where plan.unit_id = u.id and plan.ended_at is not null and (plan.saved or step.code is not null)
  having count(*) > 0
) memory on true
left join lateral (
  select e.run_id from proof_end e join proof_run r on r.id = e.run_id
   where r.unit_id = u.id and e.state = 'closed' order by e.ended_at desc limit 1
) proof on true
where p.retired_at is null
`;

/** Of many peers those next to it say enough. */
const MOST_PEERS = 24;
const MOST_REMEMBERED = 20_000;
const MOST_SETS = 400;
/** Goes up when a check is changed: what was found by another edition is looked at again. */
const EDITION = 3;

@Injectable()
export class CheckGrounds {
  /** What peers and baselines tell, by the hash of their content and the outfit of their unit. */
  private readonly plainSets = new Map<string, PlainSet>();
  /** Addresses in sets, by the hash of their content. */
  private readonly addresses = new Map<string, number | null>();

  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
    private readonly contents: ContentStore,
    private readonly wirings: Wirings,
    private readonly baselines: Baselines,
  ) {}

  /** Every position that has a unit, in the order of its tags. */
  all(): Promise<GroundRow[]> {
    return this.dataSource.query(`${ROWS} order by p.tag`);
  }

  /** The position, its peers and those on its line. */
  async around(tag: string): Promise<readonly GroundRow[]> {
    return this.dataSource.query(
      `${ROWS} and (p.tag = $1
         or p.machine_id = (select machine_id from position where tag = $1)
         or u.line_id = (select unit.line_id from unit join position on position.id = unit.position_id
                          where position.tag = $1 and unit.removed_at is null))
       order by p.tag`,
      [tag],
    );
  }

  /** Of all that decides what the checks find; `rows` are those among which its peers are. */
  async hashOf(row: GroundRow, rows: Neighbours): Promise<string> {
    // When it was looked at says nothing of what was seen.
    const facts = { ...row, looked_at: null, duty: '' };
    const { revision } = await this.dictionaries.get(row.dictionary_id);
    const around = [...rows.peersOf(row), ...rows.onLineOf(row)].map((each) => [
      ...[each.tag, each.content_hash, each.firmware, each.dictionary_id],
    ]);
    return createHash('sha256')
      .update(JSON.stringify([EDITION, revision, facts, around]))
      .digest('hex');
  }

  /** `set` and its wiring in the place of what the unit was last seen to hold. */
  async gather(
    row: GroundRow,
    rows: Neighbours,
    set: ParameterSet,
    promised?: { readonly outfit: Outfit; readonly wiring: Wiring },
  ): Promise<Ground> {
    const { bridge } = this.meanings;
    const dictionary = await this.dictionaries.get(set.dictionary);
    const kept = promised ?? (await this.wirings.newest(row.id, row.tag));
    return groundOf(bridge, dictionary, promised?.outfit ?? row, set.readings, {
      plate: row.plate,
      ...(kept ? { wiring: kept.wiring } : {}),
      site: {
        ambient: row.ambient,
        nominalVolts: row.nominal_volts,
        measuredVolts: row.volts === null ? null : Number(row.volts),
        hertz: row.frequency,
        residualMilliamps: row.residual_milliamps,
      },
      address: row.line_id === null ? 'keypad' : row.line_address,
      sharesAddress: await this.sharing(row, rows, set),
      // Nobody knows what is in its box, and its peers are of the old model.
      firmware: promised ? null : row.firmware,
      peers: promised ? [] : await this.peersOf(row, rows),
      baseline: await this.baselineOf(row, set.dictionary),
      proved: promised ? null : await this.isProved(row),
      unsaved: promised ? [] : (row.unsaved as Code[] | null),
    });
  }

  private async peersOf(row: GroundRow, rows: Neighbours): Promise<readonly Peer[]> {
    const peers: Peer[] = [];
    for (const each of rows.peersOf(row)) {
      const set = await this.plainSetOf(each.content_hash, each);
      if (set) peers.push({ tag: each.tag, firmware: each.firmware, set });
    }
    return peers;
  }

  /** Nothing where the unit was never proved at all: then nobody has begun to. */
  private async isProved({ id, base_hash: hash, last_proof }: GroundRow): Promise<boolean | null> {
    if (last_proof === null || hash === null) return null;
    return (await this.baselines.provedBy(id, hash)) !== undefined;
  }

  /** One of another model says nothing to this one. */
  private async baselineOf(
    { base_hash: hash, rating, region }: GroundRow,
    model: string,
  ): Promise<Ground['baseline']> {
    if (hash === null) return 'none';
    const set = await this.plainSetOf(hash, { rating, region });
    if (!set) return null;
    const own = await this.dictionaries.get(model);
    return own.model === set.dictionary.model ? set : null;
  }

  /** Read once for all that stand beside it; nothing where it is damaged. */
  private async plainSetOf(hash: string | null, { rating, region }: Outfit): Promise<PlainSet | undefined> {
    const content = hash === null ? undefined : await this.contents.getIfGood(hash);
    if (!content) return undefined;
    const dictionary = await this.dictionaries.get(content.dictionary);
    const key = [hash, rating, region, dictionary.revision].join(' ');
    const known = this.plainSets.get(key);
    if (known) return known;
    const set = this.meanings.bridge.read(dictionary, { rating, region }, content.readings);
    if (this.plainSets.size >= MOST_SETS) this.plainSets.delete(this.plainSets.keys().next().value ?? '');
    this.plainSets.set(key, set);
    return set;
  }

  private async sharing(row: GroundRow, rows: Neighbours, set: ParameterSet): Promise<readonly string[]> {
    const own = await this.addressIn(set);
    if (own === null) return [];
    const tags: string[] = [];
    for (const each of rows.onLineOf(row))
      if (each.content_hash !== null && (await this.addressOf(each.content_hash)) === own)
        tags.push(each.tag);
    return tags;
  }

  private async addressOf(hash: string): Promise<number | null> {
    const known = this.addresses.get(hash);
    if (known !== undefined) return known;
    const set = await this.contents.getIfGood(hash);
    // A damaged one may be mended: nothing is remembered of it.
    if (!set) return null;
    const address = await this.addressIn(set);
    if (this.addresses.size >= MOST_REMEMBERED) this.addresses.clear();
    this.addresses.set(hash, address);
    return address;
  }

  private async addressIn(set: ParameterSet): Promise<number | null> {
    const code = findMeaning(await this.dictionaries.get(set.dictionary), meaningOf('network.address'))?.code;
    const reading = code === undefined ? undefined : set.readings.get(code);
    return typeof reading === 'number' ? reading : null;
  }
}

/** Who stands beside whom. */
export class Neighbours {
  private readonly byMachine = new Map<string, GroundRow[]>();
  private readonly byLine = new Map<string, GroundRow[]>();

  constructor(rows: readonly GroundRow[]) {
    const add = (map: Map<string, GroundRow[]>, key: string, row: GroundRow) => {
      const own = map.get(key);
      if (own) own.push(row);
      else map.set(key, [row]);
    };
    for (const row of rows) {
      add(this.byMachine, `${row.machine_id} ${row.model}`, row);
      if (row.line_id !== null) add(this.byLine, row.line_id, row);
    }
  }

  /** Of the same machine and model, those next to it. */
  peersOf(row: GroundRow): readonly GroundRow[] {
    const all = this.byMachine.get(`${row.machine_id} ${row.model}`) ?? [];
    const at = all.findIndex(({ id }) => id === row.id);
    const from = Math.max(0, Math.min(at - MOST_PEERS / 2, all.length - MOST_PEERS - 1));
    return all.slice(from, from + MOST_PEERS + 1).filter(({ id }) => id !== row.id);
  }

  onLineOf({ id, line_id: line }: GroundRow): readonly GroundRow[] {
    return line === null ? [] : (this.byLine.get(line) ?? []).filter((each) => each.id !== id);
  }
}
