// What the steps of a proof run are worked out from: the set that the unit should hold, its wiring, and what was proved before.

import { Injectable } from '@nestjs/common';
import { machineOf } from '@drive-keep/core/behaviour';
import { findParameter, isNoise, type Code, type Dictionary } from '@drive-keep/core/dictionary';
import { proofPlanOf, whatMatters, type ProofPlan } from '@drive-keep/core/prove';
import { hashOf, type ParameterSet } from '@drive-keep/core/sets';
import { sameReading } from '@drive-keep/core/values';
import { NO_WIRING, type Wiring } from '@drive-keep/core/wiring';
import { DataSource } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { PositionSets } from '../compare/position-sets.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { ProofRun } from '../proofs/proof-run.entity.ts';
import { Proofs } from '../proofs/proofs.service.ts';
import type { PositionWithUnit } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';

export interface Ground {
  readonly plan: ProofPlan;
  readonly leftOut: number;
  readonly since: string | null;
  readonly set: ParameterSet;
  readonly setTitle: string;
  readonly setAt: string | null;
  readonly setHash: string;
  readonly wiringRevision: number;
}

@Injectable()
export class ProofGround {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
    private readonly sets: PositionSets,
    private readonly contents: ContentStore,
    private readonly wirings: Wirings,
    private readonly proofs: Proofs,
  ) {}

  async of(at: PositionWithUnit, reference: string, changedOnly: boolean): Promise<Ground> {
    const { unit, position } = at;
    const { title, when, set } = await this.sets.of(at, reference);
    if (set.dictionary !== unit.dictionaryId)
      throw refused(
        `${title} is of ${set.dictionary}, and ${unit.dictionaryId} sits at ${position.tag} now.`,
      );
    const { wiring, revision } = await this.wirings.kept(position.id, position.tag);
    const whole = await this.planOf(at, set, wiring);
    const facts = {
      ...{ set, setTitle: title, setAt: when, setHash: hashOf(set), wiringRevision: revision },
    };
    if (!changedOnly) return { ...facts, plan: whole, leftOut: 0, since: null };
    const before = await this.before(at, set.dictionary);
    const [then, dictionary] = await Promise.all([
      this.contents.get(before.setHash),
      this.dictionaries.get(set.dictionary),
    ]);
    const was = await this.wiringOf(at, before);
    const steps = whatMatters(whole, {
      codes: codesBetween(dictionary, then, set),
      terminals: terminalsBetween(was, wiring),
      before: await this.planOf(at, then, was),
    });
    const again = new Set(before.open);
    const kept = whole.steps.filter((step) => steps.includes(step) || again.has(step.id));
    return {
      ...facts,
      plan: { ...whole, steps: kept },
      leftOut: whole.steps.length - kept.length,
      since: before.id,
    };
  }

  private async planOf({ unit }: PositionWithUnit, set: ParameterSet, wiring: Wiring): Promise<ProofPlan> {
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    const plain = this.meanings.bridge.read(dictionary, unit, set.readings);
    return proofPlanOf(machineOf(plain, wiring), this.meanings.vocabulary.termOf);
  }

  /** The newest closed run of this unit, with the steps that it did not pass. */
  private async before(
    { position }: PositionWithUnit,
    dictionary: string,
  ): Promise<ProofRun & { readonly open: readonly string[] }> {
    const [last] = await this.proofs.closed(position.id);
    const run = last && (await this.dataSource.getRepository(ProofRun).findOneBy({ id: last.id }));
    if (run?.dictionaryId !== dictionary)
      throw refused(`${position.tag} has not been proved with this unit before: prove the whole of it.`);
    const open: { step: string }[] = await this.dataSource.query(
      `select step from (select distinct on (step) step, verdict from proof_saying
        where run_id = $1 order by step, id desc) last where verdict is distinct from 'passed'`,
      [run.id],
    );
    return { ...run, open: open.map(({ step }) => step) };
  }

  private async wiringOf({ position }: PositionWithUnit, { wiringRevision }: ProofRun): Promise<Wiring> {
    if (wiringRevision === 0) return NO_WIRING;
    return (await this.wirings.kept(position.id, position.tag, wiringRevision)).wiring;
  }
}

/** Settings that differ; what monitors and counters say is nobody's setting. */
function codesBetween(dictionary: Dictionary, before: ParameterSet, now: ParameterSet): ReadonlySet<Code> {
  const codes = [...new Set([...before.readings.keys(), ...now.readings.keys()])];
  return new Set(
    codes.filter((code) => {
      const parameter = findParameter(dictionary, code);
      const counts = parameter !== undefined && !isNoise(parameter);
      return counts && !sameReading(before.readings.get(code), now.readings.get(code));
    }),
  );
}

/** Terminals on which another wire or link sits than before; all of them where the supply arrangement or a switch is another. */
function terminalsBetween(before: Wiring, now: Wiring): ReadonlySet<string> {
  const [was, is] = [endsOf(before), endsOf(now)];
  const all = [...new Set([...was.keys(), ...is.keys()])];
  const board = ({ switches, arrangement }: Wiring) => JSON.stringify([switches, arrangement]);
  if (board(before) !== board(now) || between(before) !== between(now)) return new Set(all);
  return new Set(all.filter((terminal) => was.get(terminal) !== is.get(terminal)));
}

/** Wires that end at no terminal. */
const between = ({ wires }: Wiring): string =>
  JSON.stringify(wires.filter(({ from, to }) => from.kind === 'device' && to.kind === 'device'));

function endsOf({ wires, links, devices }: Wiring): ReadonlyMap<string, string> {
  const found = new Map<string, string[]>();
  const put = (terminal: string, what: string) => found.set(terminal, [...(found.get(terminal) ?? []), what]);
  for (const { from, to } of wires)
    for (const [one, other] of [
      [from, to],
      [to, from],
    ] as const)
      if (one.kind === 'terminal')
        put(
          one.terminal,
          JSON.stringify([
            other,
            other.kind === 'device' ? devices.find(({ name }) => name === other.device) : null,
          ]),
        );
  for (const { between } of links) for (const each of between) put(each, `link ${between.join('–')}`);
  return new Map([...found].map(([terminal, ends]) => [terminal, ends.sort().join('\n')]));
}

export const refused = (detail: string): ProblemException =>
  new ProblemException(409, 'proof-refused', `${detail} Nothing was changed.`);
