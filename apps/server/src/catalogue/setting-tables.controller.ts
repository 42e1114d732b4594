import { Body, Controller, Get, HttpCode, Post, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { SettingTablePreview, SettingTableView } from '@drive-keep/api';
import { IsString, MaxLength, MinLength } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { SettingTables } from './setting-tables.service.ts';

class ModelBody {
  @ApiProperty({ description: 'id of the dictionary whose settings it holds' })
  @IsString()
  @MaxLength(80)
  dictionary: string;
}

class KeepBody extends ModelBody {
  @ApiProperty() @IsString() @MinLength(3) @MaxLength(80) name: string;
  @ApiProperty({ description: 'why, for the record' }) @IsString() @MinLength(3) @MaxLength(300) why: string;
}

const WHAT = 'a table as CSV or XLSX';

@ApiTags('catalogue')
@Controller('setting-tables')
export class SettingTablesController {
  constructor(private readonly tables: SettingTables) {}

  @Get()
  @ApiOperation({ summary: 'Setting tables of machine makers, the newest revision of each' })
  all(): Promise<readonly SettingTableView[]> {
    return this.tables.all();
  }

  @Post('read')
  @NeedsRole('engineer')
  @HttpCode(200)
  @TakesFile()
  @ApiOperation({ summary: 'How a table is understood; nothing is kept' })
  read(
    @Body() { dictionary }: ModelBody,
    @UploadedFile() file: SentFile | undefined,
  ): Promise<SettingTablePreview> {
    return this.tables.read(dictionary, givenFile(file, WHAT));
  }

  @Post()
  @NeedsRole('engineer')
  @TakesFile()
  @ApiOperation({ summary: 'Keep a table, or a further revision of it; one with findings is refused' })
  keep(
    @Body() body: KeepBody,
    @UploadedFile() file: SentFile | undefined,
    @Person() person: Account,
  ): Promise<readonly SettingTableView[]> {
    return this.tables.keep(body, givenFile(file, WHAT), person);
  }
}
