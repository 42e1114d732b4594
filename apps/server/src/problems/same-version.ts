// Two people who edit the same thing: the later one is told, and nothing of the earlier one is lost.

import { ApiProperty } from '@nestjs/swagger';
import { IsInt, Max, Min } from 'class-validator';
import { ProblemException } from './problem.ts';

const MOST_VERSION = 2_000_000_000;

/** What a change says of the thing that it changes. */
export class VersionBody {
  @ApiProperty({ description: 'the version that was looked at' })
  @IsInt()
  @Min(1)
  @Max(MOST_VERSION)
  version: number;
}

export function requireSameVersion(now: number, seen: number, what: string): void {
  if (now === seen) return;
  const detail = `${what} was changed by somebody else after you opened it. Look at it again, then change it. Nothing was changed.`;
  throw new ProblemException(409, 'changed-meanwhile', detail);
}
