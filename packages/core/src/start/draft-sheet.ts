// First settings for a unit still in its box: from a starting point or another set, the plate and what somebody typed to a whole
// set with its wires, what it sets against the defaults and why, what is wrong with it, and what its contacts do.
//
// What it does not promise: that the plate is that of the motor, and that the wires will hang as they are drawn.

import {
  begin,
  combinations,
  machineOf,
  sayHeadline,
  sayPosition,
  step,
  type Machine,
} from '../behaviour/index.ts';
import { groundOf, runChecks, type Found, type Report, type UntoldCheck } from '../checks/index.ts';
import type { Code, Dictionary, Outfit } from '../dictionary/index.ts';
import { describe, type Finding } from '../findings/index.ts';
import { sayNumber, sayPlain, type Bridge, type Met, type Plain, type PlainSet } from '../meanings/index.ts';
import { motorSheet, type MotorSheetLine, type PlateRating } from '../motor/index.ts';
import { isRaw, showRaw, type Meaning } from '../values/index.ts';
import { checkWiring, type Wiring } from '../wiring/index.ts';
import type { CarriedNote, DraftBase } from './carried.ts';
import { fieldsOf, optionText, type Field } from './draft-fields.ts';
import { ratingsFor, type RatingFit } from './draft-rating.ts';
import { makeSet, numberOf, numbersTyped, plateOf, type DraftSet } from './draft-set.ts';
import { runTable } from './duty-table.ts';
import type { PlacedRole } from './place-roles.ts';
import type { Proposal } from './proposals.ts';
import { PLATE_LINES, SUPPLY_LINES } from './sections.ts';
import type { StartingPoint } from './starting-point.ts';
import type { Told, TypedFields } from './told.ts';
import type { WishFrom, Wishes } from './wishes.ts';

export interface DraftInput {
  readonly bridge: Bridge;
  readonly dictionary: Dictionary;
  readonly region: string;
  /** Nothing: the smallest that bears the motor. */
  readonly rating: string | null;
  readonly point: StartingPoint | null;
  /** It began with one that is not understood any more. */
  readonly isPointLost?: boolean;
  /** Another set, in place of a starting point. */
  readonly base: DraftBase | null;
  readonly typed: TypedFields;
}

/** A setting that is not as delivered. */
export interface SetLine {
  readonly code: string;
  readonly name: string;
  readonly value: string;
  readonly delivered: string;
  readonly from: WishFrom;
  readonly why: string;
}

export interface TableLine {
  readonly act: string;
  readonly must: string;
  readonly does: string;
  readonly passed: boolean;
  readonly why: string;
}

export interface DraftFinding {
  readonly attention: 'stop' | 'look';
  readonly text: string;
  /** Check or place that it is of. */
  readonly of: string;
}

export interface DraftSheet {
  readonly ratings: readonly RatingFit[];
  readonly rating: string;
  readonly fields: readonly Field[];
  /** Of what somebody typed, also where the field is not on this sheet. */
  readonly faults: readonly { readonly key: string; readonly text: string }[];
  readonly proposals: readonly Proposal[];
  readonly motor: readonly MotorSheetLine[];
  /** Why this model cannot take the duty; none where it can. */
  readonly refusals: readonly string[];
  /** Wishes that the model does not know, and that nothing hangs on. */
  readonly passedOver: readonly string[];
  readonly lines: readonly SetLine[];
  readonly carried: readonly CarriedNote[];
  readonly wiring: Wiring;
  readonly roles: readonly PlacedRole[];
  readonly readings: ReadonlyMap<Code, number>;
  readonly findings: readonly DraftFinding[];
  readonly untold: readonly UntoldCheck[];
  readonly table: readonly TableLine[];
  /** What each combination of the standing contacts does. */
  readonly contacts: readonly { readonly given: string; readonly does: string }[];
  /** How many things somebody has to tell. */
  readonly open: number;
}

/** Where it cannot be found by the motor. */
export const RATING_KEY = 'unit.rating';

/** Nobody reads more of them beside a sheet. */
const MOST_COMBINATIONS = 24;

export function draftSheet(input: DraftInput): DraftSheet {
  const { bridge, dictionary, region } = input;
  const numbers = numbersTyped(input.typed);
  const plate = plateOf(numbers.values);
  const ambient = numbers.values.get('supply.ambient') ?? null;
  const current = plateCurrent(input, plate);
  const ratings = ratingsFor(bridge, dictionary, region, current, ambient);
  const rating = chosenRating(input, ratings);
  const outfit: Outfit = { rating, region };
  const made = makeSet(input, outfit, plate, numbers.values);
  const { set, wired, wishes, told, met, faults, proposals } = made;
  const allFaults = new Map([...numbers.faults, ...faults, ...wired.faults, ...metFaults(set, wishes, met)]);
  const machine = machineOf(set, wired.wiring);
  const fields = fieldsOf({
    ...{ set, blank: made.blank, typed: input.typed, wishes, proposals, faults: allFaults },
    ...{ answers: told.answers, needsPlate: input.base === null },
  });
  const report = ofToldMotor(checksOf(input, outfit, made, plate, numbers.values), fields);
  const asked = told.answers.flatMap(({ ask, fault }) =>
    fault === null ? [] : [[`ask.${ask.id}`, fault] as const],
  );
  const unsized = current !== undefined && ratings.find(({ id }) => id === rating)?.state === 'untold';
  const sizing =
    unsized && input.rating === null
      ? [[RATING_KEY, 'Choose a rating: this model does not tell what each gives.'] as const]
      : [];
  const faultsNow = [...new Map([...allFaults, ...asked, ...sizing])].map(([key, text]) => ({ key, text }));
  const lost = input.isPointLost
    ? ['The starting point of this draft is not understood any more. Begin with another, or mend its file.']
    : [];
  const refusals = [
    ...lost,
    ...wired.refusals,
    ...refusedBy(set, wishes, met, input.rating !== null || current !== undefined),
  ];
  return {
    ...{
      ratings,
      rating,
      fields,
      faults: faultsNow,
      proposals,
      refusals,
      roles: wired.roles,
      wiring: wired.wiring,
    },
    ...{ readings: settingsOnly(dictionary, made.readings), carried: made.carried, untold: report.untold },
    passedOver: passedOver(set, wishes, met),
    motor: motorSheet({ ...plate, ...drivingFacts(made, numbers.values) }),
    lines: linesOf(made),
    findings: findingsOf(dictionary, wired.wiring, report.found),
    table: input.point ? tableOf(machine, input.point, told) : [],
    contacts: contactsOf(machine),
    open: fields.filter(({ open }) => open).length + faultsNow.length + refusals.length,
  };
}

/** Monitors and counters are nobody's choice. */
const settingsOnly = (
  { parameters }: Dictionary,
  readings: ReadonlyMap<Code, number>,
): ReadonlyMap<Code, number> =>
  new Map(
    parameters.flatMap(({ code, access, keeping }) => {
      const raw = readings.get(code);
      const kept = access !== 'read' && (keeping === 'setting' || keeping === 'measured');
      return raw !== undefined && kept ? [[code, raw] as const] : [];
    }),
  );

function plateCurrent({ base }: DraftInput, { current }: PlateRating): number | undefined {
  return current ?? (base ? numberOf(base.set, 'motor.ratedCurrent') : undefined);
}

function chosenRating({ rating, dictionary }: DraftInput, ratings: readonly RatingFit[]): string {
  const chosen = ratings.find(({ id }) => id === rating)?.id;
  const fits = ratings.find(({ state }) => state === 'fits');
  // Where none bears the motor the largest comes nearest.
  const nearest = ratings.findLast(({ state }) => state === 'small');
  return chosen ?? fits?.id ?? nearest?.id ?? dictionary.ratings[0]?.id ?? '';
}

/** Fields whose value came to stand otherwise than somebody wanted it. */
function metFaults(
  set: PlainSet,
  wishes: Wishes,
  met: ReadonlyMap<Meaning, Met>,
): ReadonlyMap<string, string> {
  const faults = new Map<string, string>();
  for (const [meaning, { plain, from }] of wishes.of) {
    const how = met.get(meaning);
    if (from !== 'typed' && from !== 'plate') continue;
    if (how?.kind === 'limited')
      faults.set(
        keyOf(meaning, from),
        `${sayWish(set, plain)} wanted, ${sayWish(set, how.to)} is what it can be.`,
      );
    else if (how?.kind === 'impossible')
      faults.set(keyOf(meaning, from), `This model cannot say ${sayWish(set, plain)}.`);
  }
  return faults;
}

const keyOf = (meaning: Meaning, from: WishFrom): string =>
  from === 'plate'
    ? ([...PLATE_LINES, ...SUPPLY_LINES].find((line) => line.meaning === meaning)?.key ?? `set.${meaning}`)
    : `set.${meaning}`;

/** What the duty cannot do without, and this model cannot say; limits count for a rating that is told. */
function refusedBy(
  set: PlainSet,
  wishes: Wishes,
  met: ReadonlyMap<Meaning, Met>,
  ratingTold: boolean,
): readonly string[] {
  const { name } = set.dictionary;
  return [...wishes.of].flatMap(([meaning, { may, from, plain, why }]) => {
    const how = met.get(meaning);
    if (may || from === 'typed' || from === 'plate' || !how) return [];
    const term = set.bridge.vocabulary.termOf(meaning);
    if (how.kind === 'limited' && !ratingTold) return [];
    if (how.kind === 'limited')
      return [
        `${term}: ${sayWish(set, plain)} is wanted, and ${sayWish(set, how.to)} is what the ${name} can have. ${why}`,
      ];
    if (how.kind !== 'impossible') return [];
    const lacks = how.why.code === 'no-such-thing';
    return [
      lacks
        ? `The ${name} has no ${term}. ${why}`
        : `The ${name} has no ${term} "${sayWish(set, plain)}". ${why}`,
    ];
  });
}

const sayWish = (set: PlainSet, plain: Plain): string =>
  plain.kind === 'choice' ? optionText(set, plain.option) : sayPlain(plain, set.bridge.vocabulary.termOf);

function passedOver(set: PlainSet, wishes: Wishes, met: ReadonlyMap<Meaning, Met>): readonly string[] {
  return [...wishes.of].flatMap(([meaning, { may, plain, from }]) =>
    may && from === 'point' && met.get(meaning)?.kind === 'impossible'
      ? [`${set.bridge.vocabulary.termOf(meaning)}: ${sayWish(set, plain)}`]
      : [],
  );
}

function linesOf({ set, blank, readings, wishes, baseTitle }: DraftSet): readonly SetLine[] {
  const reasons = new Map<Code, { from: WishFrom; why: string }[]>();
  for (const [meaning, { from, why }] of wishes.of)
    for (const code of set.get(meaning).codes)
      reasons.set(code, [...(reasons.get(code) ?? []), { from, why }]);
  return set.dictionary.parameters.flatMap((parameter): SetLine[] => {
    const { code, name, form, keeping, access } = parameter;
    const raw = readings.get(code);
    const delivered = blank.readings.get(code);
    if (raw === undefined || raw === delivered || keeping !== 'setting' || access === 'read') return [];
    const own = reasons.get(code) ?? [];
    const why = [...new Set(own.map((each) => each.why))].join(' ');
    const otherwise = baseTitle === null ? 'Typed on the sheet.' : `As ${baseTitle}.`;
    return [
      {
        ...{ code, name, value: showRaw(form, raw) },
        delivered: isRaw(delivered) ? showRaw(form, delivered) : 'not told',
        from: own.at(-1)?.from ?? (baseTitle === null ? 'typed' : 'base'),
        why: why === '' ? otherwise : why,
      },
    ];
  });
}

function drivingFacts({ set }: DraftSet, numbers: ReadonlyMap<string, number>) {
  const [power, speed] = [numbers.get('plate.power'), numbers.get('plate.speed')];
  const share = numbers.get('load.torque');
  const unit = set.reference('unit.current');
  const slope = numberOf(set, 'ramp.down');
  const base = numberOf(set, 'motor.baseFrequency');
  return {
    inertia: numbers.get('plate.inertia'),
    loadInertia: numbers.get('load.inertia'),
    loadTorque:
      share !== undefined && power !== undefined && speed !== undefined
        ? (share * power * 60) / (2 * Math.PI * speed)
        : undefined,
    supply: numbers.get('supply.measured') ?? numbers.get('supply.volts'),
    ambient: numbers.get('supply.ambient'),
    unitCurrent: unit.ok ? unit.value.value : undefined,
    limitCurrent: numberOf(set, 'limit.current'),
    rampDown: slope === undefined || base === undefined ? undefined : slope * base,
  };
}

function checksOf(
  { bridge, dictionary }: DraftInput,
  outfit: Outfit,
  { readings, wired }: DraftSet,
  plate: PlateRating,
  numbers: ReadonlyMap<string, number>,
) {
  const isTold = Object.keys(plate).length > 0;
  const rotor = numbers.get('plate.inertia');
  const loadInertia = numbers.get('load.inertia');
  const inertia =
    rotor === undefined && loadInertia === undefined ? undefined : (rotor ?? 0) + (loadInertia ?? 0);
  const ground = groundOf(bridge, dictionary, outfit, readings, {
    wiring: wired.wiring.devices.length > 0 ? wired.wiring : null,
    plate: isTold ? { ratings: [plate], ...(inertia === undefined ? {} : { inertia }) } : null,
    site: {
      ambient: numbers.get('supply.ambient') ?? null,
      nominalVolts: numbers.get('supply.volts') ?? null,
      measuredVolts: numbers.get('supply.measured') ?? null,
      hertz: numbers.get('supply.hertz') ?? null,
      residualMilliamps: null,
    },
  });
  return runChecks(ground);
}

/** The motor that a unit is delivered for is nobody's: nothing is found of it before its plate is told. */
function ofToldMotor({ found, untold }: Report, fields: readonly Field[]): Pick<Report, 'found' | 'untold'> {
  const open = fields.filter((field) => field.section === 'plate' && field.open);
  const lacks = ({ values }: Found) =>
    open.filter(({ codes }) => values.some(({ code }) => codes.includes(code))).map(({ name }) => name);
  return {
    found: found.filter((each) => lacks(each).length === 0),
    untold: [
      ...untold,
      ...found
        .map((each) => ({ check: each.check, missing: lacks(each) }))
        .filter(({ missing }) => missing.length > 0),
    ],
  };
}

function findingsOf(
  dictionary: Dictionary,
  wiring: Wiring,
  found: readonly Found[],
): readonly DraftFinding[] {
  const wired: readonly Finding[] = wiring.devices.length > 0 ? checkWiring(dictionary, wiring) : [];
  return [
    ...wired.map((each) => ({ attention: each.attention, text: describe(each), of: 'wiring' })),
    ...found.map(({ attention, said, check }) => ({ attention, text: describe(said), of: check })),
  ].sort((a, b) => Number(a.attention === 'look') - Number(b.attention === 'look'));
}

function tableOf(machine: Machine, point: StartingPoint, told: Told): readonly TableLine[] {
  return runTable(machine, point, told).map(({ row, hertz, outcome, state, passed }) => {
    const speed = hertz === null ? '' : ` at ${sayNumber(hertz, 0.1)} Hz`;
    const source = row.at?.kind === 'from' && row.at.source !== 'any' ? ` by ${SOURCES[row.at.source]}` : '';
    return {
      ...{ act: row.act.length === 0 ? 'at rest' : row.act.join(', '), passed, why: row.why },
      must: `${MUST_WORDS[row.must]}${speed}${source}`,
      does: sayHeadline(outcome, state.fault),
    };
  });
}

const SOURCES = { loop: 'the loop', raised: 'raise and lower', network: 'the network' } as const;
const MUST_WORDS: Readonly<Record<StartingPoint['table'][number]['must'], string>> = {
  stopped: 'stands',
  forward: 'runs forward',
  reverse: 'runs in reverse',
  fault: 'trips',
  locked: 'has no torque',
  'not-permitted': 'waits for its permit',
};

function contactsOf(machine: Machine): DraftSheet['contacts'] {
  if (machine.wiring.devices.length === 0) return [];
  const { state } = step(machine, begin(machine).state, { kind: 'supply', on: true });
  return combinations(machine, state)
    .slice(0, MOST_COMBINATIONS)
    .map(({ devices, stepped }) => ({
      given: Object.entries(devices)
        .map(([name, to]) => {
          const device = machine.wiring.devices.find((each) => each.name === name);
          return `${name} ${device ? sayPosition(device, to) : ''}`;
        })
        .join(', '),
      does: sayHeadline(stepped.outcome, stepped.state.fault),
    }));
}
