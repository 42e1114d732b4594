// Connection to PostgreSQL and what is stored there.

import type { DataSourceOptions } from 'typeorm';
import { Account } from '../access/account.entity.ts';
import { Session } from '../access/session.entity.ts';
import { StoredDictionary } from '../catalogue/dictionary.entity.ts';
import { Job } from '../jobs/job.entity.ts';
import { JobItem } from '../jobs/job-item.entity.ts';
import { LogbookRow } from '../logbook/logbook.entity.ts';
import { Area } from '../register/area.entity.ts';
import { Line } from '../register/line.entity.ts';
import { Machine } from '../register/machine.entity.ts';
import { Plant } from '../register/plant.entity.ts';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';
import { Backup } from '../sets/backup.entity.ts';
import { Baseline } from '../sets/baseline.entity.ts';
import { SetContent } from '../sets/set-content.entity.ts';
import { StoredWritePlan } from '../writing/write-plan.entity.ts';
import { StoredWriteStep } from '../writing/write-step.entity.ts';
import { FirstSchema1700000000001 } from './migrations/first-schema.ts';
import { BaselineDraft } from '../decisions/baseline-draft.entity.ts';
import { Decision } from '../decisions/decision.entity.ts';
import { RoundRun } from '../rounds/round-run.entity.ts';
import { Round } from '../rounds/round.entity.ts';
import { RegisterChanges1764000000005 } from './migrations/register-changes.ts';
import { Motor } from '../motors/motor.entity.ts';
import { Motors1764000000006 } from './migrations/motors.ts';
import { ReadOff } from '../read-off/read-off.entity.ts';
import { ReadOffs1764000000007 } from './migrations/read-offs.ts';
import { Scan } from '../find-units/scan.entity.ts';
import { FoundAgain1764000000008 } from './migrations/found-again.ts';
import { AxisLoad } from '../axes/axis-load.entity.ts';
import { MachineController } from '../axes/machine-controller.entity.ts';
import { Axes1764000000011 } from './migrations/axes.ts';
import { KeyIn1764000000010 } from './migrations/key-in.ts';
import { SaveBegun1764000000012 } from './migrations/save-begun.ts';
import { Writing1764000000009 } from './migrations/writing.ts';
import { KeyInSheet } from '../key-in/key-in-sheet.entity.ts';
import { Rounds1764000000004 } from './migrations/rounds.ts';
import { Decisions1764000000003 } from './migrations/decisions.ts';
import { ModelsAsData1764000000002 } from './migrations/models-as-data.ts';
import { SnakeNaming } from './snake-naming.ts';

/** Units being read hold one connection each for their line lock, beside those of requests. */
const POOL_SIZE = 30;

export const dataSourceOptions = (url: string): DataSourceOptions => ({
  type: 'postgres',
  url,
  entities: [
    Account,
    Area,
    Backup,
    Baseline,
    BaselineDraft,
    Decision,
    Job,
    JobItem,
    Line,
    LogbookRow,
    Machine,
    Motor,
    Plant,
    Position,
    ReadOff,
    Round,
    RoundRun,
    Scan,
    Session,
    SetContent,
    StoredDictionary,
    StoredWritePlan,
    StoredWriteStep,
    KeyInSheet,
    MachineController,
    AxisLoad,
    Unit,
  ],
  migrations: [
    FirstSchema1700000000001,
    ModelsAsData1764000000002,
    Decisions1764000000003,
    Rounds1764000000004,
    RegisterChanges1764000000005,
    Motors1764000000006,
    ReadOffs1764000000007,
    FoundAgain1764000000008,
    Writing1764000000009,
    KeyIn1764000000010,
    Axes1764000000011,
    SaveBegun1764000000012,
  ],
  migrationsRun: true,
  namingStrategy: new SnakeNaming(),
  poolSize: POOL_SIZE,
  // A server that has lost its power is noticed within half a minute: its locks go, its jobs become interrupted.
  extra: { options: '-c tcp_keepalives_idle=10 -c tcp_keepalives_interval=5 -c tcp_keepalives_count=3' },
});
