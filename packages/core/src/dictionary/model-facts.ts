// The facts of a model (model.yaml), checked one by one.

import {
  CONVENTIONS,
  type Conventions,
  type Derating,
  type DeratingPoint,
  type KeypadFacts,
  type LineFacts,
  type Rating,
  type Region,
  type RegisterValue,
} from './dictionary.ts';
import { readEffect, type EffectLine } from './effect.ts';
import { type FactReader, readYaml } from './fact-reader.ts';
import type { Finding } from '../findings/index.ts';
import { wordOfToday } from './older-words.ts';
import { PURPOSES_OF_PROCEDURES, type Procedure } from './procedures.ts';
import { CodeReader } from './read-terminals.ts';

export interface ModelFacts {
  readonly model: string;
  readonly version: number;
  readonly maker: string;
  readonly name: string;
  readonly about: string;
  readonly firmware: { readonly from: string; readonly to: string };
  readonly ratings: readonly Rating[];
  readonly regions: readonly Region[];
  readonly conventions: Conventions;
  readonly derating: Derating | null;
  readonly line: LineFacts | null;
  readonly keypad: KeypadFacts | null;
  readonly procedures: readonly Procedure[];
  readonly effects: readonly EffectLine[];
}

/** Exception codes of the Modbus application protocol: illegal address, device failure. */
const ILLEGAL_ADDRESS = 2;
const DEVICE_FAILURE = 4;

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
    conventions: at.has('conventions') ? readConventions(at.in('conventions')) : {},
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

function readConventions(at: FactReader): Conventions {
  const conventions: Record<string, string> = {};
  for (const key of at.keys()) {
    const choices = CONVENTIONS[key as keyof typeof CONVENTIONS] as readonly string[] | undefined;
    if (choices) conventions[key] = at.oneOf(key, choices, wordOfToday);
    else at.missing(key, `one of ${Object.keys(CONVENTIONS).join(', ')}`);
  }
  return conventions;
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
  const identity = at.in('identity');
  const status = at.in('status');
  const fault = at.in('fault');
  return {
    wordOrder: at.oneOf('word_order', ['high-first', 'low-first']),
    largestRead: at.integer('largest_read'),
    bridgeGaps: at.flag('bridge_gaps'),
    reserved: at
      .listIfAny('reserved')
      .map((area) => ({ from: area.integer('from'), to: area.integer('to') })),
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
    save: at.has('save')
      ? { ...readRegisterValue(at.in('save')), busyMs: at.in('save').integer('busy_ms') }
      : null,
    restart: { ...readRegisterValue(at.in('restart')), busyMs: at.in('restart').integer('busy_ms') },
    refusals: at.has('refusals')
      ? {
          readOnly: at.in('refusals').integer('read_only'),
          running: at.in('refusals').integer('running'),
          locked: at.in('refusals').integer('locked'),
        }
      : { readOnly: ILLEGAL_ADDRESS, running: DEVICE_FAILURE, locked: DEVICE_FAILURE },
  };
}

const readRegisterValue = (at: FactReader): RegisterValue => ({
  register: at.integer('register'),
  value: at.integer('value'),
});
