import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LogbookController } from './logbook.controller.ts';
import { LogbookRow } from './logbook.entity.ts';
import { Logbook } from './logbook.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([LogbookRow])],
  controllers: [LogbookController],
  providers: [Logbook],
  exports: [Logbook],
})
export class LogbookModule {}
