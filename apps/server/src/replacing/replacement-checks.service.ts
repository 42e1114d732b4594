// What the checks would find in the successor as its sheet promises it: with its settings, its wires as they go over, and the motor,
// supply and cabinet of the position.

import { Injectable } from '@nestjs/common';
import type { ChecksView } from '@drive-keep/api';
import { Checks } from '../checks/checks.service.ts';
import { promiseOf, ReplacementGround } from './replacement-ground.service.ts';
import { Replacements } from './replacements.service.ts';

@Injectable()
export class ReplacementChecks {
  constructor(
    private readonly replacements: Replacements,
    private readonly ground: ReplacementGround,
    private readonly checks: Checks,
  ) {}

  async of(id: string): Promise<ChecksView> {
    const replacement = await this.replacements.load(id);
    const { rating, set, computed } = promiseOf(await this.ground.of(replacement), replacement);
    const { position, region } = replacement;
    return this.checks.ofPromise(position.tag, {
      ...{ set, outfit: { rating, region }, wiring: computed.machine.wiring },
      ...{ reference: `replacement:${id}`, title: 'As the sheet promises it' },
    });
  }
}
