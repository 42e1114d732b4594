// Reads all parameters of one unit. The identity is read first and checked again in the last request, so that a set
// is never put together from two units. Registers that the unit refuses are found by halving and kept as unreadable.

import type { Code, Dictionary, LineFacts, Parameter } from '@drive-keep/core/dictionary';
import { findMeaning, isNoise } from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import { fail, ok, type Reading, type Result, meaningOf } from '@drive-keep/core/values';
import type { DriveLine, LineFault } from './drive-line.ts';
import { identityOf, identityPlaces, missingOf, readIdentity, type Identity } from './identity.ts';
import { limitsOn, planReads, type Place, type ReadRequest } from './read-plan.ts';
import { WordReader } from './word-reader.ts';
import { wordsToRaw } from './words.ts';

export interface ExpectedUnit {
  readonly address: number;
  readonly serial: number;
}

export interface UnitReading {
  readonly identity: Identity;
  /** Settings and measured values: what a backup keeps. */
  readonly set: ParameterSet;
  /** Monitors and counters, which change by themselves. */
  readonly aside: ReadonlyMap<Code, Reading>;
}

export type ReadFault =
  | LineFault
  /** The unit does not have the register in which its model tells who it is. */
  | { readonly code: 'no-identity'; readonly register: number }
  | { readonly code: 'other-model'; readonly found: number }
  | { readonly code: 'other-serial'; readonly found: number }
  | { readonly code: 'identity-changed'; readonly found: number }
  | { readonly code: 'stopped' };

export interface ReadControl {
  progress(done: number, total: number): void;
  /** What has become known since the last call; monitors and counters too. */
  known?(readings: ReadonlyMap<Code, Reading>): void;
  stopped(): boolean;
}

export async function readUnit(
  line: DriveLine,
  dictionary: Dictionary,
  facts: LineFacts,
  expected: ExpectedUnit,
  control: ReadControl,
): Promise<Result<UnitReading, ReadFault>> {
  return new UnitReader(line, dictionary, facts, expected, control).run();
}

class UnitReader {
  private readonly read: WordReader;
  private readonly places: readonly Place[];
  private readonly requests: ReadRequest[];
  private readonly told = new Set<Code>();
  private order: LineFacts['wordOrder'];
  private done = 0;

  constructor(
    private readonly line: DriveLine,
    private readonly dictionary: Dictionary,
    private readonly facts: LineFacts,
    private readonly expected: ExpectedUnit,
    private readonly control: ReadControl,
  ) {
    this.places = [...identityPlaces(facts), ...dictionary.parameters.flatMap(placeOf)];
    this.read = new WordReader(line, expected.address, this.places);
    this.order = facts.wordOrder;
    this.requests = this.inOrder(planReads(this.places, limitsOn(line, facts)));
  }

  async run(): Promise<Result<UnitReading, ReadFault>> {
    let identity: Identity | undefined;
    for (const request of this.requests) {
      if (this.control.stopped()) return fail({ code: 'stopped' });
      const fault = await this.read.take(request);
      if (fault) return fail(fault);
      if (!identity) {
        const missing = missingOf(this.facts, this.read.words);
        if (missing !== undefined && this.read.refused.has(missing))
          return fail({ code: 'no-identity', register: missing });
        if (missing !== undefined) continue;
        identity = identityOf(this.dictionary, this.facts, this.read.words, this.expected.serial);
        this.order = identity.wordOrder;
        const other = this.strangeness(identity);
        if (other) return fail(other);
      }
      this.done += 1;
      this.tellKnown();
      this.control.progress(this.done, this.requests.length);
    }
    identity ??= identityOf(this.dictionary, this.facts, this.read.words);
    const changed = await this.identityChanged(identity);
    return changed ? fail(changed) : ok(this.result(identity));
  }

  private tellKnown(): void {
    if (!this.control.known) return;
    const fresh = new Map<Code, Reading>();
    for (const parameter of this.dictionary.parameters) {
      const { code, register } = parameter;
      if (!register || this.told.has(code)) continue;
      if (!this.read.words.has(register.address) && !this.read.refused.has(register.address)) continue;
      const reading = this.reading(parameter);
      if (reading === undefined) continue;
      this.told.add(code);
      fresh.set(code, reading);
    }
    this.control.known(fresh);
  }

  /** The request with the identity goes first, that with the serial number parameter last. */
  private inOrder(requests: readonly ReadRequest[]): ReadRequest[] {
    const holds = (address: number | undefined) => (request: ReadRequest) =>
      address !== undefined && address >= request.address && address < request.address + request.count;
    const places = identityPlaces(this.facts);
    const first = requests.filter((request) => places.some(({ address }) => holds(address)(request)));
    const last = requests.filter(
      (request) => !first.includes(request) && holds(this.serialParameter()?.register?.address)(request),
    );
    const middle = requests.filter((request) => !first.includes(request) && !last.includes(request));
    return [...first, ...middle, ...last];
  }

  private serialParameter(): Parameter | undefined {
    return findMeaning(this.dictionary, meaningOf('unit.serial'));
  }

  private strangeness(identity: Identity): ReadFault | undefined {
    const { model } = this.facts.identity;
    if (model && identity.model !== null && identity.model !== model.value)
      return { code: 'other-model', found: identity.model };
    if (identity.serial !== null && identity.serial !== this.expected.serial)
      return { code: 'other-serial', found: identity.serial };
    return undefined;
  }

  /** The serial number as the last request gave it; asked for once more where no parameter holds it. */
  private async identityChanged(before: Identity): Promise<ReadFault | undefined> {
    if (before.serial === null) return undefined;
    const parameter = this.serialParameter();
    const found = parameter ? this.reading(parameter) : undefined;
    if (typeof found === 'number') {
      return found === before.serial ? undefined : { code: 'identity-changed', found };
    }
    const { address, serial } = this.expected;
    const again = await readIdentity(this.line, address, this.dictionary, this.facts, serial);
    if (!again.ok) return again.fault;
    const now = again.value.serial;
    return now === null || now === before.serial ? undefined : { code: 'identity-changed', found: now };
  }

  private result(identity: Identity): UnitReading {
    const readings = new Map<Code, Reading>();
    const aside = new Map<Code, Reading>();
    for (const parameter of this.dictionary.parameters) {
      const reading = this.reading(parameter);
      if (reading === undefined) continue;
      (isNoise(parameter) ? aside : readings).set(parameter.code, reading);
    }
    return { identity, set: { dictionary: this.dictionary.id, readings }, aside };
  }

  private reading(parameter: Parameter): Reading | undefined {
    const { register } = parameter;
    if (!register) return undefined;
    const addresses = register.width === 32 ? [register.address, register.address + 1] : [register.address];
    const words = addresses.map((address) => this.read.words.get(address));
    if (words.every((word) => word !== undefined)) return wordsToRaw(register, words, this.order);
    return { unreadable: 'refused' };
  }
}

const placeOf = ({ register }: Parameter): Place[] =>
  register ? [{ address: register.address, count: register.width === 32 ? 2 : 1 }] : [];
