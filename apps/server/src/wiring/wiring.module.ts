import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { WiringPhoto } from './wiring-photo.entity.ts';
import { WiringPhotosController } from './wiring-photos.controller.ts';
import { WiringPhotos } from './wiring-photos.service.ts';
import { WiringRevision } from './wiring-revision.entity.ts';
import { WiringsController } from './wirings.controller.ts';
import { Wirings } from './wirings.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([WiringRevision, WiringPhoto]),
    RegisterModule,
    CatalogueModule,
    LogbookModule,
    StorageModule,
  ],
  controllers: [WiringsController, WiringPhotosController],
  providers: [Wirings, WiringPhotos],
  exports: [Wirings, WiringPhotos],
})
export class WiringModule {}
