import { Body, Controller, Delete, Get, HttpCode, Post, Put, Req, Res } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import { ROLES, type SessionView } from '@drive-keep/api';
import { IsString, MaxLength, MinLength } from 'class-validator';
import { parseCookie } from 'cookie';
import type { Request, Response } from 'express';
import { DataSource } from 'typeorm';
import { leastRoles } from '../plant/permissions.ts';
import { Plant } from '../plant/plant.entity.ts';
import { Account } from './account.entity.ts';
import { Access, DEVICE_DAYS } from './access.service.ts';
import { LEAST_PASSWORD } from './bad-passwords.ts';
import { BeforePasswordChange, COOKIE, Open, Person, tokenOf } from './session.guard.ts';

class SignInBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) password: string;
}

class PasswordBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) oldPassword: string;
  @ApiProperty({ minLength: LEAST_PASSWORD })
  @IsString()
  @MinLength(LEAST_PASSWORD)
  @MaxLength(200)
  newPassword: string;
}

const DEVICE_COOKIE = 'drive_keep_device';

@ApiTags('session')
@Controller('session')
export class SessionController {
  constructor(
    private readonly access: Access,
    private readonly dataSource: DataSource,
  ) {}

  @Open()
  @Post()
  @HttpCode(200)
  @ApiOperation({ summary: 'Sign in; the session is kept in a cookie' })
  async signIn(
    @Body() { name, password }: SignInBody,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<SessionView> {
    const known = parseCookie(request.headers.cookie ?? '')[DEVICE_COOKIE] ?? '';
    const { token, device, account } = await this.access.signIn(
      name,
      password,
      request.ip ?? '',
      known,
      request.headers['user-agent'],
    );
    const kept = { httpOnly: true, sameSite: 'strict', secure: request.secure } as const;
    response.cookie(COOKIE, token, { ...kept, path: '/' });
    response.cookie(DEVICE_COOKIE, device, {
      ...kept,
      path: '/api/session',
      maxAge: DEVICE_DAYS * 86_400_000,
    });
    return this.view(account);
  }

  @Get()
  @BeforePasswordChange()
  @ApiOperation({ summary: 'Who is signed in' })
  session(@Person() account: Account): Promise<SessionView> {
    return this.view(account);
  }

  @Delete()
  @BeforePasswordChange()
  @HttpCode(204)
  @ApiOperation({ summary: 'Sign out' })
  async signOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    await this.access.signOut(tokenOf(request));
    response.clearCookie(COOKIE, { path: '/' });
  }

  @Put('password')
  @BeforePasswordChange()
  @HttpCode(204)
  @ApiOperation({ summary: 'Change the own password' })
  async changePassword(
    @Body() { oldPassword, newPassword }: PasswordBody,
    @Person() account: Account,
    @Req() request: Request,
  ): Promise<void> {
    await this.access.changePassword(account, oldPassword, newPassword, tokenOf(request));
  }

  private async view(account: Account): Promise<SessionView> {
    const plant = await this.dataSource.getRepository(Plant).findOneBy({ id: true });
    const { person, signInName, role, mustChangePassword } = account;
    const least = leastRoles(plant);
    const rank = ROLES.indexOf(role);
    return {
      ...{ person, signInName, role, mustChangePassword },
      plant: plant?.name || 'Plant without a name',
      may: {
        write: rank >= ROLES.indexOf(least.write),
        register: rank >= ROLES.indexOf(least.register),
      },
      decimalMark: plant?.decimalMark ?? 'point',
      isCopy: plant?.isCopy ?? false,
    };
  }
}
