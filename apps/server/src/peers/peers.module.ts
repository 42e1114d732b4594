import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { PeersController } from './peers.controller.ts';
import { Peers } from './peers.service.ts';

@Module({
  imports: [SetsModule, RegisterModule, CatalogueModule],
  controllers: [PeersController],
  providers: [Peers],
  exports: [Peers],
})
export class PeersModule {}
