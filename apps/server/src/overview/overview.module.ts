import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { PlantModule } from '../plant/plant.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { TolerationsModule } from '../tolerations/tolerations.module.ts';
import { FirstSteps } from './first-steps.service.ts';
import { OverviewController } from './overview.controller.ts';
import { Overview } from './overview.service.ts';

@Module({
  imports: [StorageModule, TolerationsModule, SetsModule, RegisterModule, CatalogueModule, PlantModule],
  controllers: [OverviewController],
  providers: [Overview, FirstSteps],
  exports: [Overview],
})
export class OverviewModule {}
