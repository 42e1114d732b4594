import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { ProofsModule } from '../proofs/proofs.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { Axes } from './axes.service.ts';
import { Backup } from './backup.entity.ts';
import { Backups } from './backups.service.ts';
import { Baseline } from './baseline.entity.ts';
import { Baselines } from './baselines.service.ts';
import { ContentStore } from './content-store.service.ts';
import { Drift } from './drift.service.ts';
import { FoundAgain } from './found-again.service.ts';
import { History } from './history.service.ts';
import { SetPart } from './set-part.entity.ts';
import { SetParts } from './set-parts.service.ts';
import { SetContent } from './set-content.entity.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([Backup, Baseline, SetContent, SetPart]),
    RegisterModule,
    WiringModule,
    CatalogueModule,
    LogbookModule,
    ProofsModule,
    StorageModule,
  ],
  providers: [Axes, Backups, Baselines, ContentStore, Drift, FoundAgain, History, SetParts],
  exports: [Axes, Backups, Baselines, ContentStore, Drift, FoundAgain, History, SetParts],
})
export class SetsModule {}
