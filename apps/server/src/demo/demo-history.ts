// Two years of a position: its baselines with their revisions, the nightly rounds, what people backed up after a change,
// and for a keypad-only unit the days on which it was read off.

import { meaningOf } from '@drive-keep/core/values';
import { findMeaning, type Dictionary } from '@drive-keep/core/dictionary';
import { unreadableCount } from '@drive-keep/core/sets';
import type { EntityManager } from 'typeorm';
import { Decision } from '../tolerations/decision.entity.ts';
import { dayOf } from '../tolerations/tolerations.service.ts';
import type { Position } from '../register/position.entity.ts';
import type { Unit } from '../register/unit.entity.ts';
import { Backup } from '../sets/backup.entity.ts';
import type { Baselines } from '../sets/baselines.service.ts';
import type { ContentStore } from '../sets/content-store.service.ts';
import type { FoundAgain } from '../sets/found-again.service.ts';
import { setAt } from './position-history.ts';
import { ENGINEER, NIGHTS, TECHNICIAN, type DemoPosition } from './story.ts';

export const ROUND = 'Nightly round';
/** Rounds begin at two at night. */
export const ROUND_HOUR = 2;
/** Changes were made in the forenoon after the round of their night. */
export const CHANGE_HOUR = 10;
const DAY_MS = 86_400_000;
const INSERT_AT_ONCE = 1000;

export interface Placed {
  readonly told: DemoPosition;
  readonly position: Position;
  readonly unit: Unit;
  readonly dictionary: Dictionary;
  /** The unit that sat there before it was replaced by this one. */
  readonly before: Placed | null;
}

/** Nights ago, and why its first baseline was signed. */
interface Stay {
  readonly from: number;
  readonly until: number;
  readonly signed: string;
}

interface KeptSet {
  readonly contentHash: string;
  readonly unreadable: number;
}

type NewBackup = Omit<Backup, 'id' | 'seq'>;

/** A night in which a unit held what its backup of `since` holds. */
interface Repeated {
  readonly positionId: string;
  readonly since: number;
}

/** That hour of the day so many nights before `now`, in local time. */
export function demoTime(now: Date, nightsAgo: number, hour: number): Date {
  const day = new Date(now.getTime() - nightsAgo * DAY_MS);
  day.setHours(hour, 0, 0, 0);
  return day;
}

interface Note {
  readonly at: Date;
  readonly person: string;
  readonly action: string;
  readonly tag: string;
  readonly text: string;
}

export class DemoHistory {
  /** By the time of the round. */
  private readonly repeated = new Map<number, Repeated[]>();
  private readonly notes: Note[] = [];

  constructor(
    private readonly manager: EntityManager,
    private readonly contents: ContentStore,
    private readonly baselines: Baselines,
    private readonly foundAgain: FoundAgain,
    private readonly now: Date,
    /** Keeps the wiring as it was moved to the new unit. */
    private readonly rewire: (placed: Placed) => Promise<void>,
  ) {}

  /** What is told over all positions, once they have been made: rounds, and the logbook. */
  async finish(placed: readonly Placed[]): Promise<void> {
    const rows: { position_id: string; seq: string; taken_at: Date }[] = await this.manager.query(
      'select position_id, seq, taken_at from backup',
    );
    const key = (positionId: string, at: number): string => `${positionId} ${at}`;
    const seqs = new Map(rows.map((row) => [key(row.position_id, row.taken_at.getTime()), Number(row.seq)]));
    const nights = [...this.repeated].sort(([a], [b]) => a - b);
    for (const [at, found] of nights) {
      const known = found.map(({ positionId, since }) => seqs.get(key(positionId, since)));
      await this.foundAgain.record(
        { at: new Date(at), takenBy: ROUND, reason: ROUND, seqs: known.filter((seq) => seq !== undefined) },
        this.manager,
      );
    }
    for (const { dictionary, position, told } of placed) {
      if (told.line) await this.readHours(dictionary, position.id);
    }
    await this.writeNotes();
  }

  /** A logbook is written as time goes by, over all positions. */
  private async writeNotes(): Promise<void> {
    for (const { at, person, action, tag, text } of this.notes.sort(
      (a, b) => a.at.getTime() - b.at.getTime(),
    ))
      await this.manager.query(
        `insert into logbook (at, person, action, tag, text) values ($1, $2, $3, $4, $5)`,
        [at, person, action, tag, text],
      );
    await this.manager.query(
      `update decision set made_at = l.at from logbook l join position p on p.tag = l.tag
        where decision.position_id = p.id and l.action = 'decided'
          and l.text like 'Decided: ' || decision.code || ' %'`,
    );
  }

  /** The newest look at a unit tells its hours, too. */
  private async readHours(dictionary: Dictionary, positionId: string): Promise<void> {
    const [look]: { at: Date }[] = await this.manager.query(
      'select at from last_look where position_id = $1',
      [positionId],
    );
    if (!look) return;
    const aside = JSON.stringify(hoursAt(dictionary, look.at));
    await this.manager.query('update last_look set aside = $2 where position_id = $1', [positionId, aside]);
  }

  async make(placed: Placed): Promise<void> {
    const { before, told } = placed;
    if (!before || !told.replaced)
      return this.stay(placed, { from: NIGHTS, until: 0, signed: 'Commissioned' });
    const { nightsAgo, old } = told.replaced;
    await this.stay(before, { from: NIGHTS, until: nightsAgo, signed: 'Commissioned' });
    await this.rewire(placed);
    const signed = `Replacement of serial ${old.serial} by serial ${told.serial}`;
    await this.stay(placed, { from: nightsAgo - 1, until: 0, signed });
  }

  /** One unit from its first night to its last. */
  private async stay(placed: Placed, nights: Stay): Promise<void> {
    // Between two changes nothing differs: each state is kept once.
    const states = new Map<number, KeptSet>();
    const keptAt = async (nightsAgo: number): Promise<KeptSet> => {
      const changes = placed.told.changes.filter((change) => change.nightsAgo >= nightsAgo).length;
      const known = states.get(changes);
      if (known) return known;
      const set = setAt(placed.dictionary, placed.told, nightsAgo);
      const kept = {
        contentHash: await this.contents.keep(set, this.manager),
        unreadable: unreadableCount(set),
      };
      states.set(changes, kept);
      return kept;
    };
    await this.makeBaselines(placed, keptAt, nights);
    await this.makeTolerations(placed);
    const backups = placed.told.line
      ? await this.rounds(placed, keptAt, nights)
      : await this.readingsOff(placed, keptAt);
    for (let from = 0; from < backups.length; from += INSERT_AT_ONCE) {
      await this.manager.insert(Backup, backups.slice(from, from + INSERT_AT_ONCE));
    }
  }

  private async makeBaselines(
    { told, position, dictionary }: Placed,
    keptAt: (nightsAgo: number) => Promise<KeptSet>,
    { from, signed: reason }: Stay,
  ): Promise<void> {
    const signed = [{ nightsAgo: from + 1, reason }, ...told.changes.filter((change) => change.revision)];
    for (const { nightsAgo, reason: why } of signed) {
      const { contentHash } = await keptAt(nightsAgo);
      const signedAt = demoTime(this.now, nightsAgo, CHANGE_HOUR + 1);
      const facts = { positionId: position.id, contentHash, dictionary: dictionary.id };
      await this.baselines.sign(this.manager, { ...facts, signedAt, signedBy: ENGINEER, reason: why });
    }
  }

  private async makeTolerations({ told, position, dictionary }: Placed): Promise<void> {
    const signed = told.changes.findLast((change) => change.revision)?.nightsAgo ?? NIGHTS + 1;
    const baseline = setAt(dictionary, told, signed);
    const now = setAt(dictionary, told, 0);
    for (const { meaning, nightsAgo, daysLeft, reason } of told.tolerated) {
      const code = findMeaning(dictionary, meaningOf(meaning))?.code;
      if (!code) throw new Error(`${told.tag}: no ${meaning}`);
      const madeAt = demoTime(this.now, nightsAgo, CHANGE_HOUR + 2);
      const until = dayOf(new Date(this.now.getTime() + daysLeft * DAY_MS));
      await this.manager.insert(Decision, {
        position,
        code,
        kind: 'tolerate',
        reason,
        until,
        wanted: baseline.readings.get(code) ?? null,
        found: now.readings.get(code) ?? null,
        person: ENGINEER,
        state: 'in-force',
      });
      this.note(
        madeAt,
        ENGINEER,
        told.tag,
        `Decided: ${code} is tolerated until ${until} (${reason}).`,
        'decided',
      );
    }
  }

  private async rounds(
    placed: Placed,
    keptAt: (nightsAgo: number) => Promise<KeptSet>,
    { from, until }: Stay,
  ): Promise<NewBackup[]> {
    const { told } = placed;
    const backups: NewBackup[] = placed.before ? await this.firstLooks(placed, keptAt, from + 1) : [];
    const round = { how: 'read' as const, takenBy: ROUND, reason: ROUND };
    for (let night = from; night >= (told.failing?.nights ?? until); night -= 1) {
      // A round reads what held before that day's change; the person who changed it took a backup afterwards.
      const takenAt = demoTime(this.now, night, ROUND_HOUR);
      if (takenAt < this.now) {
        const kept = await keptAt(night + 1);
        const before = backups.at(-1);
        if (before?.contentHash === kept.contentHash) this.repeat(placed, before, takenAt);
        else backups.push(this.backup(placed, kept, takenAt, round));
      }
      const change = told.changes.find((each) => each.nightsAgo === night);
      if (!change?.by) continue;
      const own = { how: 'read' as const, takenBy: change.by, reason: change.reason };
      const changedAt = demoTime(this.now, night, CHANGE_HOUR);
      backups.push(this.backup(placed, await keptAt(night), changedAt, own));
      this.note(changedAt, change.by, told.tag, `Backed up after a change: ${change.reason}.`);
    }
    return backups;
  }

  /** A new unit as it came out of its box, and after it was written. */
  private async firstLooks(
    placed: Placed,
    keptAt: (nightsAgo: number) => Promise<KeptSet>,
    night: number,
  ): Promise<NewBackup[]> {
    const { dictionary, told } = placed;
    const at = (minutes: number) =>
      new Date(demoTime(this.now, night, CHANGE_HOUR).getTime() + minutes * 60_000);
    const address = findMeaning(dictionary, meaningOf('network.address'))?.code;
    const box = setAt(dictionary, { ...told, values: {} }, night);
    const readings = new Map(box.readings);
    if (address && told.line) readings.set(address, told.line.address);
    const delivered = { ...box, readings };
    const found = {
      contentHash: await this.contents.keep(delivered, this.manager),
      unreadable: unreadableCount(delivered),
    };
    const by = { takenBy: TECHNICIAN };
    return [
      this.backup(placed, found, at(20), { ...by, how: 'read', reason: 'New unit as found' }),
      this.backup(placed, await keptAt(night), at(45), { ...by, how: 'after-write', reason: 'Replacement' }),
    ];
  }

  private repeat({ position }: Placed, since: NewBackup, takenAt: Date): void {
    const at = takenAt.getTime();
    const found = { positionId: position.id, since: since.takenAt.getTime() };
    this.repeated.set(at, [...(this.repeated.get(at) ?? []), found]);
  }

  private async readingsOff(
    placed: Placed,
    keptAt: (nightsAgo: number) => Promise<KeptSet>,
  ): Promise<NewBackup[]> {
    const backups: NewBackup[] = [];
    for (const night of placed.told.readOff) {
      const takenAt = demoTime(this.now, night, CHANGE_HOUR);
      const typed = { how: 'read-off' as const, takenBy: TECHNICIAN, reason: 'Read off at the keypad' };
      backups.push(this.backup(placed, await keptAt(night), takenAt, typed));
      this.note(takenAt, TECHNICIAN, placed.told.tag, 'Imported what was read off at the keypad.');
    }
    return backups;
  }

  private backup(
    { told, position, unit, dictionary }: Placed,
    kept: KeptSet,
    takenAt: Date,
    facts: Pick<NewBackup, 'how' | 'takenBy' | 'reason'>,
  ): NewBackup {
    const { serial, firmware } = unit;
    const aside = told.line ? hoursAt(dictionary, takenAt) : {};
    return { ...facts, ...kept, position, unit, serial, firmware, takenAt, aside };
  }

  private note(at: Date, person: string, tag: string, text: string, action = 'backed-up'): void {
    this.notes.push({ at, person, action, tag, text });
  }
}

/** Round-the-clock running, less the stops at weekends. */
function hoursAt(dictionary: Dictionary, when: Date): object {
  const hours = findMeaning(dictionary, meaningOf('counter.runHours'));
  if (hours?.form.kind !== 'number') return {};
  const ran = ((when.getTime() / 3_600_000) % 40_000) * 0.9;
  const { step, places } = hours.form.resolution;
  return { [hours.code]: Math.round((ran * 10 ** places) / step) };
}
