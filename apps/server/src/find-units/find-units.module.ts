import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { JobsModule } from '../jobs/jobs.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { Scan } from './scan.entity.ts';
import { ScansController } from './scans.controller.ts';
import { Scans } from './scans.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([Scan]),
    JobsModule,
    RegisterModule,
    CatalogueModule,
    LinesModule,
    LogbookModule,
    StorageModule,
  ],
  controllers: [ScansController],
  providers: [Scans],
  exports: [Scans],
})
export class FindUnitsModule {}
