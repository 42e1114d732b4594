import { Controller, Get, Query } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { PeerGroup, PeersView } from '@drive-keep/api';
import { Transform } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsString, MaxLength } from 'class-validator';
import { Peers } from './peers.service.ts';

/** More columns than this are no comparison any more. */
const MOST_PEERS = 60;

class PeersQuery {
  @ApiProperty({ description: 'tags of positions, separated by commas', type: String })
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.split(',') : value))
  @IsArray()
  @ArrayMinSize(2)
  @ArrayMaxSize(MOST_PEERS)
  @IsString({ each: true })
  @MaxLength(60, { each: true })
  positions: string[];
}

@ApiTags('comparison')
@Controller('peers')
export class PeersController {
  constructor(private readonly peers: Peers) {}

  @Get()
  @ApiOperation({ summary: 'Newest backups of many positions side by side; the odd ones out are marked' })
  compare(@Query() { positions }: PeersQuery): Promise<PeersView> {
    return this.peers.compare([...new Set(positions)]);
  }

  @Get('groups')
  @ApiOperation({ summary: 'Positions of one machine and one model' })
  groups(): Promise<readonly PeerGroup[]> {
    return this.peers.groups();
  }
}
