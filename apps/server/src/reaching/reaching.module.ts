import { Module, type DynamicModule } from '@nestjs/common';
import { AUTHORITY, ReachingController } from './reaching.controller.ts';

@Module({})
export class ReachingModule {
  /** `authority`: the certificate of the local authority, where there is one. */
  static with(authority: string | null): DynamicModule {
    return {
      module: ReachingModule,
      controllers: [ReachingController],
      providers: [{ provide: AUTHORITY, useValue: { pem: authority } }],
    };
  }
}
