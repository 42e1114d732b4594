import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { FilesModule } from '../files/files.module.ts';
import { JobsModule } from '../jobs/jobs.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { BackupJobs } from './backup-jobs.service.ts';
import { BackupRun } from './backup-run.service.ts';
import { BackupsController } from './backups.controller.ts';
import { UnitBackups } from './unit-backups.service.ts';

@Module({
  imports: [FilesModule, JobsModule, SetsModule, RegisterModule, CatalogueModule, LinesModule, LogbookModule],
  controllers: [BackupsController],
  providers: [BackupJobs, BackupRun, UnitBackups],
  exports: [BackupJobs, BackupRun, UnitBackups],
})
export class BackupModule {}
