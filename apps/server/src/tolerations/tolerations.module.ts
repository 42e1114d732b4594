import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { RegisterModule } from '../register/register.module.ts';
import { Decision } from './decision.entity.ts';
import { Tolerations } from './tolerations.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([Decision]), RegisterModule],
  providers: [Tolerations],
  exports: [Tolerations],
})
export class TolerationsModule {}
