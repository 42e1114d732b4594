import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { JobsModule } from '../jobs/jobs.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { WritingModule } from '../writing/writing.module.ts';
import { AxisLoad } from './axis-load.entity.ts';
import { AxisLoadsController } from './axis-loads.controller.ts';
import { AxisLoads } from './axis-loads.service.ts';
import { AxisRun } from './axis-run.service.ts';
import { MachineControl } from './machine-control.service.ts';
import { MachineController } from './machine-controller.entity.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([AxisLoad, MachineController]),
    WritingModule,
    JobsModule,
    SetsModule,
    RegisterModule,
    CatalogueModule,
    LinesModule,
    LogbookModule,
    StorageModule,
  ],
  controllers: [AxisLoadsController],
  providers: [AxisLoads, AxisRun, MachineControl],
  exports: [AxisLoads, AxisRun, MachineControl],
})
export class AxesModule {}
