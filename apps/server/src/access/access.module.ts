import { Module } from '@nestjs/common';
import { APP_GUARD } from '@nestjs/core';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { PlantModule } from '../plant/plant.module.ts';
import { Access } from './access.service.ts';
import { Account } from './account.entity.ts';
import { Attempts } from './attempts.ts';
import { KnownDevice } from './known-device.entity.ts';
import { PeopleController } from './people.controller.ts';
import { People } from './people.service.ts';
import { ScriptToken } from './script-token.entity.ts';
import { ScriptTokens } from './script-tokens.service.ts';
import { RefusedSignIns } from './refused-sign-ins.ts';
import { SessionController } from './session.controller.ts';
import { Session } from './session.entity.ts';
import { SessionGuard } from './session.guard.ts';
import { Streams } from './streams.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([Account, KnownDevice, ScriptToken, Session]),
    PlantModule,
    LogbookModule,
  ],
  controllers: [SessionController, PeopleController],
  providers: [
    { provide: APP_GUARD, useClass: SessionGuard },
    Access,
    Streams,
    Attempts,
    RefusedSignIns,
    People,
    ScriptTokens,
  ],
  exports: [Access, Streams],
})
export class AccessModule {}
