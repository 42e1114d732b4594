import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { LiveReading } from './live-reading.service.ts';
import { LiveController } from './live.controller.ts';

@Module({
  imports: [CompareModule, RegisterModule, CatalogueModule, LinesModule, AccessModule],
  controllers: [LiveController],
  providers: [LiveReading],
  exports: [LiveReading],
})
export class LiveModule {}
