import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { KeyInSheet } from './key-in-sheet.entity.ts';
import { KeyInSheetsController } from './key-in-sheets.controller.ts';
import { KeyInSheets } from './key-in-sheets.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([KeyInSheet]),
    CompareModule,
    SetsModule,
    RegisterModule,
    CatalogueModule,
    LogbookModule,
  ],
  controllers: [KeyInSheetsController],
  providers: [KeyInSheets],
  exports: [KeyInSheets],
})
export class KeyInModule {}
