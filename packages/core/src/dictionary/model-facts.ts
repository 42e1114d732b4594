// The facts of a model (model.yaml), checked one by one. The published schema (docs/formats/model.schema.json) says
// the same; this reader gives findings in a technician's words instead of schema paths.

import type { LineFacts, Rating, Region, RegisterValue } from './dictionary.ts';
import type { ModelFinding } from './findings.ts';
import type { Code } from './parameter.ts';

export interface ModelFacts {
  readonly model: string;
  readonly version: number;
  readonly maker: string;
  readonly name: string;
  readonly about: string;
  readonly firmware: { readonly from: string; readonly to: string };
  readonly ratings: readonly Rating[];
  readonly regions: readonly Region[];
  readonly line: LineFacts | null;
  readonly effects: readonly {
    readonly when: Code;
    readonly codes: readonly Code[];
    readonly menu: string | null;
    readonly why: string;
  }[];
}

export function readModelFacts(source: unknown, findings: ModelFinding[]): ModelFacts | undefined {
  const before = findings.length;
  const at = new FactReader(source, '', findings);
  const facts: ModelFacts = {
    model: at.text('model', /^[a-z0-9]+(-[a-z0-9]+)*$/, 'a name in small letters, such as "halvern-hn64"'),
    version: at.integer('version'),
    maker: at.text('maker'),
    name: at.text('name'),
    about: at.text('about'),
    firmware: { from: at.in('firmware').text('from'), to: at.in('firmware').text('to') },
    ratings: at.list('ratings').map((rating) => ({
      id: rating.text('id'),
      number: rating.integer('number'),
      name: rating.text('name'),
      facts: rating.facts('facts'),
    })),
    regions: at.list('regions').map((region) => ({
      id: region.text('id'),
      name: region.text('name'),
      facts: region.facts('facts'),
    })),
    line: at.has('line') ? readLine(at.in('line')) : null,
    effects: at.has('effects') ? at.list('effects').map(readEffect) : [],
  };
  return findings.length === before ? facts : undefined;
}

function readEffect(at: FactReader): ModelFacts['effects'][number] {
  return {
    when: at.text('when') as Code,
    codes: at.has('codes') ? (at.texts('codes') as Code[]) : [],
    menu: at.has('menu') ? at.text('menu') : null,
    why: at.text('why'),
  };
}

function readLine(at: FactReader): LineFacts {
  const identity = at.in('identity');
  const status = at.in('status');
  const fault = at.in('fault');
  return {
    wordOrder: at.text('word_order', /^(high|low)-first$/, '"high-first" or "low-first"') as 'high-first',
    largestRead: at.integer('largest_read'),
    bridgeGaps: at.flag('bridge_gaps'),
    reserved: at.list('reserved').map((area) => ({ from: area.integer('from'), to: area.integer('to') })),
    identity: {
      model: readRegisterValue(identity.in('model')),
      rating: identity.integer('rating'),
      firmware: identity.integer('firmware'),
      serial: identity.integer('serial'),
    },
    status: {
      register: status.integer('register'),
      running: status.integer('running'),
      fault: status.integer('fault'),
    },
    fault: {
      active: fault.integer('active'),
      history: fault.integer('history'),
      historyLength: fault.integer('history_length'),
    },
    save: { ...readRegisterValue(at.in('save')), busyMs: at.in('save').integer('busy_ms') },
    restart: { ...readRegisterValue(at.in('restart')), busyMs: at.in('restart').integer('busy_ms') },
  };
}

const readRegisterValue = (at: FactReader): RegisterValue => ({
  register: at.integer('register'),
  value: at.integer('value'),
});

/** Walks a parsed document; what is missing or of the wrong kind becomes a finding and an empty value. */
class FactReader {
  private readonly source: Record<string, unknown>;
  private readonly path: string;
  private readonly findings: ModelFinding[];

  constructor(source: unknown, path: string, findings: ModelFinding[]) {
    const isObject = typeof source === 'object' && source !== null && !Array.isArray(source);
    this.source = isObject ? (source as Record<string, unknown>) : {};
    this.path = path;
    this.findings = findings;
    if (!isObject) this.missing('', 'a group of facts');
  }

  has(key: string): boolean {
    return this.source[key] !== undefined && this.source[key] !== null;
  }

  in(key: string): FactReader {
    return new FactReader(this.source[key], this.at(key), this.findings);
  }

  list(key: string): FactReader[] {
    const value = this.source[key];
    if (Array.isArray(value)) {
      return value.map((each, index) => new FactReader(each, `${this.at(key)}[${index}]`, this.findings));
    }
    this.missing(key, 'a list');
    return [];
  }

  text(key: string, pattern = /\S/, wanted = 'a text'): string {
    const value = this.source[key];
    if ((typeof value === 'string' || typeof value === 'number') && pattern.test(String(value))) {
      return String(value).trim();
    }
    this.missing(key, wanted);
    return '';
  }

  texts(key: string): string[] {
    const value = this.source[key];
    if (Array.isArray(value) && value.every((each) => typeof each === 'string')) return value;
    this.missing(key, 'a list of texts');
    return [];
  }

  integer(key: string): number {
    const value = this.source[key];
    if (typeof value === 'number' && Number.isSafeInteger(value) && value >= 0) return value;
    this.missing(key, 'a whole number');
    return 0;
  }

  flag(key: string): boolean {
    const value = this.source[key];
    if (typeof value === 'boolean') return value;
    this.missing(key, 'true or false');
    return false;
  }

  /** Values keep their places only as text: `'3.70'`, not `3.70`. */
  facts(key: string): Record<string, string> {
    const value = this.source[key];
    const entries = typeof value === 'object' && value !== null ? Object.entries(value) : [];
    const texts = entries.filter((entry): entry is [string, string] => typeof entry[1] === 'string');
    if (entries.length === 0 || texts.length !== entries.length)
      this.missing(key, 'facts in quotation marks');
    return Object.fromEntries(texts);
  }

  private at(key: string): string {
    return [this.path, key].filter((part) => part !== '').join('.');
  }

  private missing(key: string, wanted: string): void {
    this.findings.push({ file: 'model.yaml', line: 1, code: 'fact-missing', path: this.at(key), wanted });
  }
}
