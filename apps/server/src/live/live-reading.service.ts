// Reads a unit now and compares what comes in with a kept set. Nothing of it is kept: whoever wants it kept backs up.

import { Injectable, type MessageEvent } from '@nestjs/common';
import type { LiveEvent } from '@drive-keep/api';
import { differenceOf, isDifference } from '@drive-keep/core/compare';
import {
  factsOf,
  findParameter,
  isNoise,
  type Code,
  type Dictionary,
  type Facts,
} from '@drive-keep/core/dictionary';
import type { Reading } from '@drive-keep/core/values';
import { finalize, map, Observable, shareReplay } from 'rxjs';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { rowView } from '../compare/comparison-rows.ts';
import type { ReferencedSet } from '../compare/referenced-sets.service.ts';
import { Lines } from '../lines/lines.service.ts';
import type { UnitOnLine } from '../lines/unit-at-line.ts';
import { ProblemException } from '../problems/problem.ts';
import type { PositionWithUnit } from '../register/register.service.ts';

/** What one reading of a unit tells as it goes. */
type Told =
  | { readonly kind: 'known'; readonly done: number; readonly total: number; readonly fresh: Readings }
  | { readonly kind: 'end'; readonly ok: boolean; readonly text: string; readonly at: string };

type Readings = ReadonlyMap<Code, Reading>;

@Injectable()
export class LiveReading {
  /** Readings at work, by unit: whoever comes while one goes on is told all of it. */
  private readonly going = new Map<string, Observable<Told>>();

  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly lines: Lines,
  ) {}

  /** Ends with how it ended; when the last one stops listening, the reading stops. */
  async compare(at: PositionWithUnit, other: ReferencedSet): Promise<Observable<MessageEvent>> {
    const { unit, position } = at;
    const { line } = unit;
    if (!line) {
      const detail = `${position.tag} has no line: it is read off at its keypad.`;
      throw new ProblemException(422, 'no-line', detail);
    }
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    if (other.set.dictionary !== dictionary.id) {
      const detail = `The set is of ${other.set.dictionary}; the unit at ${position.tag} is of ${dictionary.id}.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    const facts = factsOf(dictionary, unit) ?? {};
    const { serial, lineAddress } = unit;
    const reached = { tag: position.tag, line, address: lineAddress ?? 0, serial, dictionary };
    return this.reading(unit.id, reached).pipe(
      map((told): LiveEvent => {
        if (told.kind === 'end') return told;
        const { done, total, fresh } = told;
        return { kind: 'rows', done, total, rows: rowsOf(dictionary, facts, other, fresh) };
      }),
      map((data) => ({ type: 'live', data })),
    );
  }

  /** One reader a unit, however many look. */
  private reading(unitId: string, unit: UnitOnLine): Observable<Told> {
    const going = this.going.get(unitId);
    if (going) return going;
    const reading = this.read(unit).pipe(
      finalize(() => this.going.delete(unitId)),
      shareReplay({ refCount: true, bufferSize: Number.POSITIVE_INFINITY }),
    );
    this.going.set(unitId, reading);
    return reading;
  }

  private read(unit: UnitOnLine): Observable<Told> {
    return new Observable<Told>((subscriber) => {
      let fresh = new Map<Code, Reading>();
      const control = {
        stopped: () => subscriber.closed,
        known: (readings: Readings) => readings.forEach((value, code) => fresh.set(code, value)),
        progress: (done: number, total: number) => {
          subscriber.next({ kind: 'known', done, total, fresh });
          fresh = new Map();
        },
      };
      this.lines
        .withUnit(unit, 'look', async (at) => {
          // Everybody may have gone while the line was waited for.
          if (subscriber.closed) return;
          const read = await at.read(control);
          const text = read.ok ? '' : at.describe(read.fault);
          subscriber.next({ kind: 'end', ok: read.ok, text, at: new Date().toISOString() });
          subscriber.complete();
        })
        .catch((error: unknown) => subscriber.error(error));
    });
  }
}

/** What differs among the fresh readings. */
function rowsOf(
  dictionary: Dictionary,
  facts: Facts,
  { set }: ReferencedSet,
  fresh: ReadonlyMap<Code, Reading>,
) {
  return [...fresh].flatMap(([code, b]) => {
    const parameter = findParameter(dictionary, code);
    if (!parameter || isNoise(parameter)) return [];
    const a = set.readings.get(code);
    const difference = differenceOf(parameter, a, b);
    return isDifference(difference) ? [rowView(dictionary, facts, { code, a, b, difference })] : [];
  });
}
