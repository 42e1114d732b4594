// A set in plain values, one meaning at a time. Reading never depends on the order of parameters, and what cannot be told
// says why: no answer is made of a missing fact.

import {
  hasBit,
  isRaw,
  isUnreadable,
  ok,
  fail,
  toDecimal,
  toNumber,
  type Result,
  type Meaning,
} from '../values/index.ts';
import type { Code, Dictionary, Facts, Parameter } from '../dictionary/index.ts';
import type { Readings } from '../rules/index.ts';
import type { Bridge } from './bridge.ts';
import type { Carrier, CarrierIndex, Sayer } from './carriers.ts';
import { conversions } from './conversions/index.ts';
import { nothing, tidy, type Plain, type PlainNumber, type UsedFact, type Untold } from './plain.ts';
import { polesFromPlate, referenceOf } from './references.ts';

/** An option of this meaning says nothing. */
const UNSAID = 'unsaid';
const PERCENT = 100;

export class PlainSet {
  readonly bridge: Bridge;
  readonly dictionary: Dictionary;
  /** Of the unit's rating; nothing where that is not known. */
  readonly rating: Facts | undefined;
  readonly readings: Readings;
  protected readonly carriers: CarrierIndex;
  protected readonly told = new Map<Meaning, Plain>();
  private readonly asking = new Set<Meaning>();

  constructor(bridge: Bridge, dictionary: Dictionary, rating: Facts | undefined, readings: Readings) {
    this.bridge = bridge;
    this.dictionary = dictionary;
    this.rating = rating;
    this.readings = readings;
    this.carriers = bridge.carriersOf(dictionary);
  }

  /** Meanings that the model has, in the order of its menu. */
  get meanings(): Iterable<Meaning> {
    return this.carriers.of.keys();
  }

  /** Meanings that were asked for until now. */
  get asked(): Iterable<Meaning> {
    return this.told.keys();
  }

  carrierOf(meaning: Meaning): Carrier | undefined {
    return this.carriers.of.get(meaning);
  }

  get(meaning: Meaning): Plain {
    const known = this.told.get(meaning);
    if (known) return known;
    if (this.asking.has(meaning)) return nothing({ code: 'missing', what: meaning });
    this.asking.add(meaning);
    const plain = this.read(meaning);
    this.asking.delete(meaning);
    this.told.set(meaning, plain);
    return plain;
  }

  /** A quantity that another value needs, as a fact with its code. */
  number(meaning: Meaning): Result<PlainNumber, Untold> {
    const plain = this.get(meaning);
    if (plain.kind === 'number') return ok(plain);
    return fail({ code: 'missing', what: meaning });
  }

  fact(meaning: Meaning): Result<UsedFact, Untold> {
    const plain = this.number(meaning);
    if (!plain.ok) return plain;
    const { value, unit, codes } = plain.value;
    return ok({ what: meaning, code: codes[0] ?? null, value, unit });
  }

  /** The option that is chosen; nothing where it cannot be told. */
  choice(meaning: Meaning): string | undefined {
    const plain = this.get(meaning);
    return plain.kind === 'choice' ? plain.option : undefined;
  }

  reference = (name: string): Result<UsedFact, Untold> => referenceOf(this, name);

  /** The parameter that states this meaning itself. */
  stated(meaning: Meaning): Parameter | undefined {
    return this.carriers.stated.get(meaning);
  }

  /** What a parameter says in its own unit, or why it says nothing. */
  own(parameter: Parameter): Result<number, Untold> {
    const reading = this.readings.get(parameter.code);
    if (isUnreadable(reading)) return fail({ code: 'unreadable' });
    if (!isRaw(reading)) return fail({ code: 'not-kept' });
    return ok(parameter.form.kind === 'number' ? toNumber(toDecimal(parameter.form, reading)) : reading);
  }

  /** The same by what it states, as a part of another value. */
  part(meaning: Meaning): Result<{ readonly value: number; readonly parameter: Parameter }, Untold> {
    const parameter = this.stated(meaning);
    if (!parameter) return fail({ code: 'missing', what: meaning });
    const own = this.own(parameter);
    return own.ok ? ok({ value: own.value, parameter }) : own;
  }

  private read(meaning: Meaning): Plain {
    const carrier = this.carriers.of.get(meaning);
    const entry = this.bridge.vocabulary.of(meaning);
    switch (carrier?.kind) {
      case undefined:
        return nothing({ code: 'no-such-thing' });
      case 'parameter':
        return this.readParameter(meaning, carrier);
      case 'said':
        return this.readSaid(carrier.parameter, carrier.sayers);
      case 'poles-from-plate':
        return polesFromPlate(this);
      case 'fixed': {
        const { fixed } = carrier;
        const how = { own: null, facts: [] };
        if (fixed.kind === 'choice')
          return { kind: 'choice', option: fixed.is, codes: [], how: { conversion: 'fixed', ...how } };
        if (fixed.kind === 'same-as') {
          const plain = this.get(fixed.as);
          if (plain.kind === 'nothing') return plain;
          const { own = null, facts = [] } = plain.how ?? {};
          return { ...plain, how: { conversion: 'same-as', own, facts } };
        }
        const reference = this.reference(fixed.of);
        if (!reference.ok) return nothing(reference.fault);
        const value = tidy((reference.value.value * fixed.percent) / PERCENT);
        const facts = [reference.value];
        const told = { conversion: 'fixed', own: { value: fixed.percent, unit: '%' }, facts } as const;
        return { kind: 'number', value, unit: entry?.unit ?? '', step: 0, codes: [], how: told };
      }
    }
  }

  private readParameter(meaning: Meaning, carrier: Carrier & { kind: 'parameter' }): Plain {
    const { parameter, conversion } = carrier;
    const codes = [parameter.code];
    const own = this.own(parameter);
    if (!own.ok) return nothing(own.fault, codes);
    const raw = this.readings.get(parameter.code);
    const named = parameter.named.find((each) => each.raw === raw);
    if (named) return { kind: 'choice', option: named.meaning, codes, how: null };
    if (parameter.form.kind === 'option') return this.readOption(meaning, parameter, own.value);
    if (parameter.form.kind === 'bits') return nothing({ code: 'unsaid' }, codes);
    const entry = this.bridge.vocabulary.of(meaning) ?? null;
    return conversions[conversion].read({ set: this, meaning, entry, parameter, own: own.value });
  }

  private readOption(meaning: Meaning, parameter: Parameter, raw: number): Plain {
    const codes = [parameter.code];
    const option =
      parameter.form.kind === 'option' ? parameter.form.options.find((each) => each.raw === raw) : undefined;
    if (!option?.meaning || option.meaning === UNSAID) return nothing({ code: 'unsaid' }, codes);
    const entry = this.bridge.vocabulary.of(meaning);
    const value = Number(option.meaning);
    if (entry?.kind === 'quantity' && Number.isFinite(value))
      return { kind: 'number', value, unit: entry.unit ?? '', step: 0, codes, how: null };
    if (!option.instead) return { kind: 'choice', option: option.meaning, codes, how: null };
    const { when, meaning: instead } = option.instead;
    const condition = this.get(when.meaning);
    if (condition.kind !== 'choice') return nothing({ code: 'missing', what: when.meaning }, codes);
    const chosen = condition.option === when.is ? instead : option.meaning;
    return { kind: 'choice', option: chosen, codes: [...codes, ...condition.codes], how: null };
  }

  /** Of several bits the first that is set says it; where none is set, what a clear bit says. */
  private readSaid(parameter: Parameter, sayers: readonly Sayer[]): Plain {
    const codes: readonly Code[] = [parameter.code];
    const own = this.own(parameter);
    if (!own.ok) return nothing(own.fault, codes);
    const said = saidBy(sayers, own.value);
    if (said === undefined) return nothing({ code: 'unsaid' }, codes);
    return { kind: 'choice', option: said, codes, how: null };
  }
}

export function saidBy(sayers: readonly Sayer[], raw: number): string | undefined {
  const acting = sayers.find(({ at }) => ('bit' in at ? hasBit(raw, at.bit) : at.raw === raw));
  return acting?.saying.is ?? sayers.findLast(({ saying }) => saying.else !== undefined)?.saying.else;
}
