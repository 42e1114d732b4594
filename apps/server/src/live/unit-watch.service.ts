// Watching units: one reader a unit, however many look, as fast as the one who wants it fastest, and only while somebody looks.
// It reads and does nothing else.

import { Injectable } from '@nestjs/common';
import { findParameter, type Code, type LineFacts } from '@drive-keep/core/dictionary';
import { Observable } from 'rxjs';
import { type DriveLine } from '../lines/drive-line.ts';
import { readIdentity } from '../lines/identity.ts';
import { lineFactsOf } from '../lines/line-facts.ts';
import { faultText } from '../lines/line-text.ts';
import { Lines } from '../lines/lines.service.ts';
import { limitsOn, planReads, type Place } from '../lines/read-plan.ts';
import type { UnitOnLine } from '../lines/unit-at-line.ts';
import type { ReadFault } from '../lines/unit-reader.ts';
import { WordReader } from '../lines/word-reader.ts';
import { wordsToRaw } from '../lines/words.ts';

export interface WatchWish {
  readonly codes: readonly Code[];
  readonly everyMs: number;
  /** Whether it runs and has a fault, by its status register. */
  readonly status: boolean;
}

export type Watched =
  | {
      readonly kind: 'sample';
      /** In the middle of the request, in ms since 1970. */
      readonly at: number;
      readonly values: ReadonlyMap<Code, number>;
      readonly runs: boolean | null;
      readonly faulty: boolean | null;
    }
  /** `away`: it was asked and did not answer. */
  | { readonly kind: 'silent'; readonly text: string; readonly away: boolean };

/** Who answers is asked again so often: a unit may be exchanged while somebody looks. */
const IDENTITY_MS = 5000;
/** From then on it is said that nothing comes. */
const SILENT_MS = 1500;
/** A unit that does not answer is asked again after this, then after twice as long, up to the most. */
const AGAIN_MS = 1000;
const AGAIN_MOST_MS = 10_000;

@Injectable()
export class UnitWatch {
  private readonly readers = new Map<string, Reader>();

  constructor(private readonly lines: Lines) {}

  /** Samples until one leaves. `id` names the unit, so that everybody who looks at it shares its reader. */
  watch(id: string, unit: UnitOnLine, wish: WatchWish): Observable<Watched> {
    return new Observable<Watched>((subscriber) => {
      const known = this.readers.get(id);
      const reader = known?.reads(unit) ? known : new Reader(this.lines, unit);
      this.readers.set(id, reader);
      const leave = reader.join({ ...wish, tell: (event) => subscriber.next(event) }, () => {
        if (this.readers.get(id) === reader) this.readers.delete(id);
      });
      return leave;
    });
  }

  /** Units that are being watched now. */
  get count(): number {
    return this.readers.size;
  }
}

const ownOf = (values: ReadonlyMap<Code, number>, codes: readonly Code[]): ReadonlyMap<Code, number> =>
  new Map(
    codes.flatMap((code): [Code, number][] => {
      const value = values.get(code);
      return value === undefined ? [] : [[code, value]];
    }),
  );

interface Watcher extends WatchWish {
  readonly tell: (event: Watched) => void;
}

class Reader {
  private readonly watchers = new Map<Watcher, { due: number }>();
  private readonly refused = new Set<Code>();
  private readonly facts: LineFacts;
  private identified = Number.NEGATIVE_INFINITY;
  private order: LineFacts['wordOrder'];
  private answered = performance.now();
  private faults = 0;
  private hasLine = false;
  private wake: () => void = () => undefined;
  private onEnd: () => void = () => undefined;

  constructor(
    private readonly lines: Lines,
    private readonly unit: UnitOnLine,
  ) {
    this.facts = lineFactsOf(unit.dictionary);
    this.order = this.facts.wordOrder;
  }

  /** The same unit at the same place, by the same wording of its model. */
  reads({ line, address, serial, dictionary }: UnitOnLine): boolean {
    const own = this.unit;
    const place = own.line.id === line.id && own.address === address && own.line.port === line.port;
    return place && own.serial === serial && own.dictionary === dictionary;
  }

  join(watcher: Watcher, onEnd: () => void): () => void {
    this.onEnd = onEnd;
    const begins = this.watchers.size === 0;
    this.watchers.set(watcher, { due: 0 });
    if (begins) void this.run();
    else this.wake();
    return () => {
      this.watchers.delete(watcher);
      if (this.watchers.size > 0) return;
      this.onEnd();
      this.wake();
    };
  }

  private async run(): Promise<void> {
    const saying = setInterval(() => this.saySilence(), SILENT_MS / 2);
    while (this.watchers.size > 0) {
      const now = performance.now();
      const due = [...this.watchers].filter(([, at]) => at.due <= now);
      if (due.length === 0) {
        await this.sleep(Math.min(...[...this.watchers.values()].map((at) => at.due)) - now);
        continue;
      }
      // By the clock from the last time it was due, so that samples keep their distance; what was missed is not made up for.
      for (const [{ everyMs }, at] of due) at.due = Math.max(at.due + everyMs, now + everyMs / 2);
      const told = await this.sample(due.map(([watcher]) => watcher));
      this.tell(
        due.map(([watcher]) => watcher),
        told,
      );
      if (told.kind === 'silent')
        await this.sleep(Math.min(AGAIN_MS * 2 ** (this.faults - 1), AGAIN_MOST_MS));
    }
    clearInterval(saying);
  }

  private tell(watchers: readonly Watcher[], told: Watched): void {
    if (told.kind === 'sample') {
      this.answered = performance.now();
      this.faults = 0;
      for (const watcher of watchers) watcher.tell({ ...told, values: ownOf(told.values, watcher.codes) });
      return;
    }
    this.faults += 1;
    this.identified = Number.NEGATIVE_INFINITY;
    for (const watcher of this.watchers.keys()) watcher.tell(told);
  }

  /** While it waits, nobody sees old values as present ones. */
  private saySilence(): void {
    if (this.faults > 0 || performance.now() - this.answered < SILENT_MS) return;
    const { tag, line } = this.unit;
    const text = this.hasLine
      ? `${tag} has been asked and has not answered yet.`
      : `${line.name} is busy with something else; ${tag} is asked as soon as it is free.`;
    for (const watcher of this.watchers.keys()) watcher.tell({ kind: 'silent', text, away: false });
  }

  private sleep(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, Math.max(0, ms));
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }

  private async sample(watchers: readonly Watcher[]): Promise<Watched> {
    const codes = new Set(watchers.flatMap((each) => each.codes).filter((code) => !this.refused.has(code)));
    const status = watchers.some((each) => each.status);
    let told: Watched = { kind: 'silent', text: '', away: false };
    const look = async (drive: DriveLine): Promise<void> => {
      this.hasLine = true;
      told = await this.ask(drive, [...codes], status);
      this.hasLine = false;
    };
    try {
      // A unit that does not answer keeps its line waiting: it is no guest in somebody else's turn then.
      if (this.faults === 0) await this.lines.look(this.unit.line, look);
      else
        await this.lines.withLine(this.unit.line, 'look', look, {
          timeoutMs: this.unit.line.timeoutMs,
          retries: 0,
        });
    } catch (error) {
      return { kind: 'silent', text: `${this.unit.tag} cannot be asked now: ${String(error)}`, away: false };
    }
    return told;
  }

  private async ask(drive: DriveLine, codes: readonly Code[], status: boolean): Promise<Watched> {
    // Everybody may have gone while the line was waited for.
    if (this.watchers.size === 0) return { kind: 'silent', text: '', away: false };
    const fault = await this.identify(drive);
    if (fault) return this.silent(fault);
    const begun = Date.now();
    const place = status ? this.facts.status : undefined;
    const reader = new WordReader(drive, this.unit.address, this.places(codes, place?.register));
    for (const request of planReads(this.places(codes, place?.register), limitsOn(drive, this.facts))) {
      const failed = await reader.take(request);
      if (failed) return this.silent(failed);
    }
    const word = place ? reader.words.get(place.register) : undefined;
    const bit = (at: number | undefined): boolean | null =>
      word === undefined || at === undefined ? null : (word >>> at) % 2 === 1;
    return {
      kind: 'sample',
      at: (begun + Date.now()) / 2,
      values: this.values(codes, reader),
      runs: bit(place?.running),
      faulty: bit(place?.fault),
    };
  }

  private places(codes: readonly Code[], status: number | undefined): readonly Place[] {
    const own = codes.flatMap((code): Place[] => {
      const register = findParameter(this.unit.dictionary, code)?.register;
      return register ? [{ address: register.address, count: register.width === 32 ? 2 : 1 }] : [];
    });
    return status === undefined ? own : [...own, { address: status, count: 1 }];
  }

  private values(codes: readonly Code[], { words, refused }: WordReader): ReadonlyMap<Code, number> {
    const values = new Map<Code, number>();
    for (const code of codes) {
      const register = findParameter(this.unit.dictionary, code)?.register;
      if (!register) continue;
      const { address, width } = register;
      const own = [words.get(address), width === 32 ? words.get(address + 1) : 0];
      if (refused.has(address)) this.refused.add(code);
      if (own[0] !== undefined && own[1] !== undefined)
        values.set(code, wordsToRaw(register, [own[0], own[1]], this.order));
    }
    return values;
  }

  private async identify(drive: DriveLine): Promise<ReadFault | undefined> {
    const now = performance.now();
    if (now - this.identified < IDENTITY_MS) return undefined;
    const { address, dictionary, serial } = this.unit;
    const answer = await readIdentity(drive, address, dictionary, this.facts, serial);
    if (!answer.ok) return answer.fault;
    const { model, serial: found, wordOrder } = answer.value;
    const wanted = this.facts.identity.model?.value;
    if (model !== null && wanted !== undefined && model !== wanted)
      return { code: 'other-model', found: model };
    if (found !== null && found !== serial) return { code: 'other-serial', found };
    this.order = wordOrder;
    this.identified = now;
    return undefined;
  }

  private silent(fault: ReadFault): Watched {
    const { tag, serial, dictionary } = this.unit;
    return {
      kind: 'silent',
      text: faultText(fault, { tag, serial, modelName: dictionary.name }),
      away: fault.code === 'no-answer',
    };
  }
}
