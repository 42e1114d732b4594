import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { AccessModule } from '../access/access.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { QueueModule } from '../queue/queue.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { JobEvents } from './job-events.service.ts';
import { JobItem } from './job-item.entity.ts';
import { JobRuns } from './job-runs.service.ts';
import { Job } from './job.entity.ts';
import { JobsController } from './jobs.controller.ts';
import { Jobs } from './jobs.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([Job, JobItem]),
    RegisterModule,
    QueueModule,
    AccessModule,
    LogbookModule,
    StorageModule,
  ],
  controllers: [JobsController],
  providers: [JobEvents, JobRuns, Jobs],
  exports: [JobEvents, JobRuns, Jobs],
})
export class JobsModule {}
