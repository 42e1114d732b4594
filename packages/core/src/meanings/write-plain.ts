// Plain values into a set of a model: the inverse of reading. References are written first and dependents against them as
// they came to stand; what is wanted and already said leaves its raw value alone. At the end everything is read back, so
// that what is called met is met.

import { hasBit, type OptionForm, type Meaning, meaningOf } from '../values/index.ts';
import { defaultSet } from '../sets/index.ts';
import { UnitRules } from '../rules/index.ts';
import { factsOf, type Code, type Dictionary, type Outfit, type Parameter } from '../dictionary/index.ts';
import { likeness } from './alike.ts';
import type { Bridge } from './bridge.ts';
import type { Carrier, Sayer } from './carriers.ts';
import { conversions } from './conversions/index.ts';
import { impossible, type Impossible, type Write, type Written } from './conversions/conversion.ts';
import { PlainSet } from './plain-set.ts';
import type { Plain } from './plain.ts';

export type Met =
  | { readonly kind: 'exactly' }
  /** By how much the set says more than was wanted, in the unit of the plain value. */
  | { readonly kind: 'rounded'; readonly by: number }
  | { readonly kind: 'limited'; readonly to: Plain }
  | { readonly kind: 'impossible'; readonly why: Impossible };

export interface WrittenSet {
  readonly readings: ReadonlyMap<Code, number>;
  readonly met: ReadonlyMap<Meaning, Met>;
}

/** What others count to, in the order in which they count to each other. */
const FIRST = [
  'unit.duty',
  'motor.kind',
  'motor.controlMethod',
  'motor.voltageCurve',
  'motor.ratedPower',
  'motor.ratedVoltage',
  'motor.ratedCurrent',
  'motor.baseFrequency',
  'motor.ratedSpeed',
  'motor.poles',
  'motor.ratedTorque',
  'motor.stallCurrent',
  'scale.increments',
  'scale.turns',
  'frequency.maximum',
  'frequency.minimum',
  'command.wiring',
  'analog.1.liveZero',
  'analogOutput.source',
  'loop.mode',
  'loop.feedback',
  'loop.scaleLow',
  'loop.scaleHigh',
  'loop.gain',
  'limit.torque',
];
const rank = (meaning: Meaning): number => {
  const at = FIRST.indexOf(meaning);
  return at === -1 ? FIRST.length : at;
};

/**
 * Raw values of a model for what is wanted, on top of `base` (the defaults of the outfit where it is not given). Throws only
 * where the outfit is not one of the dictionary.
 */
export function writePlain(
  bridge: Bridge,
  dictionary: Dictionary,
  outfit: Outfit,
  wanted: ReadonlyMap<Meaning, Plain>,
  base?: ReadonlyMap<Code, number>,
): WrittenSet {
  const facts = factsOf(dictionary, outfit);
  const start = base ?? defaultSet(dictionary, outfit)?.readings;
  if (!facts || !start) throw new Error(`${dictionary.id} has no outfit ${outfit.rating}, ${outfit.region}`);
  const rules = new UnitRules(dictionary, facts);
  const work = new WorkingSet(bridge, dictionary, facts, new Map(start as ReadonlyMap<Code, number>));
  const troubles = new Map<Meaning, Impossible>();
  const limited = new Set<string>();
  const order = [...wanted].sort(([a], [b]) => rank(a) - rank(b));
  for (const [meaning, plain] of order) {
    if (plain.kind === 'nothing' || likeness(work.get(meaning), plain)?.kind === 'same') continue;
    const written = work.write(meaning, plain, wanted, (parameter) =>
      rules.limitsIn(work.readings, parameter),
    );
    if ('impossible' in written) {
      troubles.set(meaning, written.impossible);
      continue;
    }
    if (written.writes.some((each) => each.limited)) limited.add(meaning);
    work.take(written.writes);
  }
  const met = new Map<Meaning, Met>();
  for (const [meaning, plain] of order)
    if (plain.kind !== 'nothing')
      met.set(meaning, metBy(work.get(meaning), plain, limited.has(meaning), troubles.get(meaning)));
  return { readings: work.readings, met };
}

function metBy(now: Plain, wanted: Plain, limited: boolean, trouble: Impossible | undefined): Met {
  const like = likeness(wanted, now);
  if (like?.kind === 'same' && !('value' in wanted && 'value' in now && wanted.value !== now.value))
    return { kind: 'exactly' };
  if (trouble) return { kind: 'impossible', why: trouble };
  if (limited) return { kind: 'limited', to: now };
  if (now.kind === 'nothing') return { kind: 'impossible', why: { code: 'untold', why: now.why } };
  if (like?.kind === 'same' && 'value' in wanted && 'value' in now)
    return { kind: 'rounded', by: Number((now.value - wanted.value).toPrecision(10)) };
  if (like?.kind === 'rounding') return { kind: 'rounded', by: like.by };
  return { kind: 'impossible', why: { code: 'conflict' } };
}

/** A set that is being written; what was told is told anew after every write. */
class WorkingSet extends PlainSet {
  declare readonly readings: Map<Code, number>;

  take(writes: readonly Write[]): void {
    for (const { parameter, raw } of writes) this.readings.set(parameter.code, raw);
    this.told.clear();
  }

  write(
    meaning: Meaning,
    plain: Plain,
    others: ReadonlyMap<Meaning, Plain>,
    limitsOf: (parameter: Parameter) => { readonly minimum: number; readonly maximum: number },
  ): Written {
    const carrier = this.carrierOf(meaning);
    switch (carrier?.kind) {
      case undefined:
        return impossible('no-such-thing');
      case 'fixed':
      case 'poles-from-plate':
        return impossible('fixed');
      case 'said':
        return plain.kind === 'choice'
          ? this.say(carrier.parameter, carrier.sayers, plain.option, others)
          : impossible('other-kind');
      case 'parameter':
        return this.writeParameter(meaning, carrier, plain, others, limitsOf);
    }
  }

  private writeParameter(
    meaning: Meaning,
    { parameter, conversion }: Carrier & { kind: 'parameter' },
    wanted: Plain,
    others: ReadonlyMap<Meaning, Plain>,
    limitsOf: (parameter: Parameter) => { readonly minimum: number; readonly maximum: number },
  ): Written {
    const { form, named } = parameter;
    const entry = this.bridge.vocabulary.of(meaning) ?? null;
    if (form.kind === 'option') return this.choose(meaning, parameter, form, wanted, others);
    const at = { set: this, meaning, entry, parameter, wanted, others, limitsOf };
    if (conversion === 'middle-and-width' || conversion === 'edges') return conversions[conversion].write(at);
    if (wanted.kind !== 'choice') return conversions[conversion].write(at);
    const value = named.find((each) => each.meaning === wanted.option);
    if (value) return { writes: [{ parameter, raw: value.raw, limited: false }] };
    // A controller that cannot do without its integral part comes nearest with the longest time.
    if (meaning === 'loop.integralTime' && wanted.option === 'off')
      return { writes: [{ parameter, raw: limitsOf(parameter).maximum, limited: true }] };
    return impossible('no-such-option');
  }

  /** The option that says it; of several the one that also says most of what else is wanted. */
  private choose(
    meaning: Meaning,
    parameter: Parameter,
    { options }: OptionForm,
    wanted: Plain,
    others: ReadonlyMap<Meaning, Plain>,
  ): Written {
    const raw = parameter.code;
    const fits = options.filter(({ raw: each }) => {
      const now = this.readings.get(raw);
      this.readings.set(raw, each);
      this.told.clear();
      const like = likeness(this.get(meaning), wanted)?.kind;
      if (now === undefined) this.readings.delete(raw);
      else this.readings.set(raw, now);
      this.told.clear();
      return like === 'same';
    });
    const [best] = fits.sort((a, b) => agreement(b.says, others) - agreement(a.says, others));
    return best ? { writes: [{ parameter, raw: best.raw, limited: false }] } : impossible('no-such-option');
  }

  private say(
    parameter: Parameter,
    sayers: readonly Sayer[],
    wanted: string,
    others: ReadonlyMap<Meaning, Plain>,
  ): Written {
    const now = this.readings.get(parameter.code) ?? 0;
    if (parameter.form.kind === 'bits') {
      const raw = withBits(sayers, wanted, now);
      return raw === undefined
        ? impossible('no-such-option')
        : { writes: [{ parameter, raw, limited: false }] };
    }
    const fits = sayers.filter(({ saying }) => saying.is === wanted);
    const options = fits.flatMap(({ at }) => ('raw' in at ? [at] : []));
    const [best] = options.sort(
      (a, b) =>
        agreement(b.says, others) +
        this.ownAgreement(parameter, b.meaning, others) -
        agreement(a.says, others) -
        this.ownAgreement(parameter, a.meaning, others),
    );
    return best ? { writes: [{ parameter, raw: best.raw, limited: false }] } : impossible('no-such-option');
  }

  /** Whether the option is also what is wanted, or stands now, of the parameter's own meaning. */
  private ownAgreement(
    parameter: Parameter,
    option: string | undefined,
    others: ReadonlyMap<Meaning, Plain>,
  ): number {
    const own = this.bridge.vocabulary.nameOfToday(parameter.meaning ?? '');
    const wanted = others.get(own) ?? this.get(own);
    return wanted.kind === 'choice' && wanted.option === option ? 1 : 0;
  }
}

const agreement = (
  says: readonly { readonly meaning: string; readonly is: string }[] = [],
  others: ReadonlyMap<Meaning, Plain>,
): number =>
  says.filter(({ meaning, is }) => {
    const wanted = others.get(meaningOf(meaning));
    return wanted?.kind === 'choice' && wanted.option === is;
  }).length;

/** The word in which the bits say it: those before the one that says it are clear; nothing where no bit does. */
function withBits(sayers: readonly Sayer[], wanted: string, word: number): number | undefined {
  const bits = sayers.flatMap(({ at, saying }) => ('bit' in at ? [{ bit: at.bit, saying }] : []));
  const setting = bits.findIndex(({ saying }) => saying.is === wanted);
  const clear = bits.findLast(({ saying }) => saying.else !== undefined)?.saying.else;
  if (setting === -1 && clear !== wanted) return undefined;
  const last = setting === -1 ? bits.length : setting;
  return bits.reduce((now, { bit }, at) => {
    if (at < last) return hasBit(now, bit) ? (now & ~(1 << bit)) >>> 0 : now;
    return at === setting ? (now | (1 << bit)) >>> 0 : now;
  }, word);
}
