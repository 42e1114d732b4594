import { Body, Controller, Get, HttpCode, Param, Post, Res, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { WiringPhotoView } from '@drive-keep/api';
import { Transform } from 'class-transformer';
import { IsString, MaxLength, MinLength } from 'class-validator';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { TakesPhoto } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { WiringPhotos } from './wiring-photos.service.ts';

const trimmed = ({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value);

class CaptionBody {
  @ApiProperty({ description: 'what it shows' })
  @Transform(trimmed)
  @IsString()
  @MinLength(1)
  @MaxLength(200)
  caption: string;
}

class WithdrawBody {
  @ApiProperty({ description: 'why it is no longer shown' })
  @Transform(trimmed)
  @IsString()
  @MinLength(1)
  @MaxLength(300)
  why: string;
}

@ApiTags('wiring')
@Controller('positions/:tag/wiring/photos')
export class WiringPhotosController {
  constructor(private readonly photos: WiringPhotos) {}

  @Get()
  @ApiOperation({ summary: 'Photographs of the wiring, the newest first' })
  list(@Param('tag') tag: string): Promise<readonly WiringPhotoView[]> {
    return this.photos.list(tag);
  }

  @Post()
  @NeedsRole('technician')
  @TakesPhoto()
  @ApiOperation({ summary: 'Add a photograph, as JPEG or PNG; it is encoded anew' })
  add(
    @Param('tag') tag: string,
    @UploadedFile() file: SentFile | undefined,
    @Body() { caption }: CaptionBody,
    @Person() person: Account,
  ): Promise<readonly WiringPhotoView[]> {
    return this.photos.add(tag, givenFile(file, 'a photograph as JPEG or PNG'), caption, person);
  }

  @Get(':id')
  @ApiOperation({ summary: 'The picture, as JPEG' })
  async content(
    @Param('tag') tag: string,
    @Param('id') id: string,
    @Res() response: Response,
  ): Promise<void> {
    const content = await this.photos.content(tag, id);
    // A photograph never changes; only who is signed in may see it.
    response
      .type('image/jpeg')
      .setHeader('cache-control', 'private, max-age=31536000, immutable')
      .send(content);
  }

  @Post(':id/withdraw')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Withdraw a photograph: it is kept, and no longer shown' })
  withdraw(
    @Param('tag') tag: string,
    @Param('id') id: string,
    @Body() { why }: WithdrawBody,
    @Person() person: Account,
  ): Promise<readonly WiringPhotoView[]> {
    return this.photos.withdraw(tag, id, why, person);
  }
}
