import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { LookUpsController } from './look-ups.controller.ts';
import { LookUps } from './look-ups.service.ts';

@Module({
  imports: [SetsModule, RegisterModule, CatalogueModule],
  controllers: [LookUpsController],
  providers: [LookUps],
  exports: [LookUps],
})
export class LookUpsModule {}
