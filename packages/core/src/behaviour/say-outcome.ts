// Outcomes, reasons and events as sentences. `what` of a device is as its wiring says it.

import type { Code } from '../dictionary/index.ts';
import { sayNumber } from '../meanings/index.ts';
import { assertNever } from '../values/index.ts';
import type { FieldDevice } from '../wiring/index.ts';
import type { Machine } from './machine.ts';
import type { Ignored, Missing, Need, Outcome, Reason, SetPoint, SpeedFrom, StopWay } from './outcome.ts';
import type { Event, Fault } from './state.ts';

const TENTHS = 0.1;

/** Words for functions of inputs, sources and options, as the vocabulary has them. */
export type TermOf = (option: string) => string;

export interface Speaker {
  readonly machine: Machine;
  readonly term: TermOf;
}

const STOPS: Readonly<Record<StopWay, string>> = {
  coast: 'it coasts',
  ramp: 'it slows down by the ramp',
  'ramp-dc': 'it slows down by the ramp and is held by DC',
  'quick-stop': 'it stops quickly',
  'torque-off': 'it has no torque',
};

const NEEDS: Readonly<Record<Need, string>> = {
  release: 'the run command has to be taken away once',
  reset: 'the fault has to be reset',
  cause: 'what holds it has to go',
  start: 'a run command has to come',
  key: 'the run key has to be pressed',
  automatic: 'automatic has to be chosen',
};

const FAULTS: Readonly<Record<Fault, string>> = {
  overcurrent: 'overcurrent',
  overvoltage: 'overvoltage',
  undervoltage: 'undervoltage',
  motorOverload: 'overload of the motor',
  unitHot: 'unit too hot',
  earth: 'earth fault',
  external: 'external fault',
  'motor-warm': 'motor too warm',
  dry: 'dry pump',
  signalLost: 'signal lost',
  sto: 'safe torque off',
};

/** `it coasts`. */
export const stopText = (way: StopWay): string => STOPS[way];

export const faultText = (fault: Fault): string => FAULTS[fault];

export function sayFrom(from: SpeedFrom, term: TermOf): string {
  switch (from.kind) {
    case 'preset':
      return `preset speed ${from.number}`;
    case 'analog':
      if (from.lost === 'hold') return `the last speed of analog input ${from.number}, whose signal is lost`;
      if (from.lost === 'preset-1')
        return `preset speed 1, as the signal of analog input ${from.number} is lost`;
      return `analog input ${from.number}`;
    case 'raised':
      return from.raised === 'up' || from.raised === 'down'
        ? `the speed that is being ${from.raised === 'up' ? 'raised' : 'lowered'}`
        : 'the raised speed';
    case 'keypad':
      return 'the keypad';
    case 'jog':
      return 'jog';
    case 'fire':
      return 'fire operation';
    case 'loop':
      return 'the control loop';
    case 'minimum':
      return 'the minimum, as no preset is on';
    case 'network':
      return term('source.network');
    case 'program':
      return 'the user program';
    case 'none':
      return 'no source';
  }
}

const hertz = (value: number): string => `${sayNumber(value, TENTHS)} Hz`;

function sayAt({ from, hertz: at }: SetPoint): string {
  if (at !== null) return `at ${hertz(at)}`;
  if (from.kind === 'loop') return 'at what the control loop asks for';
  if (from.kind === 'raised')
    return `at a speed that is being ${from.raised === 'down' ? 'lowered' : 'raised'}`;
  return 'at a speed that its set does not give';
}

/** `Runs forward at 12.0 Hz`, `Stopped`, `External fault`. */
export function sayHeadline(outcome: Outcome, fault: Fault | null): string {
  switch (outcome.kind) {
    case 'runs':
      return `Runs ${outcome.direction ?? ''} ${outcome.setPoint ? sayAt(outcome.setPoint) : ''}`.trim();
    case 'no-supply':
      return 'No supply';
    case 'locked':
      return 'Safe torque off';
    case 'fault':
      return `Fault: ${fault === null ? 'held' : FAULTS[fault]}`;
    case 'not-permitted':
      return 'Waits for its permit';
    case 'stopped':
      return 'Stopped';
    case 'oscillates':
      return 'Contacts switch each other on and off for ever';
    case 'untold':
      return 'Cannot be told';
    default:
      return assertNever(outcome.kind);
  }
}

/** What belongs to the headline: source, limit, ramps, how it stops, what it waits for. */
export function sayDetails(outcome: Outcome, { term }: Speaker): readonly string[] {
  const { kind, setPoint, ramps, stops, needs } = outcome;
  if (kind === 'no-supply' || kind === 'oscillates' || kind === 'untold') return [];
  const running =
    kind === 'runs' && setPoint
      ? [
          `The speed comes from ${sayFrom(setPoint.from, term)}${limitText(setPoint)}.`,
          ...(ramps === 'second'
            ? ['The second ramps hold.']
            : ramps === 'jog'
              ? ['The jog ramps hold.']
              : []),
          ...(stops ? [`When the command goes, ${STOPS[stops]}.`] : []),
        ]
      : stops && kind !== 'locked'
        ? [`If it turns, ${STOPS[stops]}.`]
        : [];
  const wanted = needs.map((need) => NEEDS[need]);
  return [...running, ...(wanted.length > 0 ? [`Before it runs, ${wanted.join(', then ')}.`] : [])];
}

function limitText({ limited }: SetPoint): string {
  switch (limited) {
    case null:
      return '';
    case 'minimum':
      return ', lifted to the minimum';
    case 'maximum':
      return ', cut to the maximum';
    case 'skip':
      return ', held at the edge of a skip band';
  }
}

const named = (names: readonly string[], { machine }: Speaker): string => {
  const devices = names.map((name) => {
    const what = machine.wiring.devices.find((each) => each.name === name)?.what ?? '';
    return what === '' ? name : `${name} (${what})`;
  });
  return devices.join(', ');
};

/** Parameters that a reason rests on. */
export const codesOfReason = (reason: Reason): readonly Code[] =>
  'set' in reason ? [reason.set ?? []].flat() : [];

/** From contact to effect: `S2 (speed) → terminal 10 closed → preset bit 0`. */
export function sayReason(reason: Reason, speaker: Speaker): string {
  const { term } = speaker;
  switch (reason.code) {
    case 'input': {
      const { terminal, devices, closed, does } = reason;
      const from =
        devices.length === 0 ? `Terminal ${terminal}` : `${named(devices, speaker)} → terminal ${terminal}`;
      return `${from} ${closed ? 'closed' : 'open'} → ${term(does)}`;
    }
    case 'commands-from':
      return `Commands come from: ${term(reason.source)}`;
    case 'speed-from':
      return `Speed from ${sayFrom(reason.from, term)}${reason.hertz === null ? '' : `: ${hertz(reason.hertz)}`}`;
    case 'limited':
      return `Then ${reason.by === 'minimum' ? 'lifted to the minimum' : reason.by === 'maximum' ? 'cut to the maximum' : 'held at the edge of a skip band'}: ${hertz(reason.hertz)}`;
    case 'latched':
      return `Started by a button, ${reason.direction}`;
    case 'keyed':
      return 'Started with the run key';
    case 'fault':
      return `Held by a fault: ${FAULTS[reason.fault]}`;
    case 'safe-open':
      return `Safe input ${reason.terminals.join(' and ')} is open`;
    case 'waits':
      return 'The run command stands, and counts only after it was taken away once';
    case 'no-command':
      return 'Nothing commands it to run';
    case 'both-directions':
      return 'Both directions at once are a stop';
    case 'limit':
      return `The limit switch blocks ${reason.direction}`;
    case 'no-permit':
      return 'Its permit is not there';
    case 'stop-open':
      return 'The stop input does not let it run';
    default:
      return assertNever(reason);
  }
}

const WHY: Readonly<Record<Ignored['why'], string>> = {
  'commands-elsewhere': 'commands come from elsewhere',
  hand: 'hand is chosen',
  running: 'it runs',
  'needs-run': 'it needs the run command, too',
  forbidden: 'this direction is not allowed',
  waits: 'it waits',
  'not-enabled': 'it is not enabled',
  'presets-not-source': 'presets are not the source',
  loop: 'the control loop is on',
  cyclic: 'a controller leads it',
};

export const sayIgnored = ({ does, terminal, why }: Ignored, { term }: Speaker): string =>
  `Terminal ${terminal} asks for ${term(does)}; ignored: ${WHY[why]}.`;

export function sayMissing(missing: Missing, { term, machine }: Speaker): string {
  switch (missing.kind) {
    case 'rule':
      return `The ${machine.set.dictionary.name} does not state its rule “${missing.rule}”.`;
    case 'value':
      return `The set does not tell ${term(missing.what)}.`;
    case 'signal':
      return `Terminal ${missing.terminal} gets ${missing.sent.replaceAll('-', ' ')}, and is set for ${missing.wanted.replaceAll('-', ' ')}.`;
  }
}

/** What happened, as one would tell it: `S1 (start button) pressed`. */
export function sayEvent(event: Event, speaker: Speaker): string {
  switch (event.kind) {
    case 'device': {
      const device = speaker.machine.wiring.devices.find(({ name }) => name === event.name);
      return `${named([event.name], speaker)} ${device ? sayPosition(device, event.to) : ''}`.trim();
    }
    case 'break':
      return `${sayConductor(event.what, speaker)} broken`;
    case 'mend':
      return `${sayConductor(event.what, speaker)} in order again`;
    case 'supply':
      return event.on ? 'Supply on' : 'Supply off';
    case 'fault':
      return `Fault: ${FAULTS[event.of]}`;
    case 'key':
      return `Key: ${event.key}`;
    case 'settle':
      return 'Wait until settled';
    default:
      return assertNever(event);
  }
}

/** How a device stands: `closed`, `at 2`, `at 5.0 bar`. */
export function sayPosition(device: FieldDevice, to: number): string {
  switch (device.kind) {
    case 'selector':
      return `at ${device.places[to]?.name ?? '?'}`;
    case 'transmitter': {
      const { low, high, unit } = device.range;
      return `at ${sayNumber(low + (high - low) * to, TENTHS)} ${unit}`;
    }
    case 'potentiometer':
      return `at ${sayNumber(to * 100, 1)} %`;
    case 'sensor':
      return to === 0 ? 'cold' : 'warm';
    case 'safety-relay':
      return to === 0 ? 'closed' : 'tripped';
    case 'controller':
      return to === 0 ? 'off' : 'on';
    case 'contact':
      if (device.momentary) return to === 0 ? 'let go' : 'pressed';
      return to === 0 ? 'as it rests' : 'worked';
    default:
      return '';
  }
}

/** `wire 3` is the fourth wire of the table, by its number where it has one; `at S1:13` are all wires there. */
export function sayConductor(what: string, { machine }: Speaker): string {
  const [kind = '', at = ''] = what.split(' ');
  if (kind === 'at') return `Wires at ${what.slice(3)}`;
  if (kind === 'link') return `Link ${machine.wiring.links[Number(at)]?.between.join('–') ?? at}`;
  const wire = machine.wiring.wires[Number(at)];
  const end = (each: NonNullable<typeof wire>['from']) =>
    each.kind === 'terminal' ? each.terminal : `${each.device}:${each.connection}`;
  return wire ? `Wire ${wire.number} (${end(wire.from)} to ${end(wire.to)})` : `Wire ${at}`;
}
