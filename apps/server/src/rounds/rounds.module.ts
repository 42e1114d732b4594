import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { BackupModule } from '../backup/backup.module.ts';
import { JobsModule } from '../jobs/jobs.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RoundClock } from './round-clock.service.ts';
import { RoundRun } from './round-run.entity.ts';
import { RoundScopes } from './round-scopes.service.ts';
import { Round } from './round.entity.ts';
import { RoundsController } from './rounds.controller.ts';
import { Rounds } from './rounds.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([Round, RoundRun]), BackupModule, JobsModule, LogbookModule],
  controllers: [RoundsController],
  providers: [RoundClock, Rounds, RoundScopes],
  exports: [RoundClock, Rounds, RoundScopes],
})
export class RoundsModule {}
