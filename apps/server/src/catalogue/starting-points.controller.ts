import { Body, Controller, Get, Param, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { StartingPointView } from '@drive-keep/api';
import { IsInt, IsString, Max, MaxLength, Min, MinLength } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { StartingPoints } from './starting-points.service.ts';

const MOST_REVISIONS = 1_000_000;
/** Some hundred lines with their reasons. */
const LONGEST_FILE = 200_000;

class StartingPointBody {
  @ApiProperty({ description: 'the whole file (docs/formats/starting-point.schema.json)' })
  @IsString()
  @MaxLength(LONGEST_FILE)
  text: string;

  @ApiProperty({ description: 'why, for the record' }) @IsString() @MinLength(3) @MaxLength(300) why: string;

  @ApiProperty({ description: 'the revision of the plant that was looked at, 0 for none' })
  @IsInt()
  @Min(0)
  @Max(MOST_REVISIONS)
  seen: number;
}

@ApiTags('catalogue')
@Controller('starting-points')
export class StartingPointsController {
  constructor(private readonly points: StartingPoints) {}

  @Get()
  @ApiOperation({ summary: 'Ready drafts for kinds of duty' })
  all(): Promise<readonly StartingPointView[]> {
    return this.points.all();
  }

  @Get(':id')
  @ApiOperation({ summary: 'A starting point with its file' })
  get(@Param('id') id: string): Promise<StartingPointView> {
    return this.points.get(id);
  }

  @Put(':id')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Keep a further revision of the plant; one with faults is refused' })
  save(
    @Param('id') id: string,
    @Body() body: StartingPointBody,
    @Person() person: Account,
  ): Promise<StartingPointView> {
    return this.points.save(id, body, person);
  }
}
