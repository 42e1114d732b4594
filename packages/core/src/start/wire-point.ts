// The wires of a starting point on the terminals of a model, and the settings that follow from where each of them goes.

import { terminalsOf, type Dictionary, type Terminal } from '../dictionary/index.ts';
import type { Plain, PlainSet } from '../meanings/index.ts';
import { meaningOf } from '../values/index.ts';
import {
  FIELD_SIGNALS,
  NO_WIRING,
  WireMaker,
  type DeviceFacts,
  type FieldDevice,
  type FieldSignal,
  type Wiring,
} from '../wiring/index.ts';
import { placeRoles, takes, type PlacedRole, type WantedRole } from './place-roles.ts';
import { deviceOf, type DigitalRole, type PointDevice, type StartingPoint } from './starting-point.ts';
import { typedNumber, type Told, type TypedFields } from './told.ts';
import type { Wishes } from './wishes.ts';

export interface WiredPoint {
  readonly wiring: Wiring;
  readonly roles: readonly PlacedRole[];
  /** Why the model cannot be wired so. */
  readonly refusals: readonly string[];
  /** Of fields that somebody typed, by their keys. */
  readonly faults: ReadonlyMap<string, string>;
}

/** A device as it will hang there, with what its connections do. */
interface Hung {
  readonly device: FieldDevice;
  readonly inputs: readonly DigitalRole[];
  readonly analog: (PointDevice & { does: 'signal' }) | null;
  readonly output: string | null;
  readonly brake: boolean;
}

export interface WireInput {
  readonly point: StartingPoint;
  readonly told: Told;
  readonly typed: TypedFields;
  /** With the defaults of the outfit. */
  readonly blank: PlainSet;
  /** How the model chooses presets: `bits`, `each`. */
  readonly presets: string | undefined;
}

/** Wishes for settings are added to `wishes`. */
export function wirePoint(input: WireInput, wishes: Wishes): WiredPoint {
  const { blank, told, typed } = input;
  const { terminals: chart, name } = blank.dictionary;
  if (!chart)
    return {
      wiring: NO_WIRING,
      roles: [],
      refusals: [`No terminals of the ${name} are told.`],
      faults: new Map(),
    };
  const faults = new Map<string, string>();
  const refusals: string[] = [];
  const hung = [...pointDevices(input, wishes, refusals), ...ownDevices(typed, faults)];
  const chosen = new Map(
    [...typed].flatMap(([key, { text }]) =>
      key.startsWith('terminal.') && text.trim() !== '' ? [[key.slice('terminal.'.length), text.trim()]] : [],
    ),
  );
  const roles = placeRoles(blank, hung.flatMap(rolesOf), chosen);
  for (const { role, terminal, fault } of roles) {
    if (terminal === null && fault !== null) refusals.push(fault);
    else if (fault !== null) faults.set(`terminal.${role.id}`, fault);
  }
  const maker = new WireMaker(chart, typed.get('set.arrangement')?.text);
  draw(maker, hung, new Map(roles.map((each) => [each.role.id, each])), blank.dictionary);
  if (told.value('sto') === 'relay') maker.safetyRelay('K10', 'safety relay');
  else maker.safetyLinks();
  wish(blank, hung, roles, told, wishes);
  if (hung.some(({ brake }) => brake) && !terminalsOf(chart).some(({ kind }) => kind === 'brake'))
    refusals.push(`The ${name} has no output for a brake coil.`);
  return { wiring: maker.make(), roles, refusals, faults };
}

const NO_ROLES = { inputs: [], analog: null, output: null, brake: false } as const;

function pointDevices(
  { point, told, presets, blank }: WireInput,
  wishes: Wishes,
  refusals: string[],
): Hung[] {
  return point.devices
    .filter(({ when }) => told.holds(when))
    .flatMap((device): Hung[] => {
      switch (device.does) {
        case 'inputs':
          return [{ ...NO_ROLES, device: deviceOf(device, device.facts), inputs: device.roles }];
        case 'through':
          return [{ ...NO_ROLES, device: deviceOf(device, device.facts) }];
        case 'output':
          return [{ ...NO_ROLES, device: deviceOf(device, device.facts), output: device.tells }];
        case 'brake':
          return [{ ...NO_ROLES, device: deviceOf(device, device.facts), brake: true }];
        case 'signal':
          return [{ ...NO_ROLES, device: deviceOf(device, signalFacts(device, told)), analog: device }];
        case 'speeds': {
          const made = speedSelector(device, told, presets, wishes);
          if (made) return [made];
          refusals.push(`The ${blank.dictionary.name} has no preset speeds that contacts choose.`);
          return [];
        }
      }
    });
}

/** By bits where the model counts them, by a contact for each speed where it has an input for each. */
function speedSelector(
  device: PointDevice & { does: 'speeds' },
  told: Told,
  presets: string | undefined,
  wishes: Wishes,
): Hung | undefined {
  const speeds = device.speeds.map((each) => told.number(each));
  const bits = Math.ceil(Math.log2(speeds.length));
  const count = presets === 'each' ? speeds.length : bits;
  if (presets !== 'each' && presets !== 'bits') return undefined;
  const contacts = Array.from({ length: count }, (_, at) => ({
    name: `${at + 1}3-${at + 1}4`,
    opens: false,
  }));
  const places = speeds.map((_, place) => ({
    name: String(place + 1),
    closes: contacts
      .filter((_each, at) => (presets === 'each' ? at === place : (place >> at) & 1))
      .map(({ name }) => name),
  }));
  for (const [at, hertz] of speeds.entries()) {
    const meaning = presets === 'each' ? `preset.contact.${at + 1}` : `preset.${at + 1}`;
    if (hertz !== undefined)
      wishes.number(meaning, hertz, { from: 'asked', why: `Place ${at + 1} of ${device.name}.` });
  }
  const inputs = contacts.map(({ name: contact }, at): DigitalRole => ({
    ...{ contact, opens: false, through: [] },
    does: presets === 'each' ? `preset.${at + 1}` : `preset.bit.${at}`,
  }));
  const facts: DeviceFacts = { kind: 'selector', contacts, places, between: 'open' };
  return { ...NO_ROLES, device: deviceOf(device, facts), inputs };
}

function signalFacts({ facts }: PointDevice & { does: 'signal' }, told: Told): DeviceFacts {
  if (facts.kind !== 'transmitter' || 'range' in facts) return facts;
  const { signal, wires, low, high, unit } = facts;
  const sent = FIELD_SIGNALS.find((each) => each === told.given(signal)) ?? '4-20-ma';
  return {
    ...{ kind: 'transmitter', signal: sent, wires: String(told.given(wires)) === '4' ? 4 : 2, failsAt: null },
    range: {
      low: told.number(low) ?? 0,
      high: told.number(high) ?? 100,
      unit: String(told.given(unit) ?? ''),
    },
  };
}

/** `fault-reset; opens; momentary; acts open`: what somebody hangs there besides. */
function ownDevices(typed: TypedFields, faults: Map<string, string>): Hung[] {
  return [...typed].flatMap(([key, { text }]): Hung[] => {
    if (!key.startsWith('device.') || text.trim() === '') return [];
    const name = key.slice('device.'.length);
    const [does = '', ...more] = text.split(';').map((piece) => piece.trim());
    const odd = more.find((each) => !OWN_WORDS.includes(each));
    if (!OWN_NAME.test(name) || does === '' || odd !== undefined) {
      faults.set(key, `"${text}" is not understood. Name a function, then: ${OWN_WORDS.join(', ')}.`);
      return [];
    }
    const contact = more.includes('opens') ? '21-22' : '13-14';
    const facts: DeviceFacts = {
      ...{ kind: 'contact', momentary: more.includes('momentary') },
      contacts: [{ name: contact, opens: more.includes('opens') }],
    };
    const role = { contact, does, opens: more.includes('acts open'), through: [] };
    return [
      { ...NO_ROLES, device: deviceOf({ name, what: does.replace(/[-.]/g, ' ') }, facts), inputs: [role] },
    ];
  });
}
const OWN_NAME = /^[A-Z][A-Z0-9]{0,5}$/;
export const OWN_WORDS = ['opens', 'closes', 'momentary', 'maintained', 'acts open', 'acts closed'];

export const roleId = (device: string, contact: string): string => `${device}:${contact}`;

function rolesOf({ device, inputs, analog, output }: Hung): readonly WantedRole[] {
  const plain = { opens: false, signal: '' };
  return [
    ...inputs.map(({ contact, does, opens }): WantedRole => ({
      ...{ ...plain, id: roleId(device.name, contact), does, on: 'input', opens },
    })),
    ...(analog
      ? [{ ...plain, id: device.name, does: analog.feeds, on: 'analog' as const, signal: signalOf(device) }]
      : []),
    ...(output === null ? [] : [{ ...plain, id: device.name, does: output, on: 'output' as const }]),
  ];
}

/** A potentiometer gives a voltage. */
const signalOf = (device: FieldDevice): FieldSignal =>
  device.kind === 'transmitter' ? device.signal : '0-10-v';

function draw(
  maker: WireMaker,
  hung: readonly Hung[],
  placed: ReadonlyMap<string, PlacedRole>,
  dictionary: Dictionary,
): void {
  const terminals = dictionary.terminals ? terminalsOf(dictionary.terminals) : [];
  for (const { device, inputs, analog, output, brake } of hung) {
    maker.add(device);
    for (const { contact, through } of inputs) {
      const terminal = placed.get(roleId(device.name, contact))?.terminal;
      if (terminal) maker.input(device, contact, terminal.id, through);
    }
    const terminal = placed.get(device.name)?.terminal;
    if (analog && terminal) maker.signal(device, terminal);
    if (output !== null && terminal) maker.output(device, outputAt(terminals, terminal));
    if (brake) maker.brake(device);
  }
}

function outputAt(terminals: readonly Terminal[], { id, kind, contact, logic }: Terminal) {
  const common = terminals.find(
    (each) => each.contact?.relay === contact?.relay && each.contact?.side === 'common',
  )?.id;
  if (kind === 'relay') return { closes: id, common, transistor: undefined };
  const transistor = logic ? { terminal: id, logic } : undefined;
  return { closes: undefined, common: undefined, transistor };
}

/** What the inputs and outputs are set to, and that nothing is asked of those on which nothing hangs. */
function wish(
  blank: PlainSet,
  hung: readonly Hung[],
  roles: readonly PlacedRole[],
  told: Told,
  wishes: Wishes,
): void {
  const used = new Set<string>();
  for (const { role, number, terminal } of roles) {
    if (!terminal) continue;
    const why = `${role.id} hangs on ${terminal.id}.`;
    if (role.on === 'input') {
      used.add(number);
      wishes.choice(`input.${number}.function`, role.does, { from: 'wires', why });
      const sense = role.opens ? 'open' : 'closed';
      const word = role.opens ? 'acts while its contact is open' : 'acts while its contact is closed';
      wishes.choice(`input.${number}.sense`, sense, { from: 'wires', why: `${why} It ${word}.` });
      if (takes(blank, `input.${number}.owner`, 'drive'))
        wishes.choice(`input.${number}.owner`, 'drive', { from: 'wires', why });
    } else if (role.on === 'output')
      wishes.choice(`output.${number}.function`, role.does, { from: 'wires', why });
    else analogWishes(blank, hung, { role, number }, told, wishes, why);
  }
  for (const meaning of blank.meanings) {
    const number = /^input\.(\d+)\.function$/.exec(meaning)?.[1];
    if (number === undefined || used.has(number) || !takes(blank, meaning, 'none')) continue;
    wishes.choice(meaning, 'none', { from: 'wires', why: 'Nothing hangs on it.' });
  }
}

function analogWishes(
  blank: PlainSet,
  hung: readonly Hung[],
  { role, number }: Pick<PlacedRole, 'role' | 'number'>,
  told: Told,
  wishes: Wishes,
  why: string,
): void {
  const device = hung.find((each) => each.device.name === role.id)?.analog;
  if (!device) return;
  const by = { from: 'wires', why } as const;
  const live = `analog.${number}.liveZero`;
  if (blank.carrierOf(meaningOf(live))) wishes.choice(live, /^[24]-/.test(role.signal) ? 'on' : 'off', by);
  wishes.choice(`analog.${number}.signal`, role.signal, by);
  if (device.feeds === 'loop') wishes.choice('loop.feedback', `analog-${number}`, by);
  else if (device.feeds === 'trim') wishes.choice('trim.source', `analog-${number}`, by);
  else if (takes(blank, 'speed.source', `source.analog.${number}`))
    wishes.choice('speed.source', `source.analog.${number}`, by);
  else wishes.choice(`analog.${number}.use`, 'speed', by);
  const loss = device.loss === null ? undefined : told.given(device.loss);
  // A signal without live zero has no loss that a drive could see.
  if (typeof loss === 'string' && /^[24]-/.test(role.signal))
    wishes.choice(`analog.${number}.loss`, loss, {
      from: 'asked',
      why: 'What happens when the signal is lost.',
    });
  const [low, high] = (device.curve ?? []).map((each) => told.number(each));
  if (low === undefined || high === undefined) return;
  const points = [
    { signal: 0, value: low },
    { signal: 1, value: high },
  ];
  const curve: Plain = { kind: 'curve', points, unit: 'Hz', step: 0, codes: [], how: null };
  wishes.plain(`analog.${number}.curve`, curve, {
    from: 'asked',
    why: `Speed over the signal of ${role.id}.`,
  });
}

/** `4 to 50 Hz`, as somebody types the speeds at both ends of a signal. */
export function typedCurve(text: string): Plain | string {
  const [from = '', to = ''] = text.split(/\s+to\s+|\.\./);
  const [low, high] = [typedNumber(from, 'Hz'), typedNumber(to, 'Hz')];
  if (!low.ok || !high.ok) return `"${text}" is no pair of speeds. Type both ends, such as 4 to 50 Hz.`;
  const points = [
    { signal: 0, value: low.value },
    { signal: 1, value: high.value },
  ];
  return { kind: 'curve', points, unit: 'Hz', step: 0, codes: [], how: null };
}

export const meaningKey = (key: string) => meaningOf(key.slice('set.'.length));
