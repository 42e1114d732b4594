// What one may expect of a unit that is watched: by its newest backup and its wiring, made once when somebody begins to look.

import { Injectable } from '@nestjs/common';
import type { ExpectedView } from '@drive-keep/api';
import { machineOf, sayHeadline, sayReason, type Machine } from '@drive-keep/core/behaviour';
import type { Dictionary } from '@drive-keep/core/dictionary';
import {
  expectationOf,
  watchableOf,
  type ExpectedInput,
  type Seen,
  type Watchable,
} from '@drive-keep/core/live';
import { NO_WIRING } from '@drive-keep/core/wiring';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { PositionSets } from '../compare/position-sets.service.ts';
import type { PositionWithUnit } from '../register/register.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import type { Watched } from './unit-watch.service.ts';

type Sample = Extract<Watched, { kind: 'sample' }>;

/** A signal that moves less than this share of its range lets one expect the same. */
const SHARE_STEP = 0.01;
/** A speed that has sunk within so long is on its way to rest, however slow the ramp. */
const SINKS_MS = 2000;
/** What is odd for less than this is a contact that has just moved. */
const ODD_MS = 1500;

export class Expecting {
  private last = '';
  private frequencies: { readonly at: number; readonly raw: number }[] = [];
  /** Since when it does not do what its inputs ask for. */
  private oddSince: number | undefined;

  constructor(
    private readonly machine: Machine,
    private readonly dictionary: Dictionary,
    private readonly watchable: Watchable,
    private readonly by: ExpectedView['by'],
    private readonly term: (option: string) => string,
  ) {}

  /** Anew where something of it has changed; nothing where all is as before. */
  at(sample: Sample): ExpectedView | undefined {
    const seen = this.seenIn(sample);
    const lasts = this.oddSince !== undefined && sample.at - this.oddSince >= ODD_MS;
    const key = JSON.stringify([
      [...seen.inputs],
      [...seen.analogs],
      seen.runs,
      seen.fault,
      seen.slows,
      lasts,
    ]);
    if (key === this.last) return undefined;
    this.last = key;
    const { inputs, agrees, outcomes } = expectationOf(this.machine, this.dictionary, seen);
    this.oddSince = agrees === false ? (this.oddSince ?? sample.at) : undefined;
    if (agrees === false && !lasts) return undefined;
    const speaker = { machine: this.machine, term: this.term };
    return {
      by: this.by,
      inputs: inputs.map((input) => ({ ...input, ...this.words(input) })),
      outputs: this.machine.outputs.map(({ number, does }) => ({ number, does: this.term(does ?? '') })),
      agrees,
      outcomes: outcomes.map((outcome) => ({
        headline: sayHeadline(
          outcome,
          outcome.reasons.flatMap((each) => (each.code === 'fault' ? [each.fault] : []))[0] ?? null,
        ),
        reasons: outcome.reasons.map((reason) => sayReason(reason, speaker)),
      })),
    };
  }

  private words({ number, devices }: ExpectedInput): { does: string; named: string } {
    const { does, opens = false } = this.machine.inputs.find((each) => each.number === number) ?? {};
    const named = devices.map((name) => {
      const what = this.machine.wiring.devices.find((each) => each.name === name)?.what ?? '';
      return what === '' ? name : `${name} (${what})`;
    });
    const term = does === undefined ? 'not told' : this.term(does);
    return { does: opens ? `${term} while it is off` : term, named: named.join(', ') };
  }

  private seenIn({ at, values, runs }: Sample): Seen {
    const { inputs, signals, fault } = this.watchable;
    const raw = (meaning: string) => {
      const code = signals.find((each) => each.meaning === meaning)?.parameter.code;
      return code === undefined ? undefined : values.get(code);
    };
    const frequency = raw('frequency') ?? raw('speed');
    this.frequencies = this.frequencies.filter((each) => at - each.at <= SINKS_MS);
    const slows =
      frequency !== undefined && frequency > 0 && this.frequencies.some(({ raw: was }) => was > frequency);
    if (frequency !== undefined) this.frequencies.push({ at, raw: frequency });
    return {
      inputs: new Map(
        [...inputs].flatMap(([number, { code, bit }]): [string, boolean][] => {
          const word = values.get(code);
          return word === undefined ? [] : [[number, (word >>> bit) % 2 === 1]];
        }),
      ),
      analogs: new Map(
        ['1', '2'].flatMap((number): [string, number][] => {
          const share = this.shareOf(`analog${number}`, raw(`analog${number}`));
          return share === undefined ? [] : [[number, share]];
        }),
      ),
      runs,
      fault: fault ? (values.get(fault.code) ?? null) : null,
      slows,
    };
  }

  private shareOf(meaning: string, raw: number | undefined): number | undefined {
    const form = this.watchable.signals.find((each) => each.meaning === meaning)?.parameter.form;
    if (raw === undefined || form?.kind !== 'number' || form.unit !== '%') return undefined;
    const share = (raw * form.resolution.step) / 10 ** form.resolution.places / 100;
    return Math.round(share / SHARE_STEP) * SHARE_STEP;
  }
}

@Injectable()
export class Expectations {
  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
    private readonly sets: PositionSets,
    private readonly wirings: Wirings,
  ) {}

  /** Nothing where no set of the unit is kept, or one of another model. */
  async of(at: PositionWithUnit): Promise<Expecting | undefined> {
    const { unit, position } = at;
    const kept = await this.sets.of(at, 'newest').catch(() => undefined);
    if (!kept || kept.set.dictionary !== unit.dictionaryId) return undefined;
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    const wiring = await this.wirings.newest(position.id, position.tag);
    const plain = this.meanings.bridge.read(dictionary, unit, kept.set.readings);
    const by = { title: kept.title, at: kept.when, wiringRevision: wiring?.revision ?? 0 };
    const machine = machineOf(plain, wiring?.wiring ?? NO_WIRING);
    return new Expecting(machine, dictionary, watchableOf(dictionary), by, this.meanings.vocabulary.termOf);
  }
}
