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
import { Observable } from 'rxjs';
import { Dictionaries, lineFactsOf } from '../catalogue/dictionaries.service.ts';
import { LineLock } from '../line/line-lock.ts';
import { describeFault } from '../line/line-text.ts';
import { ModbusLine } from '../line/modbus-line.ts';
import { readUnit } from '../line/unit-reader.ts';
import { ProblemException } from '../problems/problem.ts';
import type { PositionWithUnit } from '../register/register.service.ts';
import { rowView } from './comparison-rows.ts';
import type { ReferencedSet } from './referenced-sets.service.ts';

@Injectable()
export class LiveReading {
  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly lock: LineLock,
  ) {}

  /** Ends with how it ended; whoever stops listening stops the reading. */
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
    return new Observable<MessageEvent>((subscriber) => {
      const tell = (event: LiveEvent) => subscriber.next({ type: 'live', data: event });
      const fresh = new Map<Code, Reading>();
      const control = {
        stopped: () => subscriber.closed,
        known: (readings: ReadonlyMap<Code, Reading>) =>
          readings.forEach((value, code) => fresh.set(code, value)),
        progress: (done: number, total: number) => {
          tell({ kind: 'rows', done, total, rows: rowsOf(dictionary, facts, other, fresh) });
          fresh.clear();
        },
      };
      const read = async () => {
        const modbus = new ModbusLine(line.host, line.port);
        try {
          const expected = { address: unit.lineAddress ?? 0, serial: unit.serial };
          return await readUnit(modbus, dictionary, lineFactsOf(dictionary), expected, control);
        } finally {
          modbus.close();
        }
      };
      this.lock
        .hold(line.id, read)
        .then((result) => {
          const name = { tag: position.tag, serial: unit.serial, modelName: dictionary.name };
          const text = result.ok ? '' : describeFault(result.fault, name);
          tell({ kind: 'end', ok: result.ok, text, at: new Date().toISOString() });
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
