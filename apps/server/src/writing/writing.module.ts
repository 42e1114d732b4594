import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { BackupModule } from '../backup/backup.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { JobsModule } from '../jobs/jobs.module.ts';
import { KeyInModule } from '../key-in/key-in.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { ResetPlansController } from './reset-plans.controller.ts';
import { ResetPlans } from './reset-plans.service.ts';
import { WriteFollowUps } from './write-follow-ups.service.ts';
import { WriteGuard } from './write-guard.service.ts';
import { StoredWritePlan } from './write-plan.entity.ts';
import { WritePlansController } from './write-plans.controller.ts';
import { WritePlans } from './write-plans.service.ts';
import { WriteRun } from './write-run.service.ts';
import { StoredWriteStep } from './write-step.entity.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([StoredWritePlan, StoredWriteStep]),
    KeyInModule,
    CompareModule,
    BackupModule,
    JobsModule,
    SetsModule,
    RegisterModule,
    CatalogueModule,
    LinesModule,
    LogbookModule,
    StorageModule,
  ],
  controllers: [WritePlansController, ResetPlansController],
  providers: [WritePlans, WriteGuard, WriteRun, WriteFollowUps, ResetPlans],
  exports: [WritePlans, WriteGuard, WriteRun, WriteFollowUps, ResetPlans],
})
export class WritingModule {}
