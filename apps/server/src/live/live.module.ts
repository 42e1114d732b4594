import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { Expectations } from './expectations.service.ts';
import { LiveReading } from './live-reading.service.ts';
import { LiveController } from './live.controller.ts';
import { UnitWatch } from './unit-watch.service.ts';
import { WatchController } from './watch.controller.ts';

@Module({
  imports: [CompareModule, RegisterModule, CatalogueModule, WiringModule, LinesModule, AccessModule],
  controllers: [LiveController, WatchController],
  providers: [LiveReading, UnitWatch, Expectations],
  exports: [LiveReading, UnitWatch],
})
export class LiveModule {}
