// Every rule of behaviour on every model that states it: what is set and done, and what each model makes of it by its own
// text. Settings are plain, so that a row holds for all of them. Input 1 runs or enables; preset 1 is 10 Hz, preset 2 20 Hz.

import type { FieldSignal } from '../wiring/index.ts';

type Wanted = Readonly<Record<string, string | number>>;

export interface RuleScenario {
  readonly what: string;
  readonly wanted: Wanted;
  readonly events: string;
  readonly signals?: Readonly<Record<string, FieldSignal>>;
  /** By model; a model that is not here has no such thing. */
  readonly short: Readonly<Record<string, string>>;
}

const HN20 = 'halvern-hn20@1';
const HN64 = 'halvern-hn64@1';
const HN64_2 = 'halvern-hn64@2';
const C1 = 'toreka-c1@1';
const C7 = 'toreka-c7@1';
const F3 = 'toreka-f3@1';
const S4 = 'quenby-s4@1';

const on = (models: readonly string[], short: string): Readonly<Record<string, string>> =>
  Object.fromEntries(models.map((each) => [each, short]));
const HN64S = [HN64, HN64_2];
/** Those with presets as a source, and nothing on them. */
const PRESET = 'runs forward at 10 Hz by preset 1';
const NONE = 'runs forward at 0 Hz by minimum';
const AXIS = 'runs forward at ? Hz by network';
const RUNS = { ...on([HN20, C1, C7, F3], PRESET), ...on(HN64S, NONE), [S4]: AXIS };
const KEYS = [HN20, ...HN64S, C1, C7, F3];
const STOPPED = 'stopped by ramp';
const AT_KEYS: Wanted = { 'speed.source': 'source.keypad', 'speed.keypad': 10 };
const only = (runs: Readonly<Record<string, string>>, ...models: readonly string[]) =>
  Object.fromEntries(Object.entries(runs).filter(([model]) => models.includes(model)));
const BUTTONS: Wanted = { 'command.wiring': 'three-wire', 'input.3.function': 'stop' };
const SIGNAL: Wanted = { 'speed.source': 'source.analog.1', 'analog.1.curve': '0..50' };

const LOST: Wanted = {
  ...SIGNAL,
  'analog.1.signal': '4-20-ma',
  'analog.1.loss': 'fault',
  'restart.count': 1,
};

export const RULE_SCENARIOS: readonly RuleScenario[] = [
  { what: 'a run contact', wanted: {}, events: 'S1 on', short: RUNS },
  {
    what: 'after coasting by an input a standing contact',
    wanted: { 'input.3.function': 'coast' },
    events: 'S1 on; S3 on; S3 off',
    short: only(RUNS, HN20, ...HN64S, C1, C7, F3),
  },
  {
    what: 'one function on two inputs',
    wanted: { 'input.3.function': 'coast', 'input.4.function': 'coast' },
    events: 'S1 on; S3 on',
    short: on(KEYS, 'stopped by coast'),
  },
  {
    what: 'one function on two inputs of an axis',
    wanted: { 'input.3.function': 'quick-stop', 'input.4.function': 'quick-stop' },
    events: 'S1 on; S3 on',
    short: { [S4]: 'stopped by quick-stop' },
  },
  {
    what: 'after a quick stop a standing contact',
    wanted: { 'input.3.function': 'quick-stop' },
    events: 'S1 on; S3 on; S3 off',
    short: on([HN20, ...HN64S, C7, S4], STOPPED),
  },
  {
    what: 'after a reset by an input a standing contact',
    wanted: { 'input.3.function': 'fault-reset' },
    events: 'S1 on; fault overcurrent; S3 on',
    short: { ...only(RUNS, HN20, ...HN64S, C7, F3), ...on([C1, S4], STOPPED) },
  },
  {
    what: 'a reset that is held',
    wanted: { 'input.3.function': 'fault-reset' },
    events: 'S1 on; S3 on; fault overcurrent',
    short: on([...KEYS, S4], 'fault by coast'),
  },
  {
    what: 'the supply clears a fault',
    wanted: {},
    events: 'supply on; fault earth; supply off; supply on; S1 on',
    short: RUNS,
  },
  { what: 'a standing contact when the supply comes', wanted: {}, events: 'S1 on; supply on', short: RUNS },
  {
    what: 'a standing contact that has to wait',
    wanted: { 'command.startLock': 'wait' },
    events: 'S1 on; supply on',
    short: on([C1, S4], STOPPED),
  },
  {
    what: 'a standing contact that has to wait, and after a reset, too',
    wanted: { 'command.startLock': 'wait', 'command.resetLock': 'wait' },
    events: 'S1 on; supply on',
    short: on([HN20, ...HN64S, C7, F3], STOPPED),
  },
  {
    what: 'the stop key that always acts',
    wanted: { 'command.stopKey': 'always' },
    events: 'S1 on; key stop',
    short: on([HN20, ...HN64S, C7], STOPPED),
  },
  { what: 'the stop key', wanted: {}, events: 'S1 on; key stop', short: { [C1]: STOPPED, [F3]: PRESET } },
  {
    what: 'the stop key only on the keypad’s own commands',
    wanted: { 'command.stopKey': 'own' },
    events: 'S1 on; key stop',
    short: only(RUNS, HN20, ...HN64S, C7),
  },
  {
    what: 'a restart after overvoltage',
    wanted: { 'restart.count': 1 },
    events: 'S1 on; fault overvoltage; settle',
    short: only(RUNS, HN20, ...HN64S, C1, C7, F3),
  },
  {
    what: 'a restart after overcurrent',
    wanted: { 'restart.count': 1 },
    events: 'S1 on; fault overcurrent; settle',
    short: { [HN20]: PRESET, ...on([...HN64S, C1, C7, F3], 'fault by coast') },
  },
  {
    what: 'a restart after overload of the motor',
    wanted: { 'restart.count': 1 },
    events: 'S1 on; fault motorOverload; settle',
    short: { [C1]: PRESET, ...on([HN20, ...HN64S, C7, F3], 'fault by coast') },
  },
  {
    what: 'no restart of an axis',
    wanted: {},
    events: 'S1 on; fault overvoltage; settle',
    short: { [S4]: 'fault by coast' },
  },
  {
    what: 'an external fault that stops quickly',
    wanted: { 'input.3.function': 'external-fault', 'protect.external': 'quick-stop' },
    events: 'S1 on; S3 on',
    short: on([HN20, ...HN64S, C1, C7], 'fault by quick-stop'),
  },
  {
    what: 'an external fault that stops by the ramp',
    wanted: { 'input.3.function': 'external-fault', 'protect.external': 'ramp' },
    events: 'S1 on; S3 on',
    short: on([C7, F3], 'fault by ramp'),
  },
  {
    what: 'an external fault that coasts',
    wanted: { 'input.3.function': 'external-fault', 'protect.external': 'coast' },
    events: 'S1 on; S3 on',
    short: on(KEYS, 'fault by coast'),
  },
  {
    what: 'an external fault of an axis',
    wanted: { 'input.3.function': 'external-fault', 'stop.faultMode': 'quick-ramp' },
    events: 'S1 on; S3 on',
    short: { [S4]: 'fault by quick-stop' },
  },
  {
    what: 'a speed in a skip band, near its upper edge',
    wanted: { ...AT_KEYS, 'speed.keypad': 10.6, 'skip.1.from': 9, 'skip.1.to': 11 },
    events: 'S1 on',
    short: on(KEYS, 'runs forward at 9 Hz by keypad, skip'),
  },
  {
    what: 'a speed of zero',
    wanted: { ...AT_KEYS, 'speed.keypad': 0 },
    events: 'S1 on',
    short: on(KEYS, 'runs forward at 0 Hz by keypad'),
  },
  {
    what: 'zero at the signal of an axis',
    wanted: { 'analog.1.use': 'speed' },
    events: 'S1 on; B1 0.5',
    signals: { '1': 'bipolar-10-v' },
    short: { [S4]: 'runs forward at 0 Hz by analog 1' },
  },
  {
    what: 'a negative signal',
    wanted: { ...SIGNAL, 'analog.1.curve': '-20..50' },
    events: 'S1 on; B1 0',
    short: {
      ...on([...HN64S, C7], 'runs reverse at 20 Hz by analog 1'),
      [F3]: 'runs forward at 0 Hz by analog 1',
    },
  },
  {
    what: 'a negative signal of a fan that may reverse',
    wanted: { ...SIGNAL, 'analog.1.curve': '-20..50', 'direction.allowed': 'both' },
    events: 'S1 on; B1 0',
    short: { [F3]: 'runs reverse at 20 Hz by analog 1' },
  },
  {
    what: 'a negative signal of an axis',
    wanted: { 'analog.1.use': 'speed', 'analog.1.curve': '-50..50' },
    events: 'S1 on; B1 0',
    signals: { '1': 'bipolar-10-v' },
    short: { [S4]: 'runs reverse at 50 Hz by analog 1' },
  },
  {
    what: 'more than the whole signal',
    wanted: { ...SIGNAL, 'analog.1.curve': '0..40' },
    events: 'S1 on; B1 1.2',
    short: on(KEYS, 'runs forward at 40 Hz by analog 1'),
  },
  {
    what: 'more than the whole signal of an axis',
    wanted: { 'analog.1.use': 'speed', 'analog.1.curve': '-25..25' },
    events: 'S1 on; B1 1.2',
    signals: { '1': 'bipolar-10-v' },
    short: { [S4]: 'runs forward at 25 Hz by analog 1' },
  },
  {
    what: 'a factor on the keypad',
    wanted: { ...AT_KEYS, 'speed.factor': 50 },
    events: 'S1 on',
    short: {
      ...on([HN20, F3], 'runs forward at 10 Hz by keypad'),
      ...on([...HN64S, C7], 'runs forward at 5 Hz by keypad'),
    },
  },
  {
    what: 'a factor on a signal',
    wanted: { ...SIGNAL, 'speed.factor': 50 },
    events: 'S1 on; B1 1',
    short: on([HN20, ...HN64S, C7, F3], 'runs forward at 25 Hz by analog 1'),
  },
  {
    what: 'a trim on the keypad',
    wanted: { ...AT_KEYS, 'trim.source': 'analog-1', 'trim.weight': 10 },
    events: 'S1 on; B1 1',
    short: on([...HN64S, C7], 'runs forward at 20 Hz by keypad'),
  },
  {
    what: 'both directions',
    wanted: { 'input.2.function': 'run.reverse' },
    events: 'S2 on; S1 on',
    short: { ...on([HN20, ...HN64S, C1], STOPPED), [C7]: 'runs reverse at 10 Hz by preset 1' },
  },
  {
    what: 'a button with three wires',
    wanted: { ...BUTTONS },
    events: 'S3 on; S1 on; S1 off',
    short: only(RUNS, HN20, ...HN64S, C1, C7),
  },
  {
    what: 'a button while the stop contact is open',
    wanted: { ...BUTTONS },
    events: 'S1 on; S1 off',
    short: on([HN20, ...HN64S, C1, C7], STOPPED),
  },
  {
    what: 'a direction contact with three wires',
    wanted: { ...BUTTONS, 'input.2.function': 'direction' },
    events: 'S3 on; S1 on; S1 off; S2 on',
    short: { ...on(HN64S, NONE), ...on([C1, C7], 'runs reverse at 10 Hz by preset 1') },
  },
  {
    what: 'both directions where reverse is forbidden',
    wanted: { 'input.2.function': 'run.reverse', 'direction.allowed': 'forward' },
    events: 'S1 on; S2 on',
    short: { ...on([HN20, ...HN64S], STOPPED), ...on([C1, C7], PRESET) },
  },
  {
    what: 'reverse that is forbidden, and then forward',
    wanted: { 'input.2.function': 'run.reverse', 'direction.allowed': 'forward' },
    events: 'S2 on; S1 on',
    short: { ...on([HN20, ...HN64S], STOPPED), ...on([C1, C7], PRESET) },
  },
  {
    what: 'a preset bit while the keypad gives the speed',
    wanted: { ...AT_KEYS, 'input.3.function': 'preset.bit.0' },
    events: 'S1 on; S3 on',
    short: {
      ...on([HN20, C1, C7], 'runs forward at 20 Hz by preset 2'),
      [F3]: 'runs forward at 10 Hz by keypad',
    },
  },
  {
    what: 'a preset contact of its own while the keypad gives the speed',
    wanted: { ...AT_KEYS, 'input.3.function': 'preset.2' },
    events: 'S1 on; S3 on',
    short: on(HN64S, 'runs forward at 20 Hz by preset 2'),
  },
  {
    what: 'a jog contact alone',
    wanted: { 'input.3.function': 'jog', 'jog.speed': 5 },
    events: 'S3 on',
    short: { ...on([HN20, ...HN64S, C7], 'runs forward at 5 Hz by jog'), ...on([C1, S4], STOPPED) },
  },
  {
    what: 'a jog contact below the minimum',
    wanted: { 'input.3.function': 'jog', 'jog.speed': 5, 'frequency.minimum': 8 },
    events: 'S1 on; S3 on; S1 off; settle; S3 off; settle; S3 on; S1 on',
    short: { ...on([HN20, ...HN64S, C1, C7], 'runs forward at 5 Hz by jog') },
  },
  {
    what: 'a jog contact while running',
    wanted: { 'input.3.function': 'jog', 'jog.speed': 5 },
    events: 'S1 on; settle; S3 on',
    short: { ...on([HN20, C1], 'runs forward at 5 Hz by jog'), ...on(HN64S, NONE), [C7]: PRESET },
  },
  {
    what: 'a run contact while the keypad commands',
    wanted: { 'command.source': 'source.keypad' },
    events: 'S1 on',
    short: on([...KEYS, S4], STOPPED),
  },
  {
    what: 'a jog contact while the keypad commands',
    wanted: { 'command.source': 'source.keypad', 'input.3.function': 'jog', 'jog.speed': 5 },
    events: 'S3 on',
    short: { [HN20]: 'runs forward at 5 Hz by jog', ...on([...HN64S, C1, C7], STOPPED) },
  },
  {
    what: 'after safe torque off a standing contact',
    wanted: {},
    events: 'S1 on; break link 0; mend link 0',
    short: { ...on([HN64, HN64_2, C7, S4], STOPPED), [F3]: PRESET },
  },
  {
    what: 'after safe torque off where that may start',
    wanted: { 'sto.after': 'start' },
    events: 'S1 on; break link 0; mend link 0',
    short: { [HN64_2]: NONE },
  },
  {
    what: 'safe torque off that is a fault',
    wanted: { 'protect.sto': 'fault' },
    events: 'S1 on; break link 0; mend link 0',
    short: on([...HN64S, C7, F3], 'fault by coast'),
  },
  {
    what: 'hand when the supply comes',
    wanted: {
      'command.powerUp': 'hand',
      'command.source2': 'source.terminals',
      'speed.source2': 'source.presets',
      'speed.keypad': 6,
    },
    events: 'S1 on; key run',
    short: { ...on(HN64S, 'runs forward at 6 Hz by keypad'), [F3]: PRESET },
  },
  {
    what: 'another place of command while running',
    wanted: {
      ...{ 'input.3.function': 'place.second', 'command.source2': 'source.terminals' },
      ...{ 'speed.source2': 'source.keypad', 'speed.keypad': 6 },
    },
    events: 'S1 on; S3 on',
    short: on([...HN64S, C7, F3], 'runs forward at 6 Hz by keypad'),
  },
  {
    what: 'a live signal of 2.5 mA',
    wanted: { ...SIGNAL, 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'hold' },
    events: 'S1 on; B1 1; B1 0.125',
    signals: { '1': '0-20-ma' },
    short: {
      ...on([...HN64S, F3], 'runs forward at 0 Hz by analog 1'),
      ...on([C1, C7], 'runs forward at 50 Hz by analog 1'),
    },
  },
  {
    what: 'a live signal of 1.5 mA',
    wanted: { ...SIGNAL, 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'hold' },
    events: 'S1 on; B1 1; B1 0.075',
    signals: { '1': '0-20-ma' },
    short: on([...HN64S, C1, C7, F3], 'runs forward at 50 Hz by analog 1'),
  },
  {
    what: 'a live signal of 1.5 V',
    wanted: { ...SIGNAL, 'analog.1.signal': '2-10-v', 'analog.1.loss': 'hold' },
    events: 'S1 on; B1 1; B1 0.15',
    signals: { '1': '0-10-v' },
    short: on([...HN64S, F3], 'runs forward at 0 Hz by analog 1'),
  },
  {
    what: 'a live signal that was lost and is there again',
    wanted: { ...SIGNAL, 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'hold' },
    events: 'S1 on; B1 1; B1 0; B1 0.6',
    signals: { '1': '0-20-ma' },
    short: on([...HN64S, C1, C7, F3], 'runs forward at 25 Hz by analog 1'),
  },
  {
    what: 'a live signal of 2.5 mA whose loss is a fault',
    wanted: { ...SIGNAL, 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'fault' },
    events: 'B1 1; supply on; S1 on; B1 0.125',
    signals: { '1': '0-20-ma' },
    short: {
      ...on([...HN64S, F3], 'runs forward at 0 Hz by analog 1'),
      ...on([C1, C7], 'fault by coast'),
    },
  },
  {
    what: 'a live signal of 1.5 mA whose loss is a fault',
    wanted: { ...SIGNAL, 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'fault' },
    events: 'B1 1; supply on; S1 on; B1 0.075; B1 1',
    signals: { '1': '0-20-ma' },
    short: on([...HN64S, C1, C7, F3], 'fault by coast'),
  },
  {
    what: 'a lost signal that is there again, where its fault may restart',
    wanted: { ...LOST, 'restart.fault.signalLost': 'on' },
    events: 'B1 1; supply on; S1 on; B1 0; B1 1; settle',
    signals: { '1': '0-20-ma' },
    short: on([...HN64S, C7, F3], 'runs forward at 50 Hz by analog 1'),
  },
  {
    what: 'a lost signal that stays away, where its fault may restart',
    wanted: { ...LOST, 'restart.fault.signalLost': 'on' },
    events: 'B1 1; supply on; S1 on; B1 0; settle',
    signals: { '1': '0-20-ma' },
    short: on([...HN64S, C7, F3], 'fault by coast'),
  },
  {
    what: 'a lost signal that is there again, where only other faults may restart',
    wanted: { ...LOST, 'restart.fault.signalLost': 'off', 'restart.fault.overvoltage': 'on' },
    events: 'B1 1; supply on; S1 on; B1 0; B1 1; settle',
    signals: { '1': '0-20-ma' },
    short: on([...HN64S, C7, F3], 'fault by coast'),
  },
  {
    what: 'an external fault that is gone, where it may restart',
    wanted: { 'input.3.function': 'external-fault', 'restart.count': 1, 'restart.fault.external': 'on' },
    events: 'S1 on; S3 on; S3 off; settle',
    short: only(RUNS, ...HN64S, C7, F3),
  },
  ...raised(),
  {
    what: 'a loop that is on while something else gives the speed',
    wanted: { 'loop.mode': 'raises' },
    events: 'S1 on',
    short: { ...on([HN20, ...HN64S], 'runs forward at ? Hz by loop'), ...on([C7, F3], PRESET) },
  },
  {
    what: 'a preset contact while the loop is on',
    wanted: { 'loop.mode': 'raises', 'input.3.function': 'preset.bit.0' },
    events: 'S1 on; S3 on',
    short: { [HN20]: 'runs forward at ? Hz by loop' },
  },
  {
    what: 'a preset contact of its own while the loop is on',
    wanted: { 'loop.mode': 'raises', 'input.3.function': 'preset.2' },
    events: 'S1 on; S3 on',
    short: on(HN64S, 'runs forward at 20 Hz by preset 2'),
  },
  {
    what: 'a preset bit while the loop gives the speed',
    wanted: { 'loop.mode': 'raises', 'speed.source': 'source.loop', 'input.3.function': 'preset.bit.0' },
    events: 'S1 on; S3 on',
    short: { [C7]: 'runs forward at 20 Hz by preset 2', [F3]: 'runs forward at ? Hz by loop' },
  },
  {
    what: 'jog while the loop is on',
    wanted: { 'loop.mode': 'raises', 'input.3.function': 'jog', 'jog.speed': 5 },
    events: 'S3 on',
    short: on([HN20, ...HN64S], 'runs forward at 5 Hz by jog'),
  },
  {
    what: 'jog while the loop gives the speed',
    wanted: {
      'loop.mode': 'raises',
      'speed.source': 'source.loop',
      'input.3.function': 'jog',
      'jog.speed': 5,
    },
    events: 'S3 on',
    short: { [C7]: 'runs forward at 5 Hz by jog' },
  },
  {
    what: 'fire while the loop gives the speed',
    wanted: {
      'loop.mode': 'raises',
      'speed.source': 'source.loop',
      'input.3.function': 'fire',
      'fire.speed': 45,
    },
    events: 'S3 on',
    short: { [F3]: 'runs forward at 45 Hz by fire' },
  },
  {
    what: 'a loop that is put off by an input',
    wanted: {
      ...{ 'loop.mode': 'raises', 'speed.source': 'source.loop', 'input.3.function': 'loop.off' },
      ...{ 'speed.source2': 'source.keypad', 'speed.keypad': 7 },
    },
    events: 'S1 on; S3 on',
    short: on([C7, F3], 'runs forward at 7 Hz by keypad'),
  },
  {
    what: 'a loop by its mode that is put off by an input',
    wanted: {
      ...{ 'loop.mode': 'raises', 'speed.source': 'source.keypad', 'input.3.function': 'loop.off' },
      ...{ 'speed.source2': 'source.presets', 'speed.keypad': 7 },
    },
    events: 'S1 on; S3 on',
    short: on(HN64S, 'runs forward at 7 Hz by keypad'),
  },
  {
    what: 'a signal at the second input',
    wanted: { 'speed.source': 'source.analog.2', 'analog.2.curve': '0..50' },
    events: 'S1 on; B2 1',
    signals: { '2': '4-20-ma' },
    short: on([...HN64S, C7], 'runs forward at 50 Hz by analog 2'),
  },
  {
    what: 'pulses in the place of that signal',
    wanted: { 'speed.source': 'source.analog.2', 'input.7.function': 'count' },
    events: 'S1 on; B2 1',
    signals: { '2': '4-20-ma' },
    short: on(HN64S, 'runs forward at ? Hz by analog 2'),
  },
  {
    what: 'a permit that goes and comes back',
    wanted: { 'permit.mode': 'input', 'input.3.function': 'permit' },
    events: 'S3 on; S1 on; S3 off; S3 on',
    short: { [F3]: PRESET },
  },
  {
    what: 'a permit that is away',
    wanted: { 'permit.mode': 'input', 'input.3.function': 'permit' },
    events: 'S1 on',
    short: { [F3]: 'not-permitted by ramp' },
  },
  {
    what: 'fire over an external fault',
    wanted: { 'input.3.function': 'fire', 'fire.speed': 45, 'input.4.function': 'external-fault' },
    events: 'S4 on; S3 on',
    short: { [F3]: 'runs forward at 45 Hz by fire' },
  },
  {
    what: 'an input of the user program',
    wanted: { 'input.1.owner': 'program' },
    events: 'S1 on',
    short: { [C7]: STOPPED },
  },
  {
    what: 'a fault and a coast at once',
    wanted: {
      'input.3.function': 'coast',
      'input.4.function': 'external-fault',
      'protect.external': 'quick-stop',
    },
    events: 'S1 on; S3 on; S4 on',
    short: on([HN20, ...HN64S, C1, C7], 'fault by quick-stop'),
  },
  {
    what: 'a fault and an open safety channel at once',
    wanted: {},
    events: 'S1 on; fault earth; break link 0',
    short: on([...HN64S, C7, F3, S4], 'locked by torque-off'),
  },
  {
    what: 'a limit switch in the other direction',
    wanted: { 'input.3.function': 'limit.negative', 'input.4.function': 'jog', 'jog.speed': 5 },
    events: 'S1 on; S3 on; S4 on',
    short: { [S4]: 'runs forward at 5 Hz by jog' },
  },
];

/** Raise on input 3, lower on input 4. */
function raised(): readonly RuleScenario[] {
  const wanted: Wanted = {
    ...{ 'speed.source': 'source.raise-lower', 'input.3.function': 'raise', 'input.4.function': 'lower' },
    'frequency.minimum': 5,
  };
  const all = [HN20, ...HN64S, C1, C7];
  const low = 'runs forward at 5 Hz by raised';
  const high = 'runs forward at 50 Hz by raised';
  const kept: Wanted = { ...wanted, 'raise.keepOverStop': 'yes' };
  const over = 'S1 on; S3 on; settle; S3 off; S1 off; settle; S1 on';
  const supply = 'supply on; S1 on; S3 on; settle; S3 off; supply off; supply on';
  return [
    { what: 'raise', wanted, events: 'S1 on; S3 on; settle', short: on(all, high) },
    {
      what: 'raise and lower at once',
      wanted,
      events: 'S1 on; S3 on; settle; S4 on; settle',
      short: on(all, high),
    },
    {
      what: 'raise while stopped',
      wanted: kept,
      events: 'S3 on; settle; S3 off; S1 on',
      short: on([HN20, C1, C7], low),
    },
    {
      what: 'raise while stopped, on a model that always keeps it',
      wanted,
      events: 'S3 on; settle; S3 off; S1 on',
      short: on(HN64S, low),
    },
    { what: 'a raised speed over a stop', wanted: kept, events: over, short: on([C1, C7], high) },
    {
      what: 'a raised speed over stop and supply',
      wanted: { ...kept, 'raise.keepOverSupply': 'yes' },
      events: over,
      short: { [HN20]: high },
    },
    { what: 'a raised speed over a stop, always kept', wanted, events: over, short: on(HN64S, high) },
    {
      what: 'a raised speed over a stop that is not kept',
      wanted: { ...wanted, 'raise.keepOverStop': 'no' },
      events: over,
      short: on([C1, C7], low),
    },
    {
      what: 'a raised speed over the supply',
      wanted: { ...wanted, 'raise.keepOverSupply': 'yes' },
      events: supply,
      short: on(HN64S, high),
    },
    {
      what: 'a raised speed over the supply, kept with the one over a stop',
      wanted: { ...kept, 'raise.keepOverSupply': 'yes' },
      events: supply,
      short: { [HN20]: high },
    },
    {
      what: 'a raised speed over the supply that is not kept',
      wanted: { ...wanted, 'raise.keepOverSupply': 'no' },
      events: supply,
      short: on(HN64S, low),
    },
    {
      what: 'a raised speed over the supply by the model',
      wanted: kept,
      events: supply,
      short: { [C1]: low, [C7]: high },
    },
  ];
}
