import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { MotorArrivals } from './motor-arrivals.service.ts';
import { Motor } from './motor.entity.ts';
import { MotorsController } from './motors.controller.ts';
import { MotorLibrary } from './motors.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([Motor]), SetsModule, RegisterModule, CatalogueModule, LogbookModule],
  controllers: [MotorsController],
  providers: [MotorArrivals, MotorLibrary],
  exports: [MotorArrivals, MotorLibrary],
})
export class MotorsModule {}
