// A write plan for fingers: the same steps in an order with few key presses at the model's own keypad. Steps keep their
// order where one bears on another; between the others the way through the menus decides.

import {
  changedBy,
  defaultOf,
  factsOf,
  findParameter,
  placeOf,
  type Code,
  type Dictionary,
  type KeypadFacts,
  type Outfit,
  type Parameter,
} from '../dictionary/index.ts';
import { formatRaw, isRaw, type Form } from '../values/index.ts';
import type { WriteStep } from './write-plan.ts';

export interface KeyInLine {
  readonly step: WriteStep;
  /** Keys from the line before, or from the first menu, to this parameter. */
  readonly way: number;
  /** Keys to change the value, with entering and confirming it. */
  readonly edit: number;
}

export interface KeyInOrder {
  readonly lines: readonly KeyInLine[];
  readonly presses: number;
  /** The same steps in the order of the write plan. */
  readonly plainPresses: number;
}

/** With no more free steps than this the best order of all is found; beyond it a good one. */
const MOST_EXACT = 10;

/** Nothing for a model without a keypad. */
export function orderForKeys(
  dictionary: Dictionary,
  outfit: Outfit,
  steps: readonly WriteStep[],
): KeyInOrder | undefined {
  const { keypad } = dictionary;
  if (!keypad) return undefined;
  const walk = new KeypadWalk(dictionary, keypad, steps);
  const order = walk.best();
  const facts = factsOf(dictionary, outfit) ?? {};
  const lines = order.map((at, place): KeyInLine => {
    const step = steps[at] as WriteStep;
    const parameter = findParameter(dictionary, step.code);
    // What is not known is taken to be at its default.
    const from = isRaw(step.from) ? step.from : parameter && defaultOf(parameter, facts);
    const edit = parameter ? editPresses(keypad, parameter.form, from ?? 0, step.to) : 0;
    return { step, way: walk.way(order[place - 1], at), edit };
  });
  const edits = lines.reduce((sum, { edit }) => sum + edit, 0);
  const plain = steps.map((_, at) => at);
  return { lines, presses: walk.length(order) + edits, plainPresses: walk.length(plain) + edits };
}

/** Keys to change a value from one to the other, with entering and confirming it. */
export function editPresses(keypad: KeypadFacts, form: Form, from: number, to: number): number {
  const frame = 2 * keypad.enter;
  switch (form.kind) {
    case 'option': {
      const place = (raw: number) => form.options.findIndex((option) => option.raw === raw);
      return frame + Math.abs(place(to) - place(from)) * keypad.optionStep;
    }
    case 'bits': {
      const turned = form.bits
        .map(({ bit }, at) => ({ at, bit }))
        .filter(({ bit }) => isTurned(from, to, bit));
      return frame + (turned.at(-1)?.at ?? 0) * keypad.optionStep + turned.length * keypad.digitStep;
    }
    case 'number': {
      const [old, fresh] = [formatRaw(form, from), formatRaw(form, to)].map(digitsOf);
      const length = Math.max(old?.length ?? 0, fresh?.length ?? 0);
      const [a, b] = [old, fresh].map((digits) => (digits ?? '').padStart(length, '0'));
      const ups = Array.from({ length }, (_, at) => turns(Number(a?.[at]), Number(b?.[at])));
      const first = ups.findIndex((each) => each > 0);
      const moves = first < 0 ? 0 : length - 1 - first;
      const sign = from < 0 !== to < 0 ? keypad.digitStep : 0;
      return (
        frame + moves * keypad.digitMove + ups.reduce((sum, each) => sum + each, 0) * keypad.digitStep + sign
      );
    }
  }
}

const isTurned = (from: number, to: number, bit: number): boolean => ((from ^ to) >>> bit) % 2 === 1;
const digitsOf = (text: string): string => text.replace(/[^0-9]/g, '');
/** A digit goes up or down, and from 9 on to 0. */
const turns = (from: number, to: number): number => Math.min(Math.abs(to - from), 10 - Math.abs(to - from));

interface Place {
  readonly menu: number;
  readonly item: number;
  readonly size: number;
}

class KeypadWalk {
  private readonly keypad: KeypadFacts;
  private readonly places: readonly Place[];
  /** For each step those that come before it. */
  private readonly before: readonly (readonly number[])[];

  constructor(dictionary: Dictionary, keypad: KeypadFacts, steps: readonly WriteStep[]) {
    this.keypad = keypad;
    this.places = placesOf(dictionary, steps);
    this.before = steps.map((step, at) =>
      steps.flatMap((other, earlier) =>
        earlier < at && mustPrecede(dictionary, other, step) ? [earlier] : [],
      ),
    );
  }

  /** From the first parameter of the first menu, where nothing was before. */
  way(from: number | undefined, to: number): number {
    const a = from === undefined ? { menu: 0, item: 0, size: 1 } : this.places[from];
    const b = this.places[to];
    if (!a || !b) return 0;
    const { menuMove, move, wraps, enter, back } = this.keypad;
    if (a.menu === b.menu && from !== undefined) {
      const straight = Math.abs(a.item - b.item);
      return move * (wraps ? Math.min(straight, a.size - straight) : straight);
    }
    const inside = wraps ? Math.min(b.item, b.size - b.item) : b.item;
    return (from === undefined ? 0 : back) + Math.abs(a.menu - b.menu) * menuMove + enter + inside * move;
  }

  length(order: readonly number[]): number {
    return order.reduce((sum, at, place) => sum + this.way(order[place - 1], at), 0);
  }

  best(): readonly number[] {
    const plain = this.places.map((_, at) => at);
    if (plain.length <= MOST_EXACT) return this.exact(plain.length);
    const good = [plain, this.nearest()].map((order) => this.improved(order));
    return good.reduce((one, other) => (this.length(other) < this.length(one) ? other : one));
  }

  /** Shortest of all orders, by the sets of steps already done (Held and Karp 1962). */
  private exact(count: number): readonly number[] {
    interface Leg {
      readonly length: number;
      readonly order: readonly number[];
    }
    let legs = new Map<string, Leg>([['0 ', { length: 0, order: [] }]]);
    for (let done = 0; done < count; done += 1) {
      const next = new Map<string, Leg>();
      for (const [key, { length, order }] of legs) {
        const set = Number(key.split(' ')[0]);
        for (let at = 0; at < count; at += 1) {
          if (set & (1 << at) || !this.before[at]?.every((each) => set & (1 << each))) continue;
          const longer = length + this.way(order.at(-1), at);
          const to = `${set | (1 << at)} ${at}`;
          if (longer < (next.get(to)?.length ?? Infinity))
            next.set(to, { length: longer, order: [...order, at] });
        }
      }
      legs = next;
    }
    const all = [...legs.values()];
    return all.reduce((one, other) => (other.length < one.length ? other : one)).order;
  }

  private nearest(): number[] {
    const order: number[] = [];
    const open = new Set(this.places.keys());
    while (open.size > 0) {
      const ready = [...open].filter((at) => this.before[at]?.every((each) => !open.has(each)));
      const last = order.at(-1);
      const next = ready.reduce((one, other) => (this.way(last, other) < this.way(last, one) ? other : one));
      open.delete(next);
      order.push(next);
    }
    return order;
  }

  /** Moves runs of up to three steps elsewhere as long as that saves keys. */
  private improved(start: readonly number[]): readonly number[] {
    let order = [...start];
    for (let better = true; better;) {
      better = false;
      for (let size = 1; size <= 3 && !better; size += 1) {
        for (let from = 0; from + size <= order.length && !better; from += 1) {
          const shorter = this.movedRun(order, from, size);
          if (!shorter) continue;
          order = shorter;
          better = true;
        }
      }
    }
    return order;
  }

  private movedRun(order: readonly number[], from: number, size: number): number[] | undefined {
    const run = order.slice(from, from + size);
    const rest = [...order.slice(0, from), ...order.slice(from + size)];
    const [first, last] = [run[0] ?? 0, run.at(-1) ?? 0];
    const gap = (before: number | undefined, after: number | undefined): number =>
      after === undefined ? 0 : this.way(before, after);
    const added = (at: number): number =>
      this.way(rest[at - 1], first) + gap(last, rest[at]) - gap(rest[at - 1], rest[at]);
    const now = added(from);
    for (let to = 0; to <= rest.length; to += 1) {
      if (added(to) >= now) continue;
      const moved = [...rest.slice(0, to), ...run, ...rest.slice(to)];
      if (this.isAllowed(moved)) return moved;
    }
    return undefined;
  }

  private isAllowed(order: readonly number[]): boolean {
    const place = new Map(order.map((at, index) => [at, index]));
    return order.every((at, index) => this.before[at]?.every((each) => (place.get(each) ?? 0) < index));
  }
}

function placesOf({ parameters }: Dictionary, steps: readonly WriteStep[]): readonly Place[] {
  const menuOf = ({ menu }: Parameter) => menu.join(' / ');
  const menus = [...new Set(parameters.map(menuOf))];
  const items = new Map<string, Code[]>();
  for (const parameter of parameters) {
    const name = menuOf(parameter);
    items.set(name, [...(items.get(name) ?? []), parameter.code]);
  }
  const byCode = new Map(parameters.map((parameter) => [parameter.code, menuOf(parameter)]));
  return steps.map(({ code }) => {
    const name = byCode.get(code) ?? '';
    const inMenu = items.get(name) ?? [];
    return { menu: menus.indexOf(name), item: inMenu.indexOf(code), size: inMenu.length };
  });
}

/** Whether an earlier step of the plan has to stay before a later one. */
function mustPrecede(dictionary: Dictionary, one: WriteStep, other: WriteStep): boolean {
  if (one.code === other.code || one.phase === 'unlock' || other.phase === 'lock') return true;
  if (one.reason.kind === 'makes-way' && one.reason.for === other.code) return true;
  const bears = (cause: Code, on: Code) =>
    dictionary.effects.some((effect) => {
      if (effect.when !== cause) return false;
      if (effect.kind === 'chooses') return isRated(dictionary, on);
      return effect.kind === 'blocks' ? effect.codes.includes(on) : changedBy(effect).includes(on);
    });
  return bears(one.code, other.code) || bears(other.code, one.code);
}

function isRated(dictionary: Dictionary, code: Code): boolean {
  const parameter = findParameter(dictionary, code);
  const bounds = parameter ? [parameter.minimum, parameter.maximum, parameter.default] : [];
  return bounds.some((bound) => bound !== null && 'fact' in bound);
}

/** Codes that hold what is wanted already and are looked at only, in the order of the menus. */
export const inMenuOrder = (dictionary: Dictionary, codes: readonly Code[]): readonly Code[] =>
  [...codes].sort((a, b) => placeOf(dictionary, a) - placeOf(dictionary, b));
