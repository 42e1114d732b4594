import { Module, type DynamicModule } from '@nestjs/common';
import { APP_GUARD } from '@nestjs/core';
import { ServeStaticModule } from '@nestjs/serve-static';
import { TypeOrmModule } from '@nestjs/typeorm';
import { Access } from './access/access.service.ts';
import { SessionController } from './access/session.controller.ts';
import { SessionGuard } from './access/session.guard.ts';
import { BackupJobs } from './backup/backup-jobs.service.ts';
import { BackupRun } from './backup/backup-run.service.ts';
import { BackupsController } from './backup/backups.controller.ts';
import { Dictionaries } from './catalogue/dictionaries.service.ts';
import { DictionariesController } from './catalogue/dictionaries.controller.ts';
import { LookUpsController } from './catalogue/look-ups.controller.ts';
import { LookUps } from './catalogue/look-ups.service.ts';
import { ModelImport } from './catalogue/model-import.ts';
import { OwnModelsController } from './catalogue/own-models.controller.ts';
import { OwnModels } from './catalogue/own-models.service.ts';
import { AcrossController } from './compare/across.controller.ts';
import { Across } from './compare/across.service.ts';
import { LiveReading } from './compare/live-reading.service.ts';
import { ComparisonController } from './compare/comparison.controller.ts';
import { PeersController } from './compare/peers.controller.ts';
import { Peers } from './compare/peers.service.ts';
import { ReferencedSets } from './compare/referenced-sets.service.ts';
import { BaselineDrafts } from './decisions/baseline-drafts.service.ts';
import { DecisionsController } from './decisions/decisions.controller.ts';
import { Decisions } from './decisions/decisions.service.ts';
import { Tolerations } from './decisions/tolerations.service.ts';
import { DemoPlant } from './demo/demo-plant.service.ts';
import { ImportsController } from './files/imports.controller.ts';
import { SetExport } from './files/set-export.service.ts';
import { SetImport } from './files/set-import.service.ts';
import { HealthController } from './health.controller.ts';
import { IntegrityController } from './integrity/integrity.controller.ts';
import { Integrity } from './integrity/integrity.service.ts';
import { JobEvents } from './jobs/job-events.service.ts';
import { JobQueue } from './jobs/job-queue.service.ts';
import { JobsController } from './jobs/jobs.controller.ts';
import { Jobs } from './jobs/jobs.service.ts';
import { LineLock } from './line/line-lock.ts';
import { LogbookController } from './logbook/logbook.controller.ts';
import { Logbook } from './logbook/logbook.service.ts';
import { PlantListsController } from './register/plant-lists.controller.ts';
import { PlantLists } from './register/plant-lists.service.ts';
import { RegisterChangesController } from './register/register-changes.controller.ts';
import { RegisterChanges } from './register/register-changes.service.ts';
import { ScansController } from './find-units/scans.controller.ts';
import { Scans } from './find-units/scans.service.ts';
import { MotorArrivals } from './motors/motor-arrivals.service.ts';
import { MotorsController } from './motors/motors.controller.ts';
import { MotorLibrary } from './motors/motors.service.ts';
import { PapersController } from './papers/papers.controller.ts';
import { Papers } from './papers/papers.service.ts';
import { ReadOffsController } from './read-off/read-offs.controller.ts';
import { ReadOffs } from './read-off/read-offs.service.ts';
import { RegisterController } from './register/register.controller.ts';
import { Register } from './register/register.service.ts';
import { RoundClock } from './rounds/round-clock.service.ts';
import { RoundScopes } from './rounds/round-scopes.service.ts';
import { RoundsController } from './rounds/rounds.controller.ts';
import { Rounds } from './rounds/rounds.service.ts';
import { Backups } from './sets/backups.service.ts';
import { ContentStore } from './sets/content-store.service.ts';
import { Drift } from './sets/drift.service.ts';
import { FoundAgain } from './sets/found-again.service.ts';
import { History } from './sets/history.service.ts';
import { dataSourceOptions } from './storage/data-source.ts';
import { WritePlansController } from './writing/write-plans.controller.ts';
import { AxisLoadsController } from './axes/axis-loads.controller.ts';
import { MachineControl } from './axes/machine-control.service.ts';
import { AxisLoads } from './axes/axis-loads.service.ts';
import { AxisRun } from './axes/axis-run.service.ts';
import { Axes } from './sets/axes.service.ts';
import { UnitBackups } from './line/unit-backups.service.ts';
import { KeyInSheetsController } from './key-in/key-in-sheets.controller.ts';
import { KeyInSheets } from './key-in/key-in-sheets.service.ts';
import { ResetPlansController } from './writing/reset-plans.controller.ts';
import { ResetPlans } from './writing/reset-plans.service.ts';
import { WriteFollowUps } from './writing/write-follow-ups.service.ts';
import { WritePlans } from './writing/write-plans.service.ts';
import { WriteRun } from './writing/write-run.service.ts';

const CONTROLLERS = [
  AcrossController,
  AxisLoadsController,
  BackupsController,
  ComparisonController,
  DecisionsController,
  DictionariesController,
  HealthController,
  ImportsController,
  IntegrityController,
  JobsController,
  KeyInSheetsController,
  LogbookController,
  LookUpsController,
  MotorsController,
  OwnModelsController,
  PapersController,
  PeersController,
  PlantListsController,
  ReadOffsController,
  RegisterChangesController,
  RegisterController,
  RoundsController,
  ScansController,
  SessionController,
  WritePlansController,
  ResetPlansController,
];

const PROVIDERS = [
  { provide: APP_GUARD, useClass: SessionGuard },
  Access,
  Across,
  Axes,
  AxisLoads,
  MachineControl,
  AxisRun,
  BackupJobs,
  BackupRun,
  Backups,
  BaselineDrafts,
  ContentStore,
  Decisions,
  DemoPlant,
  Dictionaries,
  Drift,
  FoundAgain,
  History,
  Integrity,
  JobEvents,
  JobQueue,
  Jobs,
  KeyInSheets,
  LineLock,
  LiveReading,
  Logbook,
  LookUps,
  ModelImport,
  MotorArrivals,
  MotorLibrary,
  OwnModels,
  Papers,
  Peers,
  ReadOffs,
  ReferencedSets,
  PlantLists,
  Register,
  RegisterChanges,
  RoundClock,
  Rounds,
  RoundScopes,
  Scans,
  SetExport,
  SetImport,
  Tolerations,
  UnitBackups,
  ResetPlans,
  WriteFollowUps,
  WritePlans,
  WriteRun,
];

export interface AppOptions {
  readonly databaseUrl: string;
  /** Folder of the built interface; nothing in tests of the API alone. */
  readonly webFolder?: string;
}

@Module({})
export class AppModule {
  static with({ databaseUrl, webFolder }: AppOptions): DynamicModule {
    const web = webFolder
      ? [ServeStaticModule.forRoot({ rootPath: webFolder, exclude: ['/api/{*rest}'] })]
      : [];
    return {
      module: AppModule,
      imports: [TypeOrmModule.forRoot({ ...dataSourceOptions(databaseUrl), retryAttempts: 0 }), ...web],
      controllers: CONTROLLERS,
      providers: PROVIDERS,
    };
  }
}
