// Makes the demo plant in an empty database: register, accounts, baselines, two years of nightly rounds. Its clock is
// relative to the moment it is made. An existing plant is left as it is; only the ports of the lines are set anew.

import { Injectable } from '@nestjs/common';
import type { OutcomeCode, Role } from '@drive-keep/api';
import { findMeaning, type Dictionary } from '@drive-keep/core/dictionary';
import { unreadableCount, type ParameterSet } from '@drive-keep/core/sets';
import { DataSource, type EntityManager } from 'typeorm';
import { Access } from '../access/access.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { JobItem } from '../jobs/job-item.entity.ts';
import { Job } from '../jobs/job.entity.ts';
import { describeFault } from '../line/line-text.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { Area } from '../register/area.entity.ts';
import { Line } from '../register/line.entity.ts';
import { Machine } from '../register/machine.entity.ts';
import { Plant } from '../register/plant.entity.ts';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';
import { Backup } from '../sets/backup.entity.ts';
import { Baseline } from '../sets/baseline.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import * as kiln from './kiln-one.ts';
import { setAt } from './section-history.ts';

export const DEMO_ACCOUNTS: readonly { person: string; signInName: string; role: Role; password: string }[] =
  [
    { person: kiln.ENGINEER, signInName: 'engineer', role: 'engineer', password: 'glaze-and-fire' },
    { person: kiln.TECHNICIAN, signInName: 'technician', role: 'technician', password: 'roller-table' },
    { person: kiln.VIEWER, signInName: 'viewer', role: 'viewer', password: 'look-only-1' },
  ];

const ROUND = 'Nightly round';
const DAY_MS = 86_400_000;
/** Rounds begin at two at night. */
const ROUND_HOUR = 2;
/** Changes were made in the forenoon after the round of their night. */
const CHANGE_HOUR = 10;
const INSERT_AT_ONCE = 1000;

interface Placed {
  readonly section: kiln.Section;
  readonly position: Position;
  readonly unit: Unit;
}

type NewBackup = Omit<Backup, 'id' | 'seq'>;

@Injectable()
export class DemoPlant {
  constructor(
    private readonly dataSource: DataSource,
    private readonly access: Access,
    private readonly dictionaries: Dictionaries,
    private readonly contents: ContentStore,
    private readonly logbook: Logbook,
  ) {}

  /** `ports` by line name, as the simulated plant opened them. */
  async ensure(ports: Readonly<Record<string, number>>): Promise<void> {
    const made = await this.dataSource.getRepository(Plant).count();
    if (made === 0) await this.make(new Date());
    for (const [name, port] of Object.entries(ports)) {
      await this.dataSource.getRepository(Line).update({ name }, { port });
    }
  }

  private async make(now: Date): Promise<void> {
    const dictionary = await this.dictionaries.get(kiln.MODEL);
    for (const account of DEMO_ACCOUNTS)
      await this.access.createAccount({ ...account, mustChangePassword: false });
    await this.dataSource.transaction(async (manager) => {
      const placed = await this.makeRegister(manager, now);
      for (const each of placed) await this.makeHistory(manager, dictionary, each, now);
      await this.makeLastRound(manager, dictionary, placed, now);
      await manager.insert(Plant, { id: true, name: kiln.PLANT_NAME });
      await this.logbook.write(
        { person: kiln.ENGINEER, action: 'plant-made', text: 'The register of the plant was made.' },
        manager,
      );
    });
  }

  private async makeRegister(manager: EntityManager, now: Date): Promise<Placed[]> {
    const area = await manager.save(Area, { name: 'Kiln 1', place: 1 });
    const machine = await manager.save(Machine, { area, name: 'Roller sections', place: 1 });
    const lines = new Map<string, Line>();
    for (const name of kiln.LINES) {
      lines.set(name, await manager.save(Line, { name, host: '127.0.0.1', port: 502 }));
    }
    const placed: Placed[] = [];
    for (const section of kiln.kilnOne()) {
      const position = await manager.save(Position, {
        machine,
        tag: section.tag,
        duty: `Kiln 1 roller section ${section.number}`,
        criticality: 'high' as const,
        motor: 'Roller gear motor 1.5 kW, 400 V star, 3.6 A, 1410 rpm',
        place: section.number,
      });
      const unit = await manager.save(Unit, {
        position,
        dictionaryId: kiln.MODEL,
        rating: kiln.RATING,
        region: kiln.REGION,
        serial: section.serial,
        firmware: `2.${String(section.firmware % 100).padStart(2, '0')}`,
        line: lines.get(section.line) ?? null,
        lineAddress: section.address,
        installedAt: at(now, kiln.NIGHTS + 1, CHANGE_HOUR),
        removedAt: null,
      });
      placed.push({ section, position, unit });
    }
    return placed;
  }

  private async makeHistory(
    manager: EntityManager,
    dictionary: Dictionary,
    placed: Placed,
    now: Date,
  ): Promise<void> {
    const { section, position, unit } = placed;
    const keep = (set: ParameterSet) => this.contents.keep(set, manager);
    const first = setAt(dictionary, section, kiln.NIGHTS + 1);
    const signing = { position, signedBy: kiln.ENGINEER };
    await manager.insert(Baseline, {
      ...signing,
      revision: 1,
      contentHash: await keep(first),
      signedAt: at(now, kiln.NIGHTS + 1, CHANGE_HOUR),
      reason: 'Commissioned',
    });
    let revision = 1;
    for (const change of section.changes.filter((each) => each.revision)) {
      revision += 1;
      await manager.insert(Baseline, {
        ...signing,
        revision,
        contentHash: await keep(setAt(dictionary, section, change.nightsAgo)),
        signedAt: at(now, change.nightsAgo, CHANGE_HOUR + 1),
        reason: change.reason,
      });
    }
    const backups: NewBackup[] = [];
    const common = { position, unit, serial: section.serial, firmware: unit.firmware };
    for (let night = kiln.NIGHTS; night >= (section.failing?.nights ?? 0); night -= 1) {
      const change = section.changes.find((each) => each.nightsAgo === night);
      // A round reads what held before that day's change; the person who changed it took a backup afterwards.
      const held = setAt(dictionary, section, night + 1);
      const round = {
        ...common,
        takenBy: ROUND,
        how: 'read' as const,
        reason: ROUND,
        takenAt: at(now, night, ROUND_HOUR),
      };
      if (round.takenAt < now) backups.push(await this.backup(keep, dictionary, held, round));
      if (!change) continue;
      const own = {
        ...round,
        takenBy: change.by,
        reason: change.reason,
        takenAt: at(now, night, CHANGE_HOUR),
      };
      backups.push(await this.backup(keep, dictionary, setAt(dictionary, section, night), own));
      await this.noteChange(manager, change, section.tag, own.takenAt);
    }
    for (let from = 0; from < backups.length; from += INSERT_AT_ONCE) {
      await manager.insert(Backup, backups.slice(from, from + INSERT_AT_ONCE));
    }
  }

  private async backup(
    keep: (set: ParameterSet) => Promise<string>,
    dictionary: Dictionary,
    set: ParameterSet,
    facts: Omit<NewBackup, 'contentHash' | 'unreadable' | 'aside'>,
  ): Promise<NewBackup> {
    const hours = findMeaning(dictionary, 'counter.runHours');
    // Two years of round-the-clock running, less the stops at weekends, in tenths of an hour.
    const ran = Math.round(((facts.takenAt.getTime() / 3_600_000) % 40_000) * 9);
    const aside = hours ? { [hours.code]: ran } : {};
    return { ...facts, contentHash: await keep(set), unreadable: unreadableCount(set), aside };
  }

  private async noteChange(
    manager: EntityManager,
    change: kiln.Change,
    tag: string,
    when: Date,
  ): Promise<void> {
    await manager.query(
      `insert into logbook (at, person, action, tag, text) values ($1, $2, 'backed-up', $3, $4)`,
      [when, change.by, tag, `Backed up after a change: ${change.reason}.`],
    );
  }

  /** The job of last night, so that the register knows how the last try at each unit ended. */
  private async makeLastRound(
    manager: EntityManager,
    dictionary: Dictionary,
    placed: readonly Placed[],
    now: Date,
  ): Promise<void> {
    const began = at(now, at(now, 0, ROUND_HOUR) < now ? 0 : 1, ROUND_HOUR);
    const job = await manager.save(Job, {
      kind: 'backup' as const,
      state: 'done' as const,
      reason: ROUND,
      requestedBy: ROUND,
      startedAt: began,
      finishedAt: new Date(began.getTime() + 9000),
    });
    await manager.query('update job set requested_at = $1 where id = $2', [began, job.id]);
    for (const [place, each] of placed.entries()) {
      const ended = { jobId: job.id, place, unit: each.unit, state: 'ended' as const, endedAt: began };
      await manager.insert(JobItem, { ...ended, ...outcome(each, dictionary) });
    }
  }
}

function outcome({ section, unit }: Placed, dictionary: Dictionary): { outcome: OutcomeCode; text: string } {
  const name = { tag: section.tag, serial: unit.serial, modelName: dictionary.name };
  switch (section.failing?.outcome) {
    case 'no-answer':
      return { outcome: 'no-answer', text: describeFault({ code: 'no-answer', afterMs: 1000 }, name) };
    case 'other-serial':
      return {
        outcome: 'other-serial',
        text: describeFault({ code: 'other-serial', found: section.answers }, name),
      };
    case undefined:
      return {
        outcome: section.refuses.length > 0 ? 'kept-with-gaps' : 'kept',
        text: 'Same as the backup before.',
      };
  }
}

/** That hour of the day so many nights before `now`, in local time. */
function at(now: Date, nightsAgo: number, hour: number): Date {
  const day = new Date(now.getTime() - nightsAgo * DAY_MS);
  day.setHours(hour, 0, 0, 0);
  return day;
}
