// The rooms of the server by floors, from the top down: each uses only what stands below it (docs/design.md).

import { Module, type DynamicModule } from '@nestjs/common';
import { ServeStaticModule } from '@nestjs/serve-static';
import { TypeOrmModule } from '@nestjs/typeorm';
import { AccessModule } from './access/access.module.ts';
import { AxesModule } from './axes/axes.module.ts';
import { BackupModule } from './backup/backup.module.ts';
import { CatalogueModule } from './catalogue/catalogue.module.ts';
import { ChangesModule } from './changes/changes.module.ts';
import { ChecksModule } from './checks/checks.module.ts';
import { CompareModule } from './compare/compare.module.ts';
import { DecisionsModule } from './decisions/decisions.module.ts';
import { DemoModule } from './demo/demo.module.ts';
import { FilesModule } from './files/files.module.ts';
import { FindUnitsModule } from './find-units/find-units.module.ts';
import { IntegrityModule } from './integrity/integrity.module.ts';
import { JobsModule } from './jobs/jobs.module.ts';
import { KeyInModule } from './key-in/key-in.module.ts';
import { LinesModule } from './lines/lines.module.ts';
import { LiveModule } from './live/live.module.ts';
import { LogbookModule } from './logbook/logbook.module.ts';
import { LookUpsModule } from './look-ups/look-ups.module.ts';
import { MotorsModule } from './motors/motors.module.ts';
import { OverviewModule } from './overview/overview.module.ts';
import { PapersModule } from './papers/papers.module.ts';
import { DraftingModule } from './drafting/drafting.module.ts';
import { DraftsModule } from './drafts/drafts.module.ts';
import { DryRunModule } from './dry-run/dry-run.module.ts';
import { PeersModule } from './peers/peers.module.ts';
import { PlantModule } from './plant/plant.module.ts';
import { ProofsModule } from './proofs/proofs.module.ts';
import { ProvingModule } from './proving/proving.module.ts';
import { QueueModule } from './queue/queue.module.ts';
import { ReadOffModule } from './read-off/read-off.module.ts';
import type { Https } from './reaching/certificate.ts';
import { ReachingModule } from './reaching/reaching.module.ts';
import { RegisterModule } from './register/register.module.ts';
import { ReplacingModule } from './replacing/replacing.module.ts';
import { RoundsModule } from './rounds/rounds.module.ts';
import { SetsModule } from './sets/sets.module.ts';
import { StorageModule } from './storage/storage.module.ts';
import { TracesModule } from './traces/traces.module.ts';
import { TolerationsModule } from './tolerations/tolerations.module.ts';
import { WiringModule } from './wiring/wiring.module.ts';
import { WritingModule } from './writing/writing.module.ts';
import { dataSourceOptions } from './storage/data-source.ts';

const FLOORS = [
  DemoModule,
  IntegrityModule,
  PapersModule,
  ReplacingModule,
  DraftingModule,
  ProvingModule,
  ChangesModule,
  DecisionsModule,
  AxesModule,
  WritingModule,
  KeyInModule,
  OverviewModule,
  ChecksModule,
  TracesModule,
  LiveModule,
  DryRunModule,
  PeersModule,
  CompareModule,
  LookUpsModule,
  RoundsModule,
  BackupModule,
  ReadOffModule,
  FindUnitsModule,
  MotorsModule,
  FilesModule,
  TolerationsModule,
  JobsModule,
  SetsModule,
  DraftsModule,
  ProofsModule,
  WiringModule,
  RegisterModule,
  CatalogueModule,
  LinesModule,
  QueueModule,
  AccessModule,
  PlantModule,
  LogbookModule,
  StorageModule,
];

export interface AppOptions {
  readonly databaseUrl: string;
  /** Folder of the built interface; nothing in tests of the API alone. */
  readonly webFolder?: string;
  /** For https; plain http without it. */
  readonly https?: Https;
}

export const databaseOf = (url: string): DynamicModule =>
  TypeOrmModule.forRoot({ ...dataSourceOptions(url), autoLoadEntities: true, retryAttempts: 0 });

@Module({})
export class AppModule {
  static with({ databaseUrl, webFolder, https }: AppOptions): DynamicModule {
    const web = webFolder
      ? [ServeStaticModule.forRoot({ rootPath: webFolder, exclude: ['/api/{*rest}'] })]
      : [];
    return {
      module: AppModule,
      imports: [databaseOf(databaseUrl), ...FLOORS, ReachingModule.with(https?.authority ?? null), ...web],
    };
  }
}
