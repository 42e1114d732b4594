import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { ImportsController } from './imports.controller.ts';
import { FilesAgainstKept } from './files-against-kept.service.ts';
import { SetExport } from './set-export.service.ts';
import { SetImport } from './set-import.service.ts';

@Module({
  imports: [SetsModule, RegisterModule, CatalogueModule, LogbookModule],
  controllers: [ImportsController],
  providers: [FilesAgainstKept, SetExport, SetImport],
  exports: [SetExport, SetImport],
})
export class FilesModule {}
