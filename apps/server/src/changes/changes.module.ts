import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { MotorsModule } from '../motors/motors.module.ts';
import { OverviewModule } from '../overview/overview.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { PlantListsController } from './plant-lists.controller.ts';
import { PlantLists } from './plant-lists.service.ts';
import { RegisterChangesController } from './register-changes.controller.ts';
import { RegisterChanges } from './register-changes.service.ts';

@Module({
  imports: [
    OverviewModule,
    MotorsModule,
    SetsModule,
    RegisterModule,
    WiringModule,
    CatalogueModule,
    LogbookModule,
  ],
  controllers: [PlantListsController, RegisterChangesController],
  providers: [PlantLists, RegisterChanges],
  exports: [PlantLists, RegisterChanges],
})
export class ChangesModule {}
