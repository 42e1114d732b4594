import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { PlantModule } from '../plant/plant.module.ts';
import { Area } from './area.entity.ts';
import { Machine } from './machine.entity.ts';
import { PlantSettingsController } from './plant-settings.controller.ts';
import { PlantSettings } from './plant-settings.service.ts';
import { Position } from './position.entity.ts';
import { Register } from './register.service.ts';
import { Unit } from './unit.entity.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([Area, Machine, Position, Unit]),
    CatalogueModule,
    LinesModule,
    PlantModule,
    LogbookModule,
  ],
  controllers: [PlantSettingsController],
  providers: [Register, PlantSettings],
  exports: [Register, PlantSettings],
})
export class RegisterModule {}
