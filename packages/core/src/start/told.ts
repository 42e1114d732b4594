// What somebody has typed into a sheet of first settings, as he typed it, and what it comes to: numbers in plain units, options,
// answers to questions. Nothing that was typed is thrown away; what is not understood is told beside its field.

import {
  asTyped,
  fail,
  inUnit,
  normalUnit,
  ok,
  parseDecimal,
  toNumber,
  type Result,
} from '../values/index.ts';
import { askOf, type Ask, type Condition, type Given, type StartingPoint } from './starting-point.ts';

/** By the key of its field: `ask.speed.1`, `plate.current`, `set.ramp.up`, `code.02C`, `terminal.S1:13-14`, `device.S9`. */
export interface Typed {
  readonly text: string;
  /** Why, where somebody said so. */
  readonly why: string;
}
export type TypedFields = ReadonlyMap<string, Typed>;

const NUMBER_AND_UNIT = /^([-−+]?[\d.,]+)\s*(.*)$/;

/** A number as people type it, with its unit or without; in `unit`. The fault says what to type. */
export function typedNumber(text: string, unit: string): Result<number, string> {
  const [, number = '', typed = ''] = NUMBER_AND_UNIT.exec(text.trim()) ?? [];
  const wanted = unit === '' ? 'a number' : `a number in ${unit}`;
  const parsed = parseDecimal(asTyped(number.replace('−', '-').replace('+', '')));
  if (!parsed.ok) return fail(`"${text}" is no number. Type ${wanted}.`);
  const own = normalUnit(typed);
  if (own === '' || own === normalUnit(unit)) return ok(toNumber(parsed.value));
  const converted = inUnit(String(toNumber(parsed.value)), own, unit);
  return converted === undefined
    ? fail(`"${typed}" is no unit for this. Type ${wanted}.`)
    : ok(Number(converted));
}

export interface Answer {
  readonly ask: Ask;
  /** Nothing where nobody has told it and it has no usual value, or what was told is not understood. */
  readonly value: number | string | undefined;
  readonly unit: string;
  readonly fault: string | null;
  readonly isTyped: boolean;
  readonly why: string;
}

/** The questions of a starting point with their answers, and of those that follow from what was answered. */
export class Told {
  private readonly point: StartingPoint | null;
  private readonly typed: TypedFields;
  /** Answers to questions that every sheet asks. */
  private readonly common: Readonly<Record<string, string>>;
  private readonly found = new Map<string, Answer>();

  constructor(point: StartingPoint | null, typed: TypedFields, common: Readonly<Record<string, string>>) {
    this.point = point;
    this.typed = typed;
    this.common = common;
  }

  /** In the order of the file; only what is asked by what was answered. */
  get answers(): readonly Answer[] {
    return (this.point?.asks ?? []).filter(({ when }) => this.holds(when)).map((ask) => this.answer(ask));
  }

  holds(when: Condition): boolean {
    return Object.entries(when).every(([name, is]) => this.value(name) === is);
  }

  /** The answer to a question; nothing where it is not told. */
  value(name: string): number | string | undefined {
    const ask = this.point?.asks.find(({ id }) => id === name);
    return ask ? this.answer(ask).value : this.common[name];
  }

  given(given: Given): number | string | undefined {
    const name = askOf(given);
    return name === undefined ? given : this.value(name);
  }

  number(given: Given): number | undefined {
    const value = this.given(given);
    return typeof value === 'number' ? value : undefined;
  }

  private answer(ask: Ask): Answer {
    let answer = this.found.get(ask.id);
    if (!answer) {
      answer = this.work(ask);
      this.found.set(ask.id, answer);
    }
    return answer;
  }

  private work(ask: Ask): Answer {
    const typed = this.typed.get(`ask.${ask.id}`);
    const text = typed?.text.trim() ?? '';
    const base = { ask, unit: this.unitOf(ask), isTyped: text !== '', why: typed?.why ?? '' };
    if (text === '') return { ...base, ...this.usual(ask, base.unit) };
    if (ask.kind === 'text') return { ...base, value: text, fault: null };
    if (ask.kind === 'choice') {
      const option = ask.options.find(({ id }) => id === text);
      const fault = option ? null : `Choose one of: ${ask.options.map((each) => each.text).join(', ')}.`;
      return { ...base, value: option?.id, fault };
    }
    const read = typedNumber(text, base.unit);
    if (!read.ok) return { ...base, value: undefined, fault: read.fault };
    const fault = this.outside(ask, read.value, base.unit);
    return { ...base, value: fault === null ? read.value : undefined, fault };
  }

  /** What it is as long as nobody answers; somebody has to where that does not fit what else was answered. */
  private usual(ask: Ask, unit: string): Pick<Answer, 'value' | 'fault'> {
    const fault = ask.kind === 'number' && ask.is !== null ? this.outside(ask, ask.is, unit) : null;
    if (fault !== null) return { value: undefined, fault: `The usual value does not fit here. ${fault}` };
    return { value: ask.is ?? undefined, fault: null };
  }

  private unitOf(ask: Ask): string {
    if (ask.kind !== 'number') return '';
    const name = askOf(ask.unit);
    return name === undefined ? ask.unit : String(this.value(name) ?? '');
  }

  /** Limits may name questions that are answered in either order. */
  private outside(ask: Ask & { kind: 'number' }, value: number, unit: string): string | null {
    const limit = (given: Given | null, way: 1 | -1): number | undefined => {
      const number = given === null ? undefined : this.number(given);
      return number === undefined || given === null || askOf(given) === undefined
        ? number
        : number + way * ask.apart;
    };
    const [from, to] = [limit(ask.from, 1), limit(ask.to, -1)];
    // A transmitter may be told from its high end to its low one.
    const [low, high] =
      from !== undefined && to !== undefined ? [Math.min(from, to), Math.max(from, to)] : [from, to];
    const say = (limit: number) => (unit === '' ? String(limit) : `${limit} ${unit}`);
    if (low !== undefined && value < low) return `${say(value)} is too little: ${say(low)} at least.`;
    if (high !== undefined && value > high) return `${say(value)} is too much: ${say(high)} at most.`;
    return null;
  }
}
