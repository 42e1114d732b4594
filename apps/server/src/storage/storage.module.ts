import { Module } from '@nestjs/common';
import { Clock } from './clock.ts';
import { LockConnections } from './lock-connections.ts';

@Module({
  providers: [Clock, LockConnections],
  exports: [Clock, LockConnections],
})
export class StorageModule {}
