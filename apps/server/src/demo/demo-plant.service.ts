// Makes the demo plant in an empty database: register, accounts, baselines, two years of nightly rounds. Its clock is
// relative to the moment it is made. An existing plant is left as it is; only the ports of the lines are set anew.

import { Injectable } from '@nestjs/common';
import type { OutcomeCode, Role } from '@drive-keep/api';
import { DataSource, type EntityManager } from 'typeorm';
import { Access } from '../access/access.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { JobItem } from '../jobs/job-item.entity.ts';
import { Job } from '../jobs/job.entity.ts';
import { describeFault } from '../lines/line-text.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { Area } from '../register/area.entity.ts';
import { Line } from '../lines/line.entity.ts';
import { Machine } from '../register/machine.entity.ts';
import { Plant } from '../plant/plant.entity.ts';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';
import { Baselines } from '../sets/baselines.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { FoundAgain } from '../sets/found-again.service.ts';
import { RoundRun } from '../rounds/round-run.entity.ts';
import { Round } from '../rounds/round.entity.ts';
import { CHANGE_HOUR, DemoHistory, demoTime, ROUND, ROUND_HOUR, type Placed } from './demo-history.ts';
import { demoPositions } from './demo-positions.ts';
import {
  beforeReplacement,
  ENGINEER,
  LINES,
  NIGHTS,
  PLANT_NAME,
  TECHNICIAN,
  VIEWER,
  type DemoPosition,
} from './story.ts';
import { MachineController } from '../axes/machine-controller.entity.ts';
import { STACKER_CONTROLLER } from './packing.ts';
import { makeMotors } from './demo-motors.ts';
import { makeSite } from './demo-site.ts';
import { DemoFindings } from './demo-findings.service.ts';
import { DemoDrafts } from './demo-drafts.service.ts';
import { DemoProofs } from './demo-proofs.service.ts';
import { DemoTraces } from './demo-traces.service.ts';
import { DemoReplacements } from './demo-replacements.service.ts';
import { makeMovedWiring, makeWirings } from './demo-wirings.ts';

export const DEMO_ACCOUNTS: readonly { person: string; signInName: string; role: Role; password: string }[] =
  [
    { person: ENGINEER, signInName: 'engineer', role: 'engineer', password: 'glaze-and-fire' },
    { person: TECHNICIAN, signInName: 'technician', role: 'technician', password: 'roller-table' },
    { person: VIEWER, signInName: 'viewer', role: 'viewer', password: 'look-only-1' },
  ];

/** 207 is firmware 2.07. */
const firmwareText = (firmware: number): string =>
  `${Math.floor(firmware / 100)}.${String(firmware % 100).padStart(2, '0')}`;

@Injectable()
export class DemoPlant {
  constructor(
    private readonly dataSource: DataSource,
    private readonly access: Access,
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
    private readonly contents: ContentStore,
    private readonly baselines: Baselines,
    private readonly foundAgain: FoundAgain,
    private readonly logbook: Logbook,
    private readonly replacements: DemoReplacements,
    private readonly findings: DemoFindings,
    private readonly traces: DemoTraces,
    private readonly proofs: DemoProofs,
    private readonly drafts: DemoDrafts,
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
    for (const account of DEMO_ACCOUNTS)
      await this.access.createAccount({ ...account, mustChangePassword: false });
    const placed = await this.dataSource.transaction(async (manager) => {
      const made = await this.makeRegister(manager, now);
      // A baseline is signed with the wiring.
      await makeWirings(manager, this.meanings.bridge, made, demoTime(now, NIGHTS + 1, ROUND_HOUR));
      const history = new DemoHistory(manager, this.contents, this.baselines, this.foundAgain, now, (each) =>
        makeMovedWiring(manager, this.meanings.bridge, each),
      );
      for (const each of made) await history.make(each);
      await history.finish(made);
      await makeMotors(manager, this.meanings.bridge, made, demoTime(now, NIGHTS + 1, ROUND_HOUR));
      await makeSite(manager, made, now);
      await this.makeLastRound(manager, made, now);
      await manager.insert(Plant, { id: true, name: PLANT_NAME });
      await this.logbook.write(
        { person: ENGINEER, action: 'plant-made', text: 'The register of the plant was made.' },
        manager,
      );
      return made;
    });
    await this.replacements.make(placed, now);
    await this.proofs.make(placed, now);
    await this.findings.make(placed, now);
    await this.traces.make(placed, now);
    await this.drafts.make();
  }

  private async makeRegister(manager: EntityManager, now: Date): Promise<Placed[]> {
    const lines = new Map<string, Line>();
    for (const name of LINES) {
      lines.set(name, await manager.save(Line, { name, host: '127.0.0.1', port: 502 }));
    }
    const areas = new Map<string, Area>();
    const machines = new Map<string, Machine>();
    const placed: Placed[] = [];
    for (const [place, told] of demoPositions().entries()) {
      const area = areas.get(told.area) ?? (await manager.save(Area, { name: told.area, place }));
      areas.set(told.area, area);
      const machine =
        machines.get(told.machine) ?? (await manager.save(Machine, { area, name: told.machine, place }));
      machines.set(told.machine, machine);
      const { tag, duty, criticality, motor } = told;
      const position = await manager.save(Position, { machine, tag, duty, criticality, motor, place });
      const stay = async (each: DemoPosition, installedAt: Date, removedAt: Date | null): Promise<Placed> => {
        const dictionary = await this.dictionaries.get(each.model);
        const unit = await manager.save(Unit, {
          position,
          dictionaryId: each.model,
          rating: each.rating,
          region: each.region,
          serial: each.serial,
          firmware: firmwareText(each.firmware),
          line: each.line ? (lines.get(each.line.name) ?? null) : null,
          lineAddress: each.line?.address ?? null,
          ...{ installedAt, removedAt, removedWhy: removedAt ? 'replaced by another model' : '' },
        });
        return { told: each, position, unit, dictionary, before: null };
      };
      const begin = demoTime(now, NIGHTS + 1, ROUND_HOUR);
      const swappedAt = told.replaced ? demoTime(now, told.replaced.nightsAgo, CHANGE_HOUR) : begin;
      const old = beforeReplacement(told);
      const before = old ? await stay(old, begin, swappedAt) : null;
      placed.push({ ...(await stay(told, swappedAt, null)), before });
    }
    const stacker = machines.get(STACKER_CONTROLLER.machine);
    const line = lines.get(STACKER_CONTROLLER.line);
    if (stacker && line) {
      const { address } = STACKER_CONTROLLER;
      await manager.insert(MachineController, { machineId: stacker.id, line, address });
    }
    return placed;
  }

  private async makeRound(manager: EntityManager, dueAt: Date, jobId: string): Promise<void> {
    const round = await manager.save(Round, {
      name: ROUND,
      at: `${String(ROUND_HOUR).padStart(2, '0')}:00`,
      days: [0, 1, 2, 3, 4, 5, 6],
      scope: { areas: [], models: [], criticalities: [] },
      retries: 2,
      // The shift changes then, and everybody is at the machines.
      quiet: { from: '05:30', to: '06:30' },
      enabled: true,
    });
    const doneAt = new Date(dueAt.getTime() + 60_000);
    await manager.insert(RoundRun, { round, dueAt, tries: 1, jobId, doneAt });
  }

  /** The job of last night, so that the register knows how the last try at each unit ended. */
  private async makeLastRound(manager: EntityManager, placed: readonly Placed[], now: Date): Promise<void> {
    const began = demoTime(now, demoTime(now, 0, ROUND_HOUR) < now ? 0 : 1, ROUND_HOUR);
    const job = await manager.save(Job, {
      kind: 'backup' as const,
      state: 'done' as const,
      reason: ROUND,
      requestedBy: ROUND,
      startedAt: began,
      finishedAt: new Date(began.getTime() + 9000),
    });
    await manager.query('update job set requested_at = $1 where id = $2', [began, job.id]);
    await this.makeRound(manager, began, job.id);
    const read = placed.filter(({ told }) => told.line !== null);
    for (const [place, each] of read.entries()) {
      const ended = { jobId: job.id, place, unit: each.unit, state: 'ended' as const, endedAt: began };
      await manager.insert(JobItem, {
        ...ended,
        ...outcome(each),
        ...(await newestBackup(manager, each, began)),
      });
    }
  }
}

/** The backup that the round of last night has kept or found again; nothing where it has read nothing. */
async function newestBackup(
  manager: EntityManager,
  { position, told }: Placed,
  began: Date,
): Promise<Pick<JobItem, 'backupId' | 'foundAgain'>> {
  if (told.failing) return { backupId: null, foundAgain: null };
  const [look]: { id: string; taken_at: Date }[] = await manager.query(
    'select b.id, b.taken_at from last_look l join backup b on b.id = l.backup_id where b.position_id = $1',
    [position.id],
  );
  const found = look !== undefined && look.taken_at.getTime() < began.getTime();
  return { backupId: look?.id ?? null, foundAgain: found ? 'recorded' : null };
}

function outcome({
  told,
  unit,
  dictionary,
}: Placed): Pick<JobItem, 'text' | 'foundSerial'> & { outcome: OutcomeCode } {
  const name = { tag: told.tag, serial: unit.serial, modelName: dictionary.name };
  if (told.failing?.outcome === 'no-answer')
    return {
      outcome: 'no-answer',
      text: describeFault({ code: 'no-answer', afterMs: 1000 }, name),
      foundSerial: null,
    };
  if (told.failing?.outcome === 'other-serial')
    return {
      outcome: 'other-serial',
      text: describeFault({ code: 'other-serial', found: told.answers }, name),
      foundSerial: String(told.answers),
    };
  return {
    outcome: told.refuses.length > 0 ? 'kept-with-gaps' : 'kept',
    text: 'Same as the backup before.',
    foundSerial: null,
  };
}
