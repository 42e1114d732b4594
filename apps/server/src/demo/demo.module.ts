import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { DemoPlant } from './demo-plant.service.ts';

@Module({
  imports: [AccessModule, CatalogueModule, SetsModule, LogbookModule],
  providers: [DemoPlant],
  exports: [DemoPlant],
})
export class DemoModule {}
