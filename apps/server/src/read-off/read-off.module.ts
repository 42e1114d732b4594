import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { ReadOff } from './read-off.entity.ts';
import { ReadOffsController } from './read-offs.controller.ts';
import { ReadOffs } from './read-offs.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([ReadOff]), SetsModule, RegisterModule, CatalogueModule, LogbookModule],
  controllers: [ReadOffsController],
  providers: [ReadOffs],
  exports: [ReadOffs],
})
export class ReadOffModule {}
