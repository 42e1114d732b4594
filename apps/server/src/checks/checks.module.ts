import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { FilesModule } from '../files/files.module.ts';
import { JobsModule } from '../jobs/jobs.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { Acceptances } from './acceptances.service.ts';
import { CheckClock } from './check-clock.service.ts';
import { CheckFinding } from './check-finding.entity.ts';
import { CheckGrounds } from './check-grounds.service.ts';
import { CheckRun } from './check-run.entity.ts';
import { ChecksController } from './checks.controller.ts';
import { Checks } from './checks.service.ts';
import { FindingAcceptance } from './finding-acceptance.entity.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([CheckRun, CheckFinding, FindingAcceptance]),
    ...[CatalogueModule, CompareModule, FilesModule, JobsModule, LogbookModule, RegisterModule],
    ...[SetsModule, StorageModule, WiringModule],
  ],
  controllers: [ChecksController],
  providers: [Acceptances, CheckClock, CheckGrounds, Checks],
  exports: [Checks, CheckClock],
})
export class ChecksModule {}
