// Reads a YAML file fact by fact; what is missing or of the wrong kind becomes a finding with its line and column and an
// empty value, so that one pass over a file finds everything. Aliases are not followed: a few of them would blow a small
// file up to gigabytes. The published schemas (docs/formats) say the same; this
// reader gives findings in a technician's words instead of schema paths.

import { isMap, isScalar, isSeq, LineCounter, parseDocument, type Document } from 'yaml';
import { readRegister } from '../values/index.ts';
import { tooDeepAt } from './yaml-depth.ts';
import { finding, type FactsOf, type Finding, type FindingCode } from '../findings/index.ts';

/** The files that make a model. */
export type ModelFile = 'model.yaml' | 'parameters.csv' | 'terminals.yaml' | 'faults.csv';

type Key = string | number;

/** The file's contents, or nothing with a finding where it is not YAML. */
export function readYaml(file: string, text: string, findings: Finding[]): FactReader | undefined {
  const deep = tooDeepAt(text);
  if (deep !== undefined) {
    findings.push(finding('stop', { file, line: deep }, 'yaml-too-deep', {}));
    return undefined;
  }
  const lines = new LineCounter();
  const document = parseDocument(text, { lineCounter: lines, uniqueKeys: true });
  for (const error of document.errors) {
    const { line, col } = lines.linePos(error.pos[0]);
    findings.push(finding('stop', { file, line, column: col }, 'yaml-broken', { why: error.code }));
  }
  if (document.errors.length > 0) return undefined;
  return new FactReader({ file, document, lines, findings }, []);
}

interface Source {
  readonly file: string;
  readonly document: Document;
  readonly lines: LineCounter;
  readonly findings: Finding[];
}

/**
 * A group of facts at one place of a file. Each question answers with a value of its kind, the empty one where the file has
 * none, and tells a finding then; `key` is a key of this group.
 */
export class FactReader {
  private readonly source: Source;
  private readonly path: readonly Key[];

  constructor(source: Source, path: readonly Key[]) {
    this.source = source;
    this.path = path;
    if (!isMap(this.node())) this.missing(undefined, 'a group of facts');
  }

  has(key: string): boolean {
    const node = this.node(key);
    return node !== undefined && node !== null && !(isScalar(node) && node.value === null);
  }

  in(key: string): FactReader {
    return new FactReader(this.source, [...this.path, key]);
  }

  list(key: string): FactReader[] {
    const node = this.node(key);
    if (isSeq(node)) {
      return node.items.map((_, index) => new FactReader(this.source, [...this.path, key, index]));
    }
    this.missing(key, 'a list');
    return [];
  }

  /** An empty list where the key is not there. */
  listIfAny(key: string): FactReader[] {
    return this.has(key) ? this.list(key) : [];
  }

  text(key: string, pattern = /\S/, wanted = 'a text'): string {
    const value = this.value(key);
    if ((typeof value === 'string' || typeof value === 'number') && pattern.test(String(value))) {
      return String(value).trim();
    }
    this.missing(key, wanted);
    return '';
  }

  textIfAny(key: string): string {
    return this.has(key) ? this.text(key) : '';
  }

  /** `today` turns the words of older files into those of today. */
  oneOf<const T extends string>(
    key: string,
    allowed: readonly T[],
    today: (word: string) => string = (word) => word,
  ): T {
    const value = this.value(key);
    const word = typeof value === 'string' ? today(value) : value;
    const found = allowed.find((each) => each === word);
    if (found === undefined) this.missing(key, `one of ${allowed.join(', ')}`);
    return found ?? (allowed[0] as T);
  }

  texts(key: string): string[] {
    const node = this.node(key);
    const values: unknown[] = isSeq(node)
      ? node.items.map((item) => (isScalar(item) ? item.value : item))
      : [];
    if (isSeq(node) && values.every((each) => typeof each === 'string')) return values;
    this.missing(key, 'a list of texts');
    return [];
  }

  /** Whole, and not below zero. */
  integer(key: string): number {
    const value = this.value(key);
    if (typeof value === 'number' && Number.isSafeInteger(value) && value >= 0) return value;
    this.missing(key, 'a whole number');
    return 0;
  }

  /** A register by its protocol address: `227` is a holding register, `'input 227'` an input register. */
  register(key: string): number {
    const value = this.value(key);
    const register = readRegister(typeof value === 'number' ? String(value) : value);
    if (register === undefined) this.missing(key, 'a register, such as 227 or "input 227"');
    return register ?? 0;
  }

  /** A bit of a register. */
  bit(key: string): number {
    const value = this.integer(key);
    if (value > 15) this.missing(key, 'a bit from 0 to 15');
    return value;
  }

  isGroup(key: string): boolean {
    return isMap(this.node(key));
  }

  /** Whole numbers, at least one. */
  integers(key: string): number[] {
    const node = this.node(key);
    const values = isSeq(node) ? node.items.map(plain) : [];
    const whole = values.filter((each): each is number => Number.isSafeInteger(each));
    if (whole.length > 0 && whole.length === values.length) return whole;
    this.missing(key, 'a list of whole numbers');
    return [];
  }

  integerIfAny(key: string, otherwise: number): number {
    return this.has(key) ? this.integer(key) : otherwise;
  }

  number(key: string): number {
    const value = this.value(key);
    if (typeof value === 'number' && Number.isFinite(value)) return value;
    this.missing(key, 'a number');
    return 0;
  }

  /** Nothing, and no finding, where it is something else. */
  numberIfSo(key: string): number | undefined {
    const value = this.value(key);
    return typeof value === 'number' && Number.isFinite(value) ? value : undefined;
  }

  /** Numbers and texts, at least one. */
  scalars(key: string): (number | string)[] {
    const node = this.node(key);
    const values = isSeq(node) ? node.items.map(plain) : [];
    const known = values.filter(
      (each): each is number | string => typeof each === 'string' || Number.isFinite(each),
    );
    if (known.length > 0 && known.length === values.length) return known;
    this.missing(key, 'a list of numbers or words');
    return [];
  }

  flag(key: string): boolean {
    const value = this.value(key);
    if (typeof value === 'boolean') return value;
    this.missing(key, 'true or false');
    return false;
  }

  /** Values keep their places only as text: `'3.70'`, not `3.70`. */
  facts(key?: string): Record<string, string> {
    const node = this.node(key);
    const pairs = isMap(node) ? node.items.map(({ key: name, value }) => [plain(name), plain(value)]) : [];
    const texts = pairs.filter((pair): pair is [string, string] =>
      pair.every((each) => typeof each === 'string'),
    );
    if (!isMap(node) || texts.length !== pairs.length) this.missing(key, 'facts in quotation marks');
    return Object.fromEntries(texts);
  }

  keys(): string[] {
    const node = this.node();
    return isMap(node) ? node.items.map(({ key }) => String(plain(key))) : [];
  }

  /** A parameter that this file names and no file states. */
  unknownCode(key: string | undefined, text: string): void {
    this.report(key, 'code-unknown', { text });
  }

  private report<C extends FindingCode>(key: string | undefined, code: C, facts: FactsOf<C>): void {
    const { file, findings } = this.source;
    findings.push(finding('stop', { file, ...this.place(key) }, code, facts));
  }

  missing(key: string | undefined, wanted: string): void {
    const path = this.keysTo(key).reduce<string>(
      (text, part) =>
        typeof part === 'number' ? `${text}[${part}]` : text === '' ? part : `${text}.${part}`,
      '',
    );
    this.report(key, 'fact-missing', { path, wanted });
  }

  private value(key: string): unknown {
    return plain(this.node(key));
  }

  private node(key?: string): unknown {
    const path = this.keysTo(key);
    return path.length === 0 ? this.source.document.contents : this.source.document.getIn(path, true);
  }

  private keysTo(key: string | undefined): readonly Key[] {
    return key === undefined ? this.path : [...this.path, key];
  }

  /** The place of the value, or of the nearest group around it that exists. */
  place(key: string | undefined): { line: number; column: number } {
    const path = [...this.keysTo(key)];
    for (;;) {
      const node = path.length === 0 ? this.source.document.contents : this.source.document.getIn(path, true);
      const range = (node as { range?: readonly number[] } | null | undefined)?.range;
      if (range) {
        const { line, col } = this.source.lines.linePos(range[0] ?? 0);
        return { line: Math.max(1, line), column: Math.max(1, col) };
      }
      if (path.length === 0) return { line: 1, column: 1 };
      path.pop();
    }
  }
}

const plain = (node: unknown): unknown => (isScalar(node) ? node.value : undefined);
