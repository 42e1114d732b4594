// Connection to PostgreSQL and the way its schema came about. Entities are registered by their modules.

import type { DataSourceOptions } from 'typeorm';
import { FirstSchema1700000000001 } from './migrations/first-schema.ts';
import { ModelsAsData1764000000002 } from './migrations/models-as-data.ts';
import { Decisions1764000000003 } from './migrations/decisions.ts';
import { Rounds1764000000004 } from './migrations/rounds.ts';
import { RegisterChanges1764000000005 } from './migrations/register-changes.ts';
import { Motors1764000000006 } from './migrations/motors.ts';
import { ReadOffs1764000000007 } from './migrations/read-offs.ts';
import { FoundAgain1764000000008 } from './migrations/found-again.ts';
import { Writing1764000000009 } from './migrations/writing.ts';
import { KeyIn1764000000010 } from './migrations/key-in.ts';
import { Axes1764000000011 } from './migrations/axes.ts';
import { SaveBegun1764000000012 } from './migrations/save-begun.ts';
import { TrueEnds1764000000013 } from './migrations/true-ends.ts';
import { Evidence1764000000014 } from './migrations/evidence.ts';
import { FoundSerial1764000000015 } from './migrations/found-serial.ts';
import { ToldPlates1764000000016 } from './migrations/told-plates.ts';
import { DictionaryRevisions1764000000018 } from './migrations/dictionary-revisions.ts';
import { FieldWiring1764000000019 } from './migrations/field-wiring.ts';
import { SiteFacts1764000000020 } from './migrations/site-facts.ts';
import { WiringEvidence1764000000021 } from './migrations/wiring-evidence.ts';
import { Replacing1764000000022 } from './migrations/replacing.ts';
import { ReplacementAttempts1764000000023 } from './migrations/replacement-attempts.ts';
import { SetParts1764000000024 } from './migrations/set-parts.ts';
import { Checks1764000000025 } from './migrations/checks.ts';
import { Faults1764000000026 } from './migrations/faults.ts';
import { Traces1764000000027 } from './migrations/traces.ts';
import { Proofs1764000000028 } from './migrations/proofs.ts';
import { Drafts1764000000029 } from './migrations/drafts.ts';
import { OwnPlant1764000000017 } from './migrations/own-plant.ts';
import { SnakeNaming } from './snake-naming.ts';

/** For answering people; whoever waits for a line or holds a lock has connections apart from these. */
const POOL_SIZE = 16;
/** Whoever gets no connection in this time is told so. */
const CONNECTION_MS = 10_000;

export const dataSourceOptions = (url: string): DataSourceOptions => ({
  type: 'postgres',
  url,
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
    TrueEnds1764000000013,
    Evidence1764000000014,
    FoundSerial1764000000015,
    ToldPlates1764000000016,
    OwnPlant1764000000017,
    DictionaryRevisions1764000000018,
    FieldWiring1764000000019,
    SiteFacts1764000000020,
    WiringEvidence1764000000021,
    Replacing1764000000022,
    ReplacementAttempts1764000000023,
    SetParts1764000000024,
    Checks1764000000025,
    Faults1764000000026,
    Traces1764000000027,
    Proofs1764000000028,
    Drafts1764000000029,
  ],
  migrationsRun: true,
  namingStrategy: new SnakeNaming(),
  poolSize: POOL_SIZE,
  extra: {
    connectionTimeoutMillis: CONNECTION_MS,
    // A server that has lost its power is noticed within half a minute: its locks go, its jobs become interrupted.
    options: '-c tcp_keepalives_idle=10 -c tcp_keepalives_interval=5 -c tcp_keepalives_count=3',
  },
});
