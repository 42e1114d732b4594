import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { AccessModule } from '../access/access.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LiveModule } from '../live/live.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { TraceFiles } from './trace-files.service.ts';
import { KeptTrace } from './trace.entity.ts';
import { TraceRecorder } from './trace-recorder.service.ts';
import { TracesController } from './traces.controller.ts';
import { Traces } from './traces.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([KeptTrace]),
    ...[AccessModule, CatalogueModule, LiveModule, LogbookModule, RegisterModule, StorageModule],
  ],
  controllers: [TracesController],
  providers: [Traces, TraceRecorder, TraceFiles],
  exports: [Traces],
})
export class TracesModule {}
