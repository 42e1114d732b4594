// What can be done after a plan that did not come to its end, or that somebody wants undone. The unit is read first: its
// state is never assumed. What it holds then is kept as a backup, and a plan of its own is made from there.

import { Injectable } from '@nestjs/common';
import type { WritePlanView } from '@drive-keep/api';
import { factsOf, type Code } from '@drive-keep/core/dictionary';
import { planWrites } from '@drive-keep/core/plans';
import type { Reading } from '@drive-keep/core/values';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { UnitBackups } from '../backup/unit-backups.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { followUpsOf } from './write-plan-view.ts';
import type { StoredWritePlan } from './write-plan.entity.ts';
import { WritePlans } from './write-plans.service.ts';

@Injectable()
export class WriteFollowUps {
  constructor(
    private readonly plans: WritePlans,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly contents: ContentStore,
    private readonly units: UnitBackups,
  ) {}

  /** Plans the rest of a plan, or the way back to what the unit held before it. */
  async follow(id: string, kind: 'resume' | 'undo', { person }: Account): Promise<WritePlanView> {
    const plan = await this.plans.load(id);
    if (!followUpsOf(plan).includes(kind)) throw nothingToFollow(plan, kind);
    const at = await this.register.requireInPlace(plan.position.tag, plan.unit.id);
    const dictionary = await this.dictionaries.get(plan.dictionaryId);
    const reason = kind === 'resume' ? 'Before the rest of a write plan' : 'Before a write plan is undone';
    const { set } = await this.units.read(at, { person, reason });
    const target = await this.contents.get(kind === 'resume' ? plan.predictedHash : plan.basisHash);
    const wanted = new Map<Code, Reading>(target.readings);
    const facts = factsOf(dictionary, at.unit) ?? {};
    const told =
      kind === 'resume'
        ? plan.target
        : `the values before the plan of ${plan.plannedAt.toISOString().slice(0, 16).replace('T', ' ')}`;
    return this.plans.store(at, dictionary, set, planWrites(dictionary, facts, set, wanted), {
      ...{ kind, follows: plan.id, target: told, person },
    });
  }
}

const nothingToFollow = ({ state }: StoredWritePlan, kind: string): ProblemException =>
  new ProblemException(
    409,
    'nothing-to-follow',
    kind === 'resume'
      ? `This plan is ${state}: there is no rest to write.`
      : `This plan is ${state}: nothing of it can be in the unit.`,
  );
