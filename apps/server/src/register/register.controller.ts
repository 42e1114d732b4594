import { Controller, Get, Param } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { HistoryView, PositionDetailView, RegisterView } from '@drive-keep/api';
import { History } from '../sets/history.service.ts';
import { Register } from './register.service.ts';

@ApiTags('register')
@Controller()
export class RegisterController {
  constructor(
    private readonly register: Register,
    private readonly history: History,
  ) {}

  @Get('register')
  @ApiOperation({ summary: 'Areas, machines and positions with their state' })
  view(): Promise<RegisterView> {
    return this.register.view();
  }

  @Get('positions/:tag')
  @ApiOperation({ summary: 'One position' })
  detail(@Param('tag') tag: string): Promise<PositionDetailView> {
    return this.register.detail(tag);
  }

  @Get('positions/:tag/history')
  @ApiOperation({ summary: 'Backups and baselines of a position, oldest first' })
  async strip(@Param('tag') tag: string): Promise<HistoryView> {
    const { position } = await this.register.unitAt(tag);
    return this.history.of(position.id);
  }
}
