import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { WiringRevision } from './wiring-revision.entity.ts';
import { WiringsController } from './wirings.controller.ts';
import { Wirings } from './wirings.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([WiringRevision]), RegisterModule, CatalogueModule, LogbookModule],
  controllers: [WiringsController],
  providers: [Wirings],
  exports: [Wirings],
})
export class WiringModule {}
