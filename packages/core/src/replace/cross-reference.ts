// What no bridge between models can know about one pair of them: which old setting is left behind and why, which one is fixed,
// asked or only checked on the successor, and what the successor has to be told that the old one never said.
// Format: docs/formats/cross-reference.schema.json.

import { isMap, isNode, isScalar, isSeq, LineCounter, parseDocument, type Node } from 'yaml';
import { findParameter, type Code, type Dictionary, type Parameter } from '../dictionary/index.ts';
import { fail, ok, parseRaw, type Result } from '../values/index.ts';

/** Settings of the successor, as raw values. */
export type FreshValues = ReadonlyMap<Code, number>;

export interface Choice {
  readonly text: string;
  readonly sets: FreshValues;
}

export type Rule =
  /** Nothing of it goes over. */
  | { readonly does: 'left'; readonly why: string }
  /** The bridge carries it, and here is what to know about it. */
  | { readonly does: 'carried'; readonly why: string }
  /** Nothing is set by it; somebody looks whether the successor is right. */
  | { readonly does: 'check'; readonly why: string }
  | { readonly does: 'fixed'; readonly sets: FreshValues; readonly why: string }
  | {
      readonly does: 'asked';
      readonly ask: string;
      readonly choices: readonly Choice[];
      readonly why: string;
    };

/** On the successor: `stays` at its default, and that is right. */
export type FreshRule =
  Exclude<Rule, { does: 'left' | 'carried' }> | { readonly does: 'stays'; readonly why: string };

export interface CrossReference {
  /** Models, whatever their version. */
  readonly old: string;
  readonly fresh: string;
  readonly version: number;
  readonly byOld: ReadonlyMap<Code, Rule>;
  readonly byFresh: ReadonlyMap<Code, FreshRule>;
}

export interface CrossFault {
  readonly line: number;
  readonly text: string;
}

const OLD_RULES = ['left', 'carried', 'check', 'fixed', 'asked'] as const;
const FRESH_RULES = ['stays', 'check', 'fixed', 'asked'] as const;

/** Everything that is wrong with the file, each with its line. */
export function readCrossReference(
  text: string,
  old: Dictionary,
  fresh: Dictionary,
): Result<CrossReference, readonly CrossFault[]> {
  const reader = new Reader(text, old, fresh);
  const read = reader.read();
  return reader.faults.length === 0 && read ? ok(read) : fail(reader.faults);
}

class Reader {
  readonly faults: CrossFault[] = [];
  private readonly lines = new LineCounter();
  private readonly text: string;
  private readonly old: Dictionary;
  private readonly fresh: Dictionary;

  constructor(text: string, old: Dictionary, fresh: Dictionary) {
    this.text = text;
    this.old = old;
    this.fresh = fresh;
  }

  read(): CrossReference | undefined {
    const document = parseDocument(this.text, { lineCounter: this.lines, uniqueKeys: true });
    for (const error of document.errors)
      this.faults.push({ line: this.lines.linePos(error.pos[0]).line, text: `no YAML: ${error.code}` });
    const root = document.contents;
    if (document.errors.length > 0) return undefined;
    if (!isMap(root)) {
      this.fault(root, 'a cross-reference is a group of facts');
      return undefined;
    }
    this.known(root, ['old', 'new', 'version', 'settings', 'successor']);
    this.model(root, 'old', this.old);
    this.model(root, 'new', this.fresh);
    const version = this.value(root, 'version');
    if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
      this.fault(root, 'version is a whole number from 1');
    return {
      ...{ old: this.old.model, fresh: this.fresh.model, version: Number(version) },
      byOld: this.rules(root, 'settings', 'old', this.old, OLD_RULES) as CrossReference['byOld'],
      byFresh: this.rules(root, 'successor', 'new', this.fresh, FRESH_RULES) as CrossReference['byFresh'],
    };
  }

  private model(root: Node, key: string, { model }: Dictionary): void {
    if (this.value(root, key) !== model) this.fault(root, `${key} is ${model}`);
  }

  private rules(
    root: Node,
    list: string,
    key: 'old' | 'new',
    dictionary: Dictionary,
    kinds: readonly string[],
  ): ReadonlyMap<Code, unknown> {
    const found = new Map<Code, unknown>();
    const items = isMap(root) ? root.get(list, true) : undefined;
    if (!isSeq(items)) {
      this.fault(root, `${list} is a list`);
      return found;
    }
    for (const item of items.items as Node[]) {
      const does = textOf(this.value(item, 'does'));
      this.known(item, [key, 'does', 'why', 'sets', 'ask', 'choices']);
      const codes = this.codes(item, key);
      const named = codes.join(', ');
      if (codes.length === 0) this.fault(item, `a line names its parameters (${key})`);
      const why = this.value(item, 'why');
      if (typeof why !== 'string' || why.trim() === '') this.fault(item, `${named} needs a reason (why)`);
      const known = kinds.includes(does);
      if (!known) this.fault(item, `${named}: does is one of ${kinds.join(', ')}`);
      const rule = known ? this.rule(item, does, String(why)) : undefined;
      for (const code of codes) {
        const parameter = findParameter(dictionary, code);
        if (!parameter) this.fault(item, `${dictionary.model} has no ${code}`);
        else if (found.has(parameter.code)) this.fault(item, `${code} has two lines`);
        else found.set(parameter.code, rule);
      }
    }
    return found;
  }

  /** One code, or several that have one reason. */
  private codes(item: Node, key: string): readonly string[] {
    const found = isMap(item) ? item.get(key, true) : undefined;
    const nodes = isSeq(found) ? found.items : [found];
    return nodes.flatMap((each) => (isScalar(each) && each.value !== null ? [textOf(each.value)] : []));
  }

  private rule(item: Node, does: string, why: string): unknown {
    if (does === 'fixed') return { does, why, sets: this.sets(item) };
    if (does !== 'asked') return { does, why };
    const ask = this.value(item, 'ask');
    if (typeof ask !== 'string' || ask === '') this.fault(item, 'what is asked needs its question (ask)');
    const choices = isMap(item) ? item.get('choices', true) : undefined;
    if (!isSeq(choices) || choices.items.length < 2) {
      this.fault(item, 'what is asked needs two choices or more');
      return { does, why, ask: String(ask), choices: [] };
    }
    const made = (choices.items as Node[]).map((each): Choice => {
      this.known(each, ['text', 'sets']);
      const text = this.value(each, 'text');
      if (typeof text !== 'string' || text === '') this.fault(each, 'a choice needs its text');
      return { text: String(text), sets: this.sets(each, true) };
    });
    return { does, why, ask: String(ask), choices: made };
  }

  /** `sets: { 05C: '1' }`, values as the keypad shows them. */
  private sets(item: Node, may = false): FreshValues {
    const found = new Map<Code, number>();
    const group = isMap(item) ? item.get('sets', true) : undefined;
    if (!isMap(group)) {
      if (!may || group !== undefined) this.fault(item, 'sets is a group of codes and values');
      return found;
    }
    for (const { key, value } of group.items) {
      const code = isScalar(key) ? String(key.value) : '';
      const shown = isScalar(value) ? String(value.value) : '';
      const parameter = findParameter(this.fresh, code);
      const raw = parameter && parseRaw(parameter.form, shown);
      if (!parameter) this.fault(item, `${this.fresh.model} has no ${code}`);
      else if (!raw?.ok || !isThere(parameter, raw.value)) this.fault(item, `${code} does not take ${shown}`);
      else found.set(parameter.code, raw.value);
    }
    return found;
  }

  private value(node: Node, key: string): unknown {
    const found = isMap(node) ? node.get(key) : undefined;
    return isNode(found) && !isScalar(found) ? undefined : found;
  }

  private known(node: Node, keys: readonly string[]): void {
    if (!isMap(node)) {
      this.fault(node, 'a line is a group of facts');
      return;
    }
    for (const { key } of node.items)
      if (isScalar(key) && !keys.includes(String(key.value)))
        this.fault(node, `nothing is called ${String(key.value)}`);
  }

  private fault(node: Node | null, text: string): void {
    this.faults.push({ line: this.lines.linePos(node?.range?.[0] ?? 0).line, text });
  }
}

/** An option that the model has. */
const isThere = ({ form }: Parameter, raw: number): boolean =>
  form.kind !== 'option' || form.options.some((option) => option.raw === raw);

/** Codes are text, but a file may write them as numbers. */
const textOf = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';
