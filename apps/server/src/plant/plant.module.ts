import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { Plant } from './plant.entity.ts';

@Module({
  imports: [TypeOrmModule.forFeature([Plant])],
})
export class PlantModule {}
