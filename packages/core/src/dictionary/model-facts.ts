// The facts of a model (model.yaml), checked one by one.

import { readBehaviour, type Behaviour } from './behaviour.ts';
import type { Meaning } from '../values/index.ts';
import {
  COMMAND_BITS,
  type CommandWord,
  CONVENTIONS,
  type Conventions,
  FILTERS,
  type Derating,
  type DeratingPoint,
  type DeviceNumbers,
  type Fit,
  type Fixed,
  type KeypadFacts,
  type LineFacts,
  type Rating,
  type Region,
  type RegisterValue,
  type SerialPlace,
} from './dictionary.ts';
import { readEffect, type EffectLine } from './effect.ts';
import { type FactReader, readYaml } from './fact-reader.ts';
import type { Finding } from '../findings/index.ts';
import { wordOfToday } from './older-words.ts';
import { PURPOSES_OF_PROCEDURES, type Procedure } from './procedures.ts';
import type { Reference } from './parameter.ts';
import { CodeReader } from './read-terminals.ts';

export interface ModelFacts {
  readonly model: string;
  readonly version: number;
  readonly maker: string;
  readonly name: string;
  readonly about: string;
  readonly firmware: { readonly from: string; readonly to: string };
  readonly device: DeviceNumbers | null;
  readonly ratings: readonly Rating[];
  readonly regions: readonly Region[];
  readonly conventions: Conventions;
  readonly unitCurrent: Readonly<Record<string, string>> | null;
  readonly fixed: readonly Fixed[];
  readonly behaviour: Behaviour;
  readonly derating: Derating | null;
  readonly line: LineFacts | null;
  readonly keypad: KeypadFacts | null;
  readonly procedures: readonly Procedure[];
  readonly effects: readonly EffectLine[];
}

/** Exception codes of the Modbus application protocol: illegal address, device failure. */
const ILLEGAL_ADDRESS = 2;
const DEVICE_FAILURE = 4;
/** Registers in one request, by the same protocol. */
const MOST_READ = 125;

const FIT_KEYS: readonly string[] = [
  'width_mm',
  'height_mm',
  'depth_mm',
  'clearance_mm',
  'fuse_a',
  'least_resistor_ohm',
  'discharge_min',
  'filter',
  'losses_w',
];

/** `known` are the codes of the model's parameter table. */
export function readModelFacts(
  text: string,
  known: ReadonlySet<string>,
  findings: Finding[],
): ModelFacts | undefined {
  const before = findings.length;
  const at = readYaml('model.yaml', text, findings);
  if (!at) return undefined;
  const codes = new CodeReader(known);
  const facts: ModelFacts = {
    model: at.text('model', /^[a-z0-9]+(-[a-z0-9]+)*$/, 'a name in small letters, such as "halvern-hn64"'),
    version: at.integer('version'),
    maker: at.text('maker'),
    name: at.text('name'),
    about: at.text('about'),
    firmware: { from: at.in('firmware').text('from'), to: at.in('firmware').text('to') },
    device: at.has('device') ? readDevice(at.in('device')) : null,
    ratings: at.list('ratings').map((rating) => ({
      id: rating.text('id'),
      number: rating.integer('number'),
      name: rating.text('name'),
      facts: rating.facts('facts'),
      fit: rating.has('fit') ? readFit(rating.in('fit')) : null,
    })),
    regions: at.list('regions').map((region) => ({
      id: region.text('id'),
      name: region.text('name'),
      facts: region.facts('facts'),
    })),
    conventions: at.has('conventions') ? readConventions(at.in('conventions')) : {},
    unitCurrent: at.has('unit_current') ? at.in('unit_current').facts() : null,
    fixed: at.listIfAny('fixed').map(readFixed),
    behaviour: at.has('behaviour') ? readBehaviour(at.in('behaviour')) : {},
    derating: at.has('derating') ? readDerating(at.in('derating')) : null,
    line: at.has('line') ? readLine(at.in('line')) : null,
    keypad: at.has('keypad') ? readKeypad(at.in('keypad')) : null,
    procedures: at.listIfAny('procedures').map((each) => readProcedure(each, codes)),
    effects: at.listIfAny('effects').map((each) => readEffect(each, codes)),
  };
  if (facts.ratings.length === 0) at.missing('ratings', 'at least one rating');
  if (facts.regions.length === 0) at.missing('regions', 'at least one region');
  return findings.length === before ? facts : undefined;
}

function readFit(at: FactReader): Fit {
  const above = (key: string): number | null => {
    if (!at.has(key)) return null;
    const value = at.number(key);
    if (value <= 0) at.missing(key, 'a number above zero');
    return value;
  };
  for (const key of at.keys()) if (!FIT_KEYS.includes(key)) at.missing(key, `one of ${FIT_KEYS.join(', ')}`);
  return {
    widthMm: above('width_mm'),
    heightMm: above('height_mm'),
    depthMm: above('depth_mm'),
    clearanceMm: above('clearance_mm'),
    fuseA: above('fuse_a'),
    leastResistorOhm: above('least_resistor_ohm'),
    dischargeMin: above('discharge_min'),
    filter: at.has('filter') ? at.oneOf('filter', FILTERS) : null,
    lossesW: above('losses_w'),
  };
}

function readConventions(at: FactReader): Conventions {
  const conventions: Record<string, string> = {};
  for (const key of at.keys()) {
    const choices = CONVENTIONS[key as keyof typeof CONVENTIONS] as readonly string[] | undefined;
    if (choices) conventions[key] = at.oneOf(key, choices, wordOfToday);
    else at.missing(key, `one of ${Object.keys(CONVENTIONS).join(', ')}`);
  }
  return conventions;
}

function readFixed(at: FactReader): Fixed {
  const meaning = at.text('meaning') as Meaning;
  if (at.has('same_as')) return { meaning, kind: 'same-as', as: at.text('same_as') as Meaning };
  if (at.has('percent'))
    return { meaning, kind: 'share', percent: at.number('percent'), of: at.text('of') as Reference };
  return { meaning, kind: 'choice', is: at.text('is') };
}

function readDerating(at: FactReader): Derating {
  const points = (key: string): DeratingPoint[] =>
    at.listIfAny(key).map((point) => ({ at: point.number('at'), share: point.number('share') }));
  return { ambient: points('ambient'), carrier: points('carrier') };
}

const readKeypad = (at: FactReader): KeypadFacts => ({
  menuMove: at.integer('menu_move'),
  move: at.integer('move'),
  wraps: at.flag('wraps'),
  enter: at.integer('enter'),
  back: at.integer('back'),
  digitMove: at.integer('digit_move'),
  digitStep: at.integer('digit_step'),
  optionStep: at.integer('option_step'),
});

function readProcedure(at: FactReader, codes: CodeReader): Procedure {
  return {
    purpose: at.oneOf('purpose', PURPOSES_OF_PROCEDURES),
    name: at.text('name'),
    steps: at.list('steps').map((step) => ({
      text: step.text('text'),
      set: step.has('set') ? { code: codes.at(step.in('set'), 'code'), to: step.in('set').text('to') } : null,
      busyMs: step.integerIfAny('busy_ms', 0),
    })),
    keeps: codes.listIfAny(at, 'keeps'),
    scopes: at.listIfAny('scopes').map((scope) => ({
      raw: scope.integer('is'),
      name: scope.text('name'),
      only: scope.has('only') ? scope.texts('only') : [],
      leaves: scope.has('leaves') ? scope.texts('leaves') : [],
    })),
  };
}

function readLine(at: FactReader): LineFacts {
  return {
    wordOrder: at.oneOf('word_order', ['high-first', 'low-first']),
    largestRead: readLargest(at),
    bridgeGaps: at.flag('bridge_gaps'),
    reserved: at
      .listIfAny('reserved')
      .map((area) => ({ from: area.register('from'), to: area.register('to') })),
    identity: at.has('identity') ? readIdentityFacts(at.in('identity')) : NO_IDENTITY,
    status: at.has('status') ? readStatus(at.in('status')) : null,
    command: at.has('command') ? readCommand(at.in('command')) : null,
    fault: at.has('fault') ? readFaultFacts(at.in('fault')) : null,
    save: at.has('save') ? readTrigger(at.in('save')) : null,
    restart: at.has('restart') ? readTrigger(at.in('restart')) : null,
    only16: at.has('only_function_16') && at.flag('only_function_16'),
    refusals: at.has('refusals')
      ? {
          readOnly: at.in('refusals').integer('read_only'),
          running: at.in('refusals').integer('running'),
          locked: at.in('refusals').integer('locked'),
        }
      : { readOnly: ILLEGAL_ADDRESS, running: DEVICE_FAILURE, locked: DEVICE_FAILURE },
  };
}

function readLargest(at: FactReader): number {
  const most = at.integer('largest_read');
  if (most < 1 || most > MOST_READ) at.missing('largest_read', `a whole number from 1 to ${MOST_READ}`);
  return most;
}

const NO_IDENTITY: LineFacts['identity'] = { model: null, rating: null, firmware: null, serial: null };

function readIdentityFacts(at: FactReader): LineFacts['identity'] {
  const registerIfAny = (key: string) => (at.has(key) ? at.register(key) : null);
  return {
    model: at.has('model') ? readRegisterValue(at.in('model')) : null,
    rating: registerIfAny('rating'),
    firmware: registerIfAny('firmware'),
    serial: at.has('serial') ? readSerialPlace(at) : null,
  };
}

/** `serial: 227` takes two registers; `serial: { register: 227, width: 16 }` one. */
function readSerialPlace(at: FactReader): SerialPlace {
  if (!at.isGroup('serial')) return { register: at.register('serial'), width: 32 };
  const serial = at.in('serial');
  const width = serial.integer('width');
  if (width !== 16 && width !== 32) serial.missing('width', '16 or 32');
  return { register: serial.register('register'), width: width === 16 ? 16 : 32 };
}

const readStatus = (at: FactReader): LineFacts['status'] => ({
  register: at.register('register'),
  running: at.bit('running'),
  fault: at.bit('fault'),
});

function readDevice(at: FactReader): DeviceNumbers {
  const numberIfAny = (key: string) => (at.has(key) ? at.integer(key) : null);
  return {
    vendor: numberIfAny('vendor_number'),
    product: numberIfAny('product_number'),
    revision: numberIfAny('revision_number'),
  };
}

function readCommand(at: FactReader): CommandWord {
  const bits = at.in('bits');
  const speed = at.has('speed') ? at.in('speed') : null;
  return {
    register: at.register('register'),
    bits: Object.fromEntries(
      COMMAND_BITS.flatMap((name) => (bits.has(name) ? [[name, bits.bit(name)]] : [])),
    ),
    speed: speed && { register: speed.register('register'), counts: speed.text('counts') },
  };
}

const readFaultFacts = (at: FactReader): LineFacts['fault'] => ({
  active: at.register('active'),
  history: at.register('history'),
  historyLength: at.integer('history_length'),
});

const readRegisterValue = (at: FactReader): RegisterValue => ({
  register: at.register('register'),
  value: at.integer('value'),
});

const readTrigger = (at: FactReader): RegisterValue & { readonly busyMs: number } => ({
  ...readRegisterValue(at),
  busyMs: at.integer('busy_ms'),
});
