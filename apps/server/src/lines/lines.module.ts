import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { AccessModule } from '../access/access.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { PlantModule } from '../plant/plant.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { LineChanges } from './line-changes.service.ts';
import { LineTurns } from './line-turns.ts';
import { Line } from './line.entity.ts';
import { LinesController } from './lines.controller.ts';
import { Lines } from './lines.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([Line]), AccessModule, LogbookModule, PlantModule, StorageModule],
  controllers: [LinesController],
  providers: [Lines, LineTurns, LineChanges],
  exports: [Lines, LineTurns],
})
export class LinesModule {}
