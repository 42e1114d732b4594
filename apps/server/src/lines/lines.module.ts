import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { StorageModule } from '../storage/storage.module.ts';
import { LineTurns } from './line-turns.ts';
import { Line } from './line.entity.ts';
import { Lines } from './lines.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([Line]), StorageModule],
  providers: [Lines, LineTurns],
  exports: [Lines, LineTurns],
})
export class LinesModule {}
