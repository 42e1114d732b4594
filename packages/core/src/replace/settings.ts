// What becomes of every setting of the old unit on its successor. The bridge carries what both can say; the cross-reference
// says what no bridge can know; people answer the rest. No old setting is without a line, and no setting of the successor that
// can move the machine stays unsaid.

import {
  findParameter,
  type Code,
  type Dictionary,
  type Outfit,
  type Parameter,
} from '../dictionary/index.ts';
import { likeness, writePlain, type Bridge, type Met, type Plain, type PlainSet } from '../meanings/index.ts';
import { defaultSet } from '../sets/index.ts';
import { isRaw, meaningOf, sameReading, type Meaning, type Reading } from '../values/index.ts';
import type { CrossReference, FreshRule, FreshValues, Rule } from './cross-reference.ts';

export const GROUPS = ['asked', 'converted', 'carried', 'plate', 'check', 'left', 'new'] as const;
export type Group = (typeof GROUPS)[number];

/** One thing that an old setting says, and how the successor says it. */
export interface Part {
  readonly meaning: Meaning;
  readonly wanted: Plain;
  readonly now: Plain;
  /** Nothing where it was not to be carried. */
  readonly met: Met | null;
  /** Settings of the successor that say it. */
  readonly codes: readonly Code[];
}

export type Why =
  | { readonly code: 'text'; readonly text: string }
  /** It is read, not set. */
  | { readonly code: 'not-set'; readonly keeping: Parameter['keeping'] }
  /** A command, no setting. */
  | { readonly code: 'command' }
  /** Of the motor as measured: the successor measures it again. */
  | { readonly code: 'measured-again' }
  /** Nobody has set it, and the successor has nothing like it. */
  | { readonly code: 'never-set' }
  /** No dictionary says what it means for another model. */
  | { readonly code: 'no-meaning' }
  /** It means something only together with settings that say nothing now. */
  | { readonly code: 'says-nothing' }
  | { readonly code: 'could-not-be-read' }
  /** Carried exactly, rounded, limited, or not at all: its parts say how. */
  | { readonly code: 'bridge' }
  /** The successor keeps its default. */
  | { readonly code: 'default' }
  /** Somebody has set it by hand on this sheet. */
  | { readonly code: 'said' };

export interface Question {
  readonly ask: string;
  readonly choices: readonly { readonly text: string; readonly sets: FreshValues }[];
}

export interface SettingLine {
  /** `old 3/15`, or `new 05C` for what only the successor has. */
  readonly id: string;
  readonly group: Group;
  readonly code: Code;
  readonly reading: Reading | undefined;
  readonly parts: readonly Part[];
  readonly why: Why;
  readonly question: Question | null;
  /** Said by the cross-reference or carried exactly, not only taken to be so. */
  readonly proven: boolean;
  /** Somebody has to say what becomes of it. */
  readonly open: boolean;
  readonly answer: Answer | null;
}

export type Answer =
  | { readonly kind: 'choice'; readonly at: number }
  /** Own values for settings of the successor. */
  | { readonly kind: 'own'; readonly values: FreshValues; readonly reason: string }
  /** It is right as it stands: what is limited, left behind, or only taken to be so. */
  | { readonly kind: 'accepted'; readonly reason: string };

export type Answers = ReadonlyMap<string, Answer>;

export interface SettingInput {
  readonly bridge: Bridge;
  readonly old: PlainSet;
  readonly oldOutfit: Outfit;
  readonly fresh: Dictionary;
  readonly outfit: Outfit;
  readonly cross: CrossReference | null;
  readonly answers: Answers;
  /** `input.3` of the old unit is `input.5` of the successor. */
  readonly renamed: ReadonlyMap<string, string>;
  /** What the two models choose in other ways is changed before it is carried; answers which meaning took the place of which. */
  readonly adjust: (wanted: Map<Meaning, Plain>) => ReadonlyMap<Meaning, Meaning>;
}

export interface SettingSheet {
  readonly lines: readonly SettingLine[];
  readonly readings: ReadonlyMap<Code, number>;
  readonly open: number;
}

/** Throws only where the outfit is not one of the successor. */
export function replaceSettings(input: SettingInput): SettingSheet {
  const { bridge, fresh, outfit } = input;
  const carried = new Carrying(input);
  const base = new Map(
    [...(defaultSet(fresh, outfit)?.readings ?? [])].flatMap(([code, raw]) =>
      isRaw(raw) ? [[code, raw] as const] : [],
    ),
  );
  const said = carried.saidValues();
  for (const [code, raw] of said) base.set(code, raw);
  const wanted = carried.wanted();
  const written = writePlain(bridge, fresh, outfit, wanted, base);
  const readings = new Map(written.readings);
  // What the file or somebody has said stands, whatever the bridge made of it.
  for (const [code, raw] of said) readings.set(code, raw);
  const set = bridge.read(fresh, outfit, readings);
  const lines = [
    ...input.old.dictionary.parameters.map((parameter) => carried.lineOf(parameter, set, written.met)),
    ...carried.newLines(set, decidedBy(carried.touched(wanted), set)),
  ];
  return { lines, readings, open: lines.filter(({ open }) => open).length };
}

/** Settings of the successor that say something of which an old setting has a line, whatever came of it. */
function decidedBy(touched: ReadonlySet<Meaning>, set: PlainSet): ReadonlySet<Code> {
  const { vocabulary } = set.bridge;
  const stated = set.dictionary.parameters.filter(
    ({ meaning }) =>
      meaning !== null && vocabulary.canonicalsOf(meaning).some((each) => touched.has(each.meaning)),
  );
  const said = [...touched].flatMap((meaning) => set.get(meaning).codes);
  return new Set([...stated.map(({ code }) => code), ...said]);
}

class Carrying {
  private readonly input: SettingInput;
  private readonly meanings = new Map<Code, Meaning[]>();
  private asked: ReadonlyMap<Meaning, Plain> = new Map();
  private moved: ReadonlyMap<Meaning, Meaning> = new Map();
  private readonly defaults: ReadonlyMap<Code, Reading>;

  constructor(input: SettingInput) {
    this.input = input;
    const { old, oldOutfit } = input;
    this.defaults = defaultSet(old.dictionary, oldOutfit)?.readings ?? new Map();
    for (const meaning of old.meanings) {
      const carrier = old.carrierOf(meaning);
      const entry = input.bridge.vocabulary.of(meaning);
      if (!carrier || !('parameter' in carrier) || entry?.kind === 'word') continue;
      const codes = old.get(meaning).codes;
      for (const code of codes.length > 0 ? codes : [carrier.parameter.code])
        this.meanings.set(code, [...(this.meanings.get(code) ?? []), meaning]);
    }
    // A part says something only together with others: where these stand here, too, it is no line of its own.
    for (const [code, all] of this.meanings) {
      const whole = all.filter((meaning) => input.bridge.vocabulary.of(meaning)?.kind !== 'part');
      if (whole.length > 0) this.meanings.set(code, whole);
    }
  }

  private ruleOf = (code: Code): Rule | undefined => this.input.cross?.byOld.get(code);

  private answerOf = (id: string): Answer | undefined => this.input.answers.get(id);

  /** Values of the successor that the file fixes, or that somebody has chosen or typed. */
  saidValues(): FreshValues {
    const said = new Map<Code, number>();
    const take = (values: FreshValues) => {
      for (const [code, raw] of values) said.set(code, raw);
    };
    const { cross } = this.input;
    const rules: [string, Rule | FreshRule][] = [
      ...[...(cross?.byOld ?? [])].map(([code, rule]): [string, Rule] => [`old ${code}`, rule]),
      ...[...(cross?.byFresh ?? [])].map(([code, rule]): [string, FreshRule] => [`new ${code}`, rule]),
    ];
    for (const [id, rule] of rules) {
      if (rule.does === 'fixed') take(rule.sets);
      const answer = this.answerOf(id);
      if (rule.does === 'asked' && answer?.kind === 'choice')
        take(rule.choices[answer.at]?.sets ?? new Map());
    }
    for (const answer of this.input.answers.values()) if (answer.kind === 'own') take(answer.values);
    return said;
  }

  /** What is to be carried: all that the old unit says, but for what the file says otherwise of. */
  wanted(): ReadonlyMap<Meaning, Plain> {
    const { old, adjust } = this.input;
    const wanted = new Map<Meaning, Plain>();
    for (const parameter of old.dictionary.parameters) {
      if (!this.isCarried(parameter)) continue;
      for (const meaning of this.meanings.get(parameter.code) ?? []) {
        const plain = old.get(meaning);
        if (plain.kind !== 'nothing') wanted.set(renamedIn(meaning, this.input.renamed), plain);
      }
    }
    this.moved = adjust(wanted);
    this.asked = wanted;
    return wanted;
  }

  /** What the old unit has a setting for, and what took the place of that. */
  touched(wanted: ReadonlyMap<Meaning, Plain>): ReadonlySet<Meaning> {
    const own = [...this.meanings].flatMap(([code, meanings]) => {
      const parameter = findParameter(this.input.old.dictionary, code);
      return parameter && this.isCarried(parameter) ? meanings : [];
    });
    return new Set([...own.map((meaning) => renamedIn(meaning, this.input.renamed)), ...wanted.keys()]);
  }

  private isCarried(parameter: Parameter): boolean {
    const rule = this.ruleOf(parameter.code);
    if (rule && rule.does !== 'carried') return false;
    return parameter.keeping === 'setting' && parameter.access !== 'read' && !this.isCommand(parameter);
  }

  private isCommand({ code }: Parameter): boolean {
    const { vocabulary } = this.input.bridge;
    const meanings = this.meanings.get(code) ?? [];
    return meanings.length > 0 && meanings.every((meaning) => vocabulary.of(meaning)?.kind === 'trigger');
  }

  lineOf(parameter: Parameter, set: PlainSet, met: ReadonlyMap<Meaning, Met>): SettingLine {
    const { code } = parameter;
    const id = `old ${code}`;
    const rule = this.ruleOf(code);
    const answer = this.answerOf(id) ?? null;
    const line = {
      ...{ id, code, reading: this.input.old.readings.get(code), answer },
      ...{ parts: this.partsOf(parameter, set, met), question: null as Question | null },
    };
    if (rule && rule.does !== 'carried') {
      const why: Why = { code: 'text', text: rule.why };
      if (rule.does === 'asked')
        return { ...line, group: 'asked', why, question: rule, proven: true, open: answer === null };
      const group = rule.does === 'fixed' ? 'converted' : rule.does;
      return { ...line, group, why, proven: true, open: false };
    }
    return this.derived(parameter, line, rule?.why);
  }

  /** A line of which the file says nothing, or only a word beside what the bridge does. */
  private derived(
    parameter: Parameter,
    line: Omit<SettingLine, 'group' | 'why' | 'proven' | 'open'>,
    said: string | undefined,
  ): SettingLine {
    const { code, keeping, access } = parameter;
    const why = (own: Why): Why => (said === undefined ? own : { code: 'text', text: said });
    const left = (own: Why, proven: boolean, open: boolean): SettingLine => ({
      ...{ ...line, group: 'left', why: why(own), proven: proven || said !== undefined },
      open: open && line.answer === null,
    });
    if (keeping === 'measured') return left({ code: 'measured-again' }, true, false);
    if (keeping !== 'setting' || access === 'read') return left({ code: 'not-set', keeping }, true, false);
    if (this.isCommand(parameter)) return left({ code: 'command' }, true, false);
    if (!isRaw(line.reading)) return left({ code: 'could-not-be-read' }, false, true);
    const neverSet = sameReading(line.reading, this.defaults.get(code));
    if (line.parts.length === 0) {
      if (neverSet) return left({ code: 'never-set' }, false, false);
      const means = (this.meanings.get(code) ?? []).length > 0;
      return left({ code: means ? 'says-nothing' : 'no-meaning' }, false, true);
    }
    const lost = line.parts.filter(({ met }) => met === null || met.kind === 'impossible');
    if (lost.length === line.parts.length && neverSet) return left({ code: 'never-set' }, false, false);
    const limited = line.parts.some(({ met }) => met?.kind === 'limited');
    const exactly = line.parts.every(
      ({ met, now, wanted }) => met?.kind === 'exactly' && sameWay(wanted, now),
    );
    const { vocabulary } = this.input.bridge;
    const belongs = line.parts.map(({ meaning }) => vocabulary.of(meaning)?.belongs);
    const plate = belongs.some((each) => each === 'plate' || each === 'site');
    return {
      ...line,
      group: plate ? 'plate' : exactly ? 'carried' : 'converted',
      why: why({ code: 'bridge' }),
      proven: lost.length === 0 || said !== undefined,
      // What the file has a word for was thought of; what is limited is still to be seen by somebody.
      open: ((lost.length > 0 && said === undefined) || limited) && line.answer === null,
    };
  }

  private partsOf({ code }: Parameter, set: PlainSet, met: ReadonlyMap<Meaning, Met>): readonly Part[] {
    const { old, renamed } = this.input;
    return (this.meanings.get(code) ?? []).flatMap((own): Part[] => {
      const said = old.get(own);
      if (said.kind === 'nothing') return [];
      const place = renamedIn(own, renamed);
      const meaning = this.moved.get(place) ?? place;
      const wanted = this.asked.get(meaning) ?? said;
      const now = set.get(meaning);
      return [{ meaning, wanted, now, met: metNow(met.get(meaning), wanted, now), codes: now.codes }];
    });
  }

  /** What only the successor can be told: by the file, or at its default where that may move the machine. */
  newLines(set: PlainSet, decided: ReadonlySet<Code>): readonly SettingLine[] {
    const { fresh, cross, bridge } = this.input;
    const said = this.saidValues();
    return fresh.parameters.flatMap((parameter): SettingLine[] => {
      const { code, meaning, keeping, access } = parameter;
      const rule = cross?.byFresh.get(code);
      const id = `new ${code}`;
      const answer = this.answerOf(id) ?? null;
      const line = { id, code, reading: set.readings.get(code), parts: [], answer, question: null };
      if (rule) {
        const why: Why = { code: 'text', text: rule.why };
        const question = rule.does === 'asked' ? rule : null;
        const group = rule.does === 'asked' ? 'asked' : rule.does === 'check' ? 'check' : 'new';
        return [{ ...line, group, why, question, proven: true, open: question !== null && answer === null }];
      }
      // What somebody has said of it stands on the sheet, whatever else decides it.
      if (answer) return [{ ...line, group: 'new', why: { code: 'said' }, proven: true, open: false }];
      if (keeping !== 'setting' || access === 'read' || decided.has(code) || said.has(code)) return [];
      const entry = meaning === null ? undefined : bridge.vocabulary.of(meaning);
      if (entry?.kind === 'trigger' || entry?.moves !== true) return [];
      return [{ ...line, group: 'new', why: { code: 'default' }, proven: false, open: false }];
    });
  }
}

/** Own values, or what the file has fixed, may have changed what the bridge wrote. */
function metNow(met: Met | undefined, wanted: Plain, now: Plain): Met | null {
  if (!met) return null;
  const like = likeness(wanted, now);
  if (like?.kind === 'same') return met.kind === 'rounded' ? met : { kind: 'exactly' };
  if (like?.kind === 'rounding') return { kind: 'rounded', by: like.by };
  if (met.kind === 'exactly' || met.kind === 'rounded')
    return now.kind === 'nothing'
      ? { kind: 'impossible', why: { code: 'untold', why: now.why } }
      : { kind: 'limited', to: now };
  return met;
}

/** Both count it alike: nothing was converted. */
const sameWay = (a: Plain, b: Plain): boolean =>
  (a.kind === 'nothing' ? null : (a.how?.conversion ?? null)) ===
  (b.kind === 'nothing' ? null : (b.how?.conversion ?? null));

/** `input.3.function` where input 3 becomes input 5. */
function renamedIn(meaning: Meaning, renamed: ReadonlyMap<string, string>): Meaning {
  const [kind = '', number = '', ...rest] = meaning.split('.');
  const other = renamed.get(`${kind}.${number}`);
  return other === undefined ? meaning : meaningOf([other, ...rest].join('.'));
}

/** The parameter of a line. */
export const parameterOf = (line: SettingLine, old: Dictionary, fresh: Dictionary): Parameter | undefined =>
  findParameter(line.id.startsWith('old ') ? old : fresh, line.code);
