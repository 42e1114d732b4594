// Motors that backups tell of, held against the library: nobody has it, other numbers under the same name, or the same
// numbers under another one. It is shown field by field and never merged by itself.

import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { MotorArrival } from '@drive-keep/api';
import {
  clashesOf,
  plateFromSet,
  plateLine,
  plateOf,
  type FieldClash,
  type PlateKey,
  type ToldValue,
} from '@drive-keep/core/motor';
import type { ParameterSet } from '@drive-keep/core/sets';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Position } from '../register/position.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { MotorLibrary } from './motors.service.ts';
import type { Motor } from './motor.entity.ts';

interface Row {
  readonly id: string;
  readonly tag: string;
  readonly duty: string;
  readonly motor: string;
  readonly motor_id: string | null;
  readonly content_hash: string;
  readonly taken_at: Date;
}

/** Goes up when plates are read out of sets in another way: what was told before is told anew. */
const WAY = 2;
/** Contents that are read at once where nobody has read them yet. */
const AT_ONCE = 50;

/** A set tells a motor where it says at least so much of it. */
const NEEDED: readonly PlateKey[] = ['power', 'current'];
const SERVO_NEEDED: readonly PlateKey[] = ['stallCurrent', 'stallTorque'];

const NEWEST = `
select p.id, p.tag, p.duty, p.motor, p.motor_id, newest.content_hash, look.at as taken_at
from position p
join last_look look on look.position_id = p.id
join backup newest on newest.id = look.backup_id
where p.retired_at is null`;

@Injectable()
export class MotorArrivals {
  constructor(
    private readonly dataSource: DataSource,
    private readonly contents: ContentStore,
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
    private readonly library: MotorLibrary,
    private readonly logbook: Logbook,
  ) {}

  async all(): Promise<readonly MotorArrival[]> {
    const rows: Row[] = await this.dataSource.query(`${NEWEST} order by p.tag`);
    const motors = await this.library.motors();
    const left = await this.left();
    const told = await this.toldOf(rows);
    const arrivals: MotorArrival[] = [];
    // Many positions hold the same and have the same motor, or none.
    const seen = new Map<string, Told | undefined>();
    for (const { id, tag, duty, motor, motor_id: motorId, content_hash: hash, taken_at: at } of rows) {
      const key = `${hash} ${motorId ?? ''}`;
      const plate = told.get(hash);
      // A content that is damaged tells nothing; its position says so.
      if (!seen.has(key)) seen.set(key, plate && tellOf(plate, motorId, motors));
      const tells = seen.get(key);
      if (!tells || left.has(`${id} ${tells.fingerprint}`)) continue;
      arrivals.push({ ...tells, tag, duty, name: tells.name ?? motor, backupAt: at.toISOString() });
    }
    return arrivals;
  }

  /** The motor of this backup goes into the library under a name of its own, and is the one of the position. */
  async takeIn(tag: string, name: string, account: Account): Promise<string> {
    const row = await this.row(tag);
    const told = await this.told(row.content_hash);
    const id = await this.dataSource.transaction((manager) =>
      this.library.keep(manager, name, plateOf(told), '', account),
    );
    await this.library.assign(tag, id, account);
    return id;
  }

  /** Somebody has looked at it and leaves it; it comes back when the set tells something else. */
  async leave(tag: string, fingerprint: string, { person }: Account): Promise<void> {
    const row = await this.row(tag);
    await this.dataSource.query(
      'insert into motor_left (position_id, fingerprint, person) values ($1, $2, $3) on conflict do nothing',
      [row.id, fingerprint, person],
    );
    const text = 'What its set tells of the motor was looked at and left as it is.';
    await this.logbook.write({ person, action: 'motor-left', tag, text });
  }

  private async row(tag: string): Promise<Row> {
    if (!(await this.dataSource.getRepository(Position).existsBy({ tag })))
      throw notFound(`The position ${tag}`);
    const [row]: Row[] = await this.dataSource.query(`${NEWEST} and p.tag = $1`, [tag]);
    if (row) return row;
    throw new ProblemException(404, 'no-backup', `${tag} has no backup that could tell of a motor.`);
  }

  private async told(hash: string): Promise<ReadonlyMap<PlateKey, ToldValue>> {
    return this.plateIn(await this.contents.get(hash));
  }

  private async plateIn(set: ParameterSet): Promise<ReadonlyMap<PlateKey, ToldValue>> {
    return plateFromSet(this.meanings.bridge, await this.dictionaries.get(set.dictionary), set);
  }

  /** What each content tells, by its hash: contents never change, so each is read for it once. */
  private async toldOf(rows: readonly Row[]): Promise<ReadonlyMap<string, ReadonlyMap<PlateKey, ToldValue>>> {
    const hashes = [...new Set(rows.map((row) => row.content_hash))];
    const kept: { content_hash: string; told: [PlateKey, ToldValue][] }[] = await this.dataSource.query(
      `select content_hash, told from told_plate where way = ${WAY} and content_hash = any($1)`,
      [hashes],
    );
    const known = new Map(kept.map(({ content_hash: hash, told }) => [hash, new Map(told)]));
    const missing = hashes.filter((hash) => !known.has(hash));
    for (let at = 0; at < missing.length; at += AT_ONCE)
      await Promise.all(
        missing.slice(at, at + AT_ONCE).map(async (hash) => {
          const set = await this.contents.getIfGood(hash);
          if (!set) return;
          const plate = await this.plateIn(set);
          known.set(hash, new Map(plate));
          await this.dataSource.query(
            `insert into told_plate (content_hash, way, told) values ($1, ${WAY}, $2)
             on conflict (content_hash) do update set way = excluded.way, told = excluded.told`,
            [hash, JSON.stringify([...plate])],
          );
        }),
      );
    return known;
  }

  private async left(): Promise<ReadonlySet<string>> {
    const rows: { position_id: string; fingerprint: string }[] = await this.dataSource.query(
      'select position_id, fingerprint from motor_left',
    );
    return new Set(rows.map((row) => `${row.position_id} ${row.fingerprint}`));
  }
}

/** What a set tells of a motor, wherever it is held; `name` is that of the position's own motor. */
type Told = Omit<MotorArrival, 'tag' | 'duty' | 'name' | 'backupAt'> & { readonly name: string | undefined };

function tellOf(
  told: ReadonlyMap<PlateKey, ToldValue>,
  motorId: string | null,
  motors: readonly Motor[],
): Told | undefined {
  const enough = (keys: readonly PlateKey[]) => keys.every((key) => told.has(key));
  if (!enough(NEEDED) && !enough(SERVO_NEEDED)) return undefined;
  const own = motors.find(({ id }) => id === motorId);
  const fields = own ? clashesOf(own.plate, told) : [];
  if (own && !fields.some(({ clashes }) => clashes)) return undefined;
  const known = own ?? motors.find((motor) => holdsTheSame(clashesOf(motor.plate, told)));
  return {
    kind: own ? 'other-numbers' : known ? 'known-numbers' : 'new',
    against: known ? { id: known.id, name: known.name } : null,
    name: own?.name,
    fields: known ? clashesOf(known.plate, told) : clashesOf({ ratings: [] }, told),
    line: plateLine(plateOf(told)),
    fingerprint: fingerprintOf(told, known),
  };
}

/** So many numbers on both sides that it is hardly another motor, and none of them clashes. */
const ENOUGH_IN_COMMON = 4;

function holdsTheSame(fields: readonly FieldClash[]): boolean {
  const both = fields.filter(({ plate, told }) => plate !== null && told !== null);
  return both.length >= ENOUGH_IN_COMMON && both.every(({ clashes }) => !clashes);
}

/** Changes with what the set tells and with what the library says of that motor. */
function fingerprintOf(told: ReadonlyMap<PlateKey, ToldValue>, motor: Motor | undefined): string {
  const numbers = [...told].map(([key, { value }]) => `${key}=${value}`).sort();
  const text = JSON.stringify([numbers, motor?.id ?? null, motor?.plate ?? null]);
  return createHash('sha256').update(text).digest('hex').slice(0, 32);
}
