import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put, Req } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags, IntersectionType } from '@nestjs/swagger';
import {
  ROLES,
  type OneTimePassword,
  type OpenSession,
  type PersonView,
  type Role,
  type ScriptTokenView,
} from '@drive-keep/api';
import { IsBoolean, IsIn, IsInt, Matches, Max, Min } from 'class-validator';
import type { Request } from 'express';
import { VersionBody } from '../problems/same-version.ts';
import { Account } from './account.entity.ts';
import { People } from './people.service.ts';
import { ScriptTokens } from './script-tokens.service.ts';
import { NeedsRole, Person, tokenOf } from './session.guard.ts';
import { hashToken } from './token-hash.ts';

const NAME = /^\S(.{0,58}\S)?$/u;
const NAME_WORDS = { message: '$property must be 1 to 60 characters without a space at its ends' };
const SIGN_IN = /^[a-z0-9][a-z0-9._@-]{0,39}$/i;
const SIGN_IN_WORDS = {
  message: 'signInName must be letters, digits, points and dashes, such as "r.ashgrove", up to 40 of them',
};
const MOST_DAYS = 3660;

class PersonBody {
  @ApiProperty({ example: 'R. Ashgrove' }) @Matches(NAME, NAME_WORDS) person: string;
  @ApiProperty({ enum: ROLES }) @IsIn(ROLES) role: Role;
}

class NewPersonBody extends PersonBody {
  @ApiProperty({ example: 'r.ashgrove' }) @Matches(SIGN_IN, SIGN_IN_WORDS) signInName: string;
}

class PersonChangeBody extends IntersectionType(PersonBody, VersionBody) {
  @ApiProperty({ description: 'nobody signs in with it any more' }) @IsBoolean() disabled: boolean;
}

class TokenBody {
  @ApiProperty({ example: 'morning report' }) @Matches(NAME, NAME_WORDS) name: string;
  @ApiProperty({ enum: ROLES }) @IsIn(ROLES) role: Role;
  @ApiProperty({ description: 'after so many days it ends' }) @IsInt() @Min(1) @Max(MOST_DAYS) days: number;
}

@ApiTags('people')
@Controller()
export class PeopleController {
  constructor(
    private readonly people: People,
    private readonly tokens: ScriptTokens,
  ) {}

  @Get('people')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'The accounts with their open sessions' })
  all(@Req() request: Request): Promise<readonly PersonView[]> {
    return this.people.views(hashToken(tokenOf(request)));
  }

  @Post('people')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Add somebody; the one-time password is in the answer and nowhere else' })
  add(@Body() body: NewPersonBody, @Person() person: Account): Promise<OneTimePassword> {
    return this.people.add(body, person);
  }

  @Put('people/:id')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Change name and role of somebody, disable an account or use it again' })
  change(
    @Param('id') id: string,
    @Body() { version, ...wish }: PersonChangeBody,
    @Person() person: Account,
  ): Promise<PersonView> {
    return this.people.change(id, wish, version, person);
  }

  @Post('people/:id/password')
  @NeedsRole('engineer')
  @HttpCode(200)
  @ApiOperation({ summary: 'Give somebody a new one-time password; all their sessions end' })
  newPassword(@Param('id') id: string, @Person() person: Account): Promise<OneTimePassword> {
    return this.people.newPassword(id, person);
  }

  @Delete('people/sessions/:id')
  @NeedsRole('engineer')
  @HttpCode(204)
  @ApiOperation({ summary: 'End a session of somebody' })
  endSession(@Param('id') id: string, @Person() person: Account): Promise<void> {
    return this.people.endSession(id, person);
  }

  @Get('session/all')
  @ApiOperation({ summary: 'Where one is signed in oneself' })
  ownSessions(@Person() person: Account, @Req() request: Request): Promise<readonly OpenSession[]> {
    return this.people.ownSessions(person, hashToken(tokenOf(request)));
  }

  @Delete('session/all/:id')
  @HttpCode(204)
  @ApiOperation({ summary: 'End an own session' })
  endOwnSession(@Param('id') id: string, @Person() person: Account): Promise<void> {
    return this.people.endSession(id, person, person);
  }

  @Get('script-tokens')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Tokens for scripts' })
  allTokens(): Promise<readonly ScriptTokenView[]> {
    return this.tokens.views();
  }

  @Post('script-tokens')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Make a token; it is in the answer and nowhere else' })
  makeToken(
    @Body() { name, role, days }: TokenBody,
    @Person() person: Account,
  ): Promise<{ token: string; made: ScriptTokenView }> {
    return this.tokens.make(name, role, days, person);
  }

  @Delete('script-tokens/:id')
  @NeedsRole('engineer')
  @HttpCode(204)
  @ApiOperation({ summary: 'End a token' })
  endToken(@Param('id') id: string, @Person() person: Account): Promise<void> {
    return this.tokens.end(id, person);
  }
}
