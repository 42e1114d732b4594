import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { PlantModule } from '../plant/plant.module.ts';
import { Cabinet } from './cabinet.entity.ts';
import { SiteController } from './site.controller.ts';
import { Site } from './site.service.ts';
import { SupplyMeasurement } from './supply-measurement.entity.ts';
import { Supply } from './supply.entity.ts';
import { Area } from './area.entity.ts';
import { Machine } from './machine.entity.ts';
import { PlantSettingsController } from './plant-settings.controller.ts';
import { PlantSettings } from './plant-settings.service.ts';
import { Position } from './position.entity.ts';
import { Register } from './register.service.ts';
import { Unit } from './unit.entity.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([Area, Machine, Position, Unit, Supply, SupplyMeasurement, Cabinet]),
    CatalogueModule,
    LinesModule,
    PlantModule,
    LogbookModule,
  ],
  controllers: [PlantSettingsController, SiteController],
  providers: [Register, PlantSettings, Site],
  exports: [Register, PlantSettings, Site],
})
export class RegisterModule {}
