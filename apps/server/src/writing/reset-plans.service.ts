// Resets to defaults: what would be lost, against the newest backup and the signed baseline; and the plan that does it and
// brings back what was chosen.

import { Injectable } from '@nestjs/common';
import type { KeyInSheetView, ResetLossView, ResetView, WritePlanView } from '@drive-keep/api';
import type { Code, Dictionary, Region } from '@drive-keep/core/dictionary';
import { factsOf, findMeaning } from '@drive-keep/core/dictionary';
import {
  otherRegionIn,
  planReset,
  planWrites,
  type ResetChoice,
  type ResetPlan,
} from '@drive-keep/core/plans';
import { defaultSet, type ParameterSet } from '@drive-keep/core/sets';
import { sameReading, type Reading, meaningOf } from '@drive-keep/core/values';
import type { EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { KeyInSheets } from '../key-in/key-in-sheets.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Backups } from '../sets/backups.service.ts';
import type { Baseline } from '../sets/baseline.entity.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { History } from '../sets/history.service.ts';
import { WritePlans } from './write-plans.service.ts';

interface Ground {
  readonly at: PositionWithUnit;
  readonly dictionary: Dictionary;
  readonly current: ParameterSet;
  readonly currentAt: Date;
  readonly baseline: Baseline | undefined;
  readonly wanted: ParameterSet | undefined;
}

@Injectable()
export class ResetPlans {
  constructor(
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly history: History,
    private readonly plans: WritePlans,
    private readonly sheets: KeyInSheets,
  ) {}

  /** Without a choice: the unit's own region, and all that a reset can cover. */
  async preview(tag: string, region: string | undefined, scope: number | undefined): Promise<ResetView> {
    const ground = await this.ground(tag);
    const { at, dictionary, current } = ground;
    const choice = choiceOf(ground, region, scope);
    const plan = requirePlan(ground, choice, new Map());
    const other = otherRegionIn(dictionary, at.unit, current);
    const own = requirePlan(ground, choiceOf(ground, at.unit.region, undefined), new Map());
    return {
      tag,
      dictionary: dictionary.id,
      ...choice,
      regions: regionsOf(ground).map(({ id, name }) => ({ id, name })),
      scopes: plan.scopes.map(({ raw, name }) => ({ raw, name })),
      steps: plan.procedure.steps.map(({ text }) => text),
      overLine: at.unit.line !== null && plan.steps.length > 0,
      losses: lossesOf(ground, plan),
      keeps: plan.keeps,
      revision: ground.baseline?.revision ?? null,
      newestAt: ground.currentAt.toISOString(),
      otherRegion: other ? { name: other.name, codes: other.codes } : null,
      notAtDefault: own.losses.map(({ code }) => code),
    };
  }

  /** Plans the reset; `putBack` get what the baseline wants of them, or what they hold now where it says nothing. */
  async plan(
    tag: string,
    { region, scope, putBack }: { region?: string; scope?: number; putBack: readonly string[] },
    { person }: Account,
  ): Promise<WritePlanView> {
    const ground = await this.ground(tag);
    const { at, dictionary, current } = ground;
    const choice = choiceOf(ground, region, scope);
    const plan = requirePlan(ground, choice, this.wantedBack(ground, putBack));
    if (!at.unit.line || plan.steps.length === 0) {
      const detail = `${tag} is reset at its keypad. Nothing was planned.`;
      throw new ProblemException(422, 'no-line', detail);
    }
    const name = dictionary.regions.find(({ id }) => id === choice.region)?.name ?? choice.region;
    return this.plans.store(at, dictionary, current, plan.back, {
      ...{ kind: 'reset', follows: null, person, reset: plan },
      target: `the defaults for ${name}, with ${putBack.length} lines put back`,
    });
  }

  /** For a unit that is reset at its keypad: the procedure, and then what goes back, from the defaults it will hold. */
  async keyIn(
    tag: string,
    { region, scope, putBack }: { region?: string; scope?: number; putBack: readonly string[] },
    { person }: Account,
  ): Promise<KeyInSheetView> {
    const ground = await this.ground(tag);
    const { at, dictionary } = ground;
    const choice = choiceOf(ground, region, scope);
    const back = this.wantedBack(ground, putBack);
    const { procedure, afterReset } = requirePlan(ground, choice, back);
    const facts = factsOf(dictionary, { rating: at.unit.rating, region: choice.region }) ?? {};
    const plan = planWrites(dictionary, facts, afterReset, back, 'keypad');
    const name = dictionary.regions.find(({ id }) => id === choice.region)?.name ?? choice.region;
    return this.sheets.store(at, dictionary, afterReset, plan, {
      ...{ person, target: `the defaults for ${name}, with ${putBack.length} lines put back` },
      first: procedure.steps.map(({ text }) => text),
    });
  }

  /**
   * Resets the unit in place for its region, and brings what is wanted; over its line, or as a sheet for its keypad. Everything
   * but the keeping, which the caller does in a transaction of its own.
   */
  async towards(
    tag: string,
    wanted: ParameterSet,
    target: string,
    { person }: Account,
  ): Promise<
    (manager: EntityManager) => Promise<{ readonly planId: string } | { readonly sheetId: string }>
  > {
    const [at] = await this.register.inPlace([tag]);
    if (!at) throw new Error('no position');
    const ground = at.unit.line ? await this.ground(tag) : await this.delivered(at);
    const { dictionary, current } = ground;
    const back = new Map<Code, Reading | undefined>(wanted.readings);
    const plan = requirePlan(ground, choiceOf(ground, undefined, undefined), back);
    const facts = factsOf(dictionary, at.unit) ?? {};
    if (!at.unit.line) {
      const own = planWrites(dictionary, facts, plan.afterReset, back, 'keypad');
      const first = plan.procedure.steps.map(({ text }) => text);
      const told = { person, target, first };
      return async (manager) => ({
        sheetId: await this.sheets.keep(manager, at, dictionary, plan.afterReset, own, told),
      });
    }
    // A model without a reset over its line is brought there from what it holds.
    const resets = plan.steps.length > 0;
    const own = resets ? plan.back : planWrites(dictionary, facts, current, back);
    const kind = resets ? ('reset' as const) : ('write' as const);
    const told = { kind, follows: null, person, target, ...(resets ? { reset: plan } : {}) };
    return async (manager) => ({
      planId: await this.plans.keep(manager, at, dictionary, current, own, told),
    });
  }

  /** A unit that nothing can read is taken to be as delivered; its reset makes sure of it. */
  private async delivered(at: PositionWithUnit): Promise<Ground> {
    const dictionary = await this.dictionaries.get(at.unit.dictionaryId);
    const current = defaultSet(dictionary, at.unit);
    if (current)
      return {
        at,
        dictionary,
        current,
        currentAt: at.unit.installedAt,
        baseline: undefined,
        wanted: undefined,
      };
    const detail = `${dictionary.name} does not tell its defaults for ${at.unit.rating}. Nothing was planned.`;
    throw new ProblemException(422, 'no-defaults', detail);
  }

  private wantedBack({ current, wanted }: Ground, codes: readonly string[]): Map<Code, Reading | undefined> {
    return new Map(
      (codes as readonly Code[]).map((code) => [
        code,
        wanted?.readings.get(code) ?? current.readings.get(code),
      ]),
    );
  }

  private async ground(tag: string): Promise<Ground> {
    const [at] = await this.register.inPlace([tag]);
    if (!at) throw new Error('no position');
    const dictionary = await this.dictionaries.get(at.unit.dictionaryId);
    const newest = await this.backups.newest(at.position.id);
    if (!newest) {
      const detail = `${tag} has no backup yet: what a reset would lose is not known. Back it up first.`;
      throw new ProblemException(409, 'no-backup', detail);
    }
    const current = await this.contents.get(newest.contentHash);
    if (current.dictionary !== dictionary.id) {
      const detail = `The newest backup of ${tag} is of another model than the unit that sits there. Back the unit up first.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    const baseline = (await this.history.baselines(at.position.id)).at(-1);
    const signed = baseline && (await this.contents.get(baseline.contentHash));
    const wanted = signed?.dictionary === dictionary.id ? signed : undefined;
    return { at, dictionary, current, currentAt: newest.takenAt, baseline, wanted };
  }
}

/** What the unit would not hold any more, and what it would still not hold that the baseline wants; in menu order. */
function lossesOf({ dictionary, current, wanted }: Ground, { afterReset }: ResetPlan): ResetLossView[] {
  return dictionary.parameters.flatMap(({ code, access }) => {
    const now = current.readings.get(code);
    const after = afterReset.readings.get(code);
    const baseline = wanted?.readings.get(code);
    const missed = access !== 'read' && baseline !== undefined && !sameReading(baseline, after);
    if (sameReading(now, after) && !missed) return [];
    return [{ code, now: now ?? null, after: after ?? null, baseline: baseline ?? null }];
  });
}

/** Regions whose defaults a reset can bring: only the unit's own, where no parameter chooses one. */
function regionsOf({ at, dictionary }: Pick<Ground, 'at' | 'dictionary'>): readonly Region[] {
  const chosen = findMeaning(dictionary, meaningOf('unit.region')) !== undefined;
  return dictionary.regions.filter(({ id }) => chosen || id === at.unit.region);
}

function choiceOf(
  { at, dictionary }: Ground,
  region: string | undefined,
  scope: number | undefined,
): ResetChoice {
  const scopes = dictionary.procedures.find(({ purpose }) => purpose === 'reset')?.scopes ?? [];
  const chosen = scope === undefined ? scopes[0] : scopes.find(({ raw }) => raw === scope);
  if (scopes.length > 0 && !chosen) {
    const known = scopes.map(({ raw, name }) => `${raw} (${name})`).join(', ');
    throw new ProblemException(
      422,
      'no-such-scope',
      `A reset of ${dictionary.name} covers one of: ${known}.`,
    );
  }
  return { region: region ?? at.unit.region, scope: chosen?.raw ?? null };
}

function requirePlan(
  { at, dictionary, current }: Ground,
  choice: ResetChoice,
  putBack: ReadonlyMap<Code, Reading | undefined>,
): ResetPlan {
  // The region was chosen for the reset; it is not put back by the way.
  const region = findMeaning(dictionary, meaningOf('unit.region'))?.code;
  const lines = new Map([...putBack].filter(([code]) => code !== region));
  const regions = regionsOf({ at, dictionary });
  const offered = regions.some(({ id }) => id === choice.region);
  const plan = offered ? planReset(dictionary, at.unit.rating, current, choice, lines) : undefined;
  if (plan) return plan;
  const known = regions.map(({ id }) => id).join(', ');
  throw new ProblemException(
    422,
    'no-such-region',
    `${dictionary.name} has no reset for the region "${choice.region}". Its regions are: ${known}.`,
  );
}
