import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import {
  CONTROLLER_COMMANDS,
  type AxisLoadView,
  type AxisMachineView,
  type AxisOnFailure,
  type ControllerCommand,
  type ControllerView,
} from '@drive-keep/api';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  Equals,
  IsArray,
  IsBoolean,
  IsIn,
  IsString,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { May, NeedsRole, Person } from '../access/session.guard.ts';
import { Maybe } from '../problems/maybe.ts';
import { AxisLoads } from './axis-loads.service.ts';
import { MachineControl } from './machine-control.service.ts';

const MOST_AXES = 40;

class TargetBody {
  @ApiProperty() @IsString() @MaxLength(60) tag: string;
  @ApiProperty({ example: 'baseline', description: 'set whose values are wanted' })
  @IsString()
  @MaxLength(60)
  target: string;
}

class LoadBody {
  @ApiProperty({ type: [TargetBody], description: 'sets of the axes; the baseline where nothing is said' })
  @IsArray()
  @ArrayMaxSize(MOST_AXES)
  @ValidateNested({ each: true })
  @Type(() => TargetBody)
  targets: TargetBody[];

  @ApiProperty({
    enum: ['stay', 'back'],
    description: 'what axes that were written do when another one fails',
  })
  @IsIn(['stay', 'back'])
  onFailure: AxisOnFailure;
}

class ReleaseBody {
  @ApiProperty({ enum: [true], description: 'the machine is stopped and safe to write to' })
  @Equals(true, { message: 'stoppedAndSafe must be stated' })
  stoppedAndSafe: true;
}

class ControllerBody {
  @ApiProperty({ enum: CONTROLLER_COMMANDS }) @IsIn(CONTROLLER_COMMANDS) command: ControllerCommand;

  @ApiProperty({ enum: [true], description: 'everybody is clear of the machine' })
  @Equals(true, { message: 'everybodyClear must be stated' })
  everybodyClear: true;
}

class CarryOutBody {
  @ApiPropertyOptional({ description: 'it is known what the load does to the line' })
  @Maybe()
  @IsBoolean()
  cutOffKnown?: boolean;
}

@ApiTags('writing')
@Controller()
export class AxisLoadsController {
  constructor(
    private readonly loads: AxisLoads,
    private readonly control: MachineControl,
  ) {}

  @Get('positions/:tag/axes')
  @ApiOperation({ summary: 'The machine at which this position is an axis, with its last loads' })
  machine(@Param('tag') tag: string): Promise<AxisMachineView> {
    return this.loads.machineOf(tag);
  }

  @Get('positions/:tag/controller')
  @ApiOperation({ summary: 'What the controller of the machine does at this moment' })
  state(@Param('tag') tag: string): Promise<ControllerView> {
    return this.control.state(tag);
  }

  @Post('positions/:tag/controller')
  @May('write')
  @HttpCode(200)
  @ApiOperation({ summary: 'Hold the machine, or start it again and wait until its axes are ready' })
  command(
    @Param('tag') tag: string,
    @Body() { command }: ControllerBody,
    @Person() person: Account,
  ): Promise<ControllerView> {
    return this.control.command(tag, command, person);
  }

  @Post('positions/:tag/axis-loads')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Plan to load all axes of the machine; nothing is written yet' })
  plan(
    @Param('tag') tag: string,
    @Body() { targets, onFailure }: LoadBody,
    @Person() person: Account,
  ): Promise<AxisLoadView> {
    const byTag = Object.fromEntries(targets.map((each) => [each.tag, each.target]));
    return this.loads.plan(tag, byTag, onFailure, person);
  }

  @Get('axis-loads/:id')
  @ApiOperation({ summary: 'A load of all axes with the plan of each' })
  get(@Param('id') id: string): Promise<AxisLoadView> {
    return this.loads.view(id);
  }

  @Post('axis-loads/:id/release')
  @May('write')
  @HttpCode(200)
  @ApiOperation({ summary: 'State that the machine is stopped and safe to write to' })
  release(@Param('id') id: string, @Body() _: ReleaseBody, @Person() person: Account): Promise<AxisLoadView> {
    return this.loads.release(id, person);
  }

  @Post('axis-loads/:id/carry-out')
  @May('write')
  @HttpCode(202)
  @ApiOperation({ summary: 'Load the axes, as planned and released' })
  carryOut(
    @Param('id') id: string,
    @Body() { cutOffKnown }: CarryOutBody,
    @Person() person: Account,
  ): Promise<AxisLoadView> {
    return this.loads.carryOut(id, person, cutOffKnown);
  }
}
