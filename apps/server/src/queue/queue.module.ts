import { Module } from '@nestjs/common';
import { WorkQueue } from './work-queue.service.ts';

@Module({
  providers: [WorkQueue],
  exports: [WorkQueue],
})
export class QueueModule {}
