import { Body, Controller, Delete, Get, HttpCode, Post, Put, Req, Res } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { SessionView } from '@drive-keep/api';
import { IsString, MaxLength, MinLength } from 'class-validator';
import type { Request, Response } from 'express';
import { DataSource } from 'typeorm';
import { Plant } from '../register/plant.entity.ts';
import { Account } from './account.entity.ts';
import { Access } from './access.service.ts';
import { BeforePasswordChange, COOKIE, Open, Person, tokenOf } from './session.guard.ts';

class SignInBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) password: string;
}

class PasswordBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(200) oldPassword: string;
  @ApiProperty({ minLength: 10 }) @IsString() @MinLength(10) @MaxLength(200) newPassword: string;
}

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
    const { token, account } = await this.access.signIn(name, password, request.ip ?? '');
    response.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', secure: request.secure, path: '/' });
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
  async changePassword(@Body() body: PasswordBody, @Person() account: Account): Promise<void> {
    await this.access.changePassword(account, body.oldPassword, body.newPassword);
  }

  private async view(account: Account): Promise<SessionView> {
    const plant = await this.dataSource.getRepository(Plant).findOneBy({ id: true });
    const { person, signInName, role, mustChangePassword } = account;
    return { person, signInName, role, mustChangePassword, plant: plant?.name ?? 'Plant without a name' };
  }
}
