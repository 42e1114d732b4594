// What an event costs, what a walk over two drives costs beside the naive one over all sequences, and the simulated units
// against the engine with a million random events.

import { spawnSync } from 'node:child_process';
import { performance } from 'node:perf_hooks';
import { begin, machineOf, sameBehaviour, step } from '@drive-keep/core/behaviour';
import { bridge, modelNamed, outfitOf, plainReadings } from '@drive-keep/core/testing';
import { root } from '../setup/folders.mjs';
import { median, showMs } from './timing.mjs';

const ANALOG = '41';
const ANALOG_2 = '43';
const ZERO = '42';
const ROUNDS = 2000;
const WALKS = 9;
/** 7 models, as many sets, 50 events each. */
const SETS = 3000;

const at = (device, connection) => ({ kind: 'device', device, connection });
const terminal = (id) => ({ kind: 'terminal', terminal: id });
const wire = (from, to) => ({ number: '', colour: '', from, to });
const link = (a, b) => ({ between: [a, b], place: 'drive' });
const contact = (name) => ({
  ...{ kind: 'contact', name, what: '', momentary: false },
  contacts: [{ name: '13-14', opens: false }],
});
const sender = (name, signal) => ({
  ...{ kind: 'transmitter', name, what: '', signal, wires: 4, range: { low: 0, high: 100, unit: '%' } },
});
const LINKS = [link('21', '22'), link('30', '31'), link('32', '33')];
const inputs = (count) => Array.from({ length: count }, (_, place) => String(23 + place));
const wiring = (devices, wires) => ({ devices, wires, links: LINKS, switches: {}, arrangement: '' });

/** A contact on each of the first inputs, and a sender on the first analog input. */
function wiringOf(count) {
  const wires = inputs(count).flatMap((id, place) => [
    wire(terminal(id), at(`S${place + 1}`, '14')),
    wire(at(`S${place + 1}`, '13'), terminal('20')),
  ]);
  const devices = inputs(count).map((_, place) => contact(`S${place + 1}`));
  return wiring(
    [...devices, sender('B1', '4-20-ma')],
    [...wires, wire(terminal(ANALOG), at('B1', 'out')), wire(at('B1', '0'), terminal(ZERO))],
  );
}

/** Ten contacts, two in series on each of five inputs, a selector of three places on two, and two senders. */
function largeWiring() {
  const pairs = inputs(5).flatMap((id, place) => {
    const [one, other] = [`S${place + 1}`, `P${place + 1}`];
    return [
      ...[wire(terminal(id), at(one, '14')), wire(at(one, '13'), at(other, '14'))],
      wire(at(other, '13'), terminal('20')),
    ];
  });
  const [first, second] = inputs(7).slice(5);
  const selector = {
    ...{ kind: 'selector', name: 'Z1', what: '', between: 'open' },
    contacts: ['13-14', '23-24'].map((name) => ({ name, opens: false })),
    places: [
      { name: '0', closes: [] },
      { name: '1', closes: ['13-14'] },
      { name: '2', closes: ['23-24'] },
    ],
  };
  const devices = inputs(5).flatMap((_, place) => [contact(`S${place + 1}`), contact(`P${place + 1}`)]);
  return wiring(
    [...devices, selector, sender('B1', '4-20-ma'), sender('B2', '0-10-v')],
    [
      ...pairs,
      ...[wire(terminal(first), at('Z1', '14')), wire(at('Z1', '13'), terminal('20'))],
      ...[wire(terminal(second), at('Z1', '24')), wire(at('Z1', '23'), terminal('20'))],
      ...[wire(terminal(ANALOG), at('B1', 'out')), wire(terminal(ANALOG_2), at('B2', 'out'))],
      ...[wire(at('B1', '0'), terminal(ZERO)), wire(at('B2', '0'), terminal(ZERO))],
    ],
  );
}

/** Started by buttons, the speed by a signal whose last value holds, trimmed by another. */
const LATCHING = {
  ...{
    'command.source': 'source.terminals',
    'command.wiring': 'three-wire',
    'speed.source': 'source.analog.1',
  },
  ...{ 'input.1.function': 'run.forward', 'input.2.function': 'stop', 'input.3.function': 'direction' },
  ...{
    'input.4.function': 'preset.1',
    'input.5.function': 'external-fault',
    'input.6.function': 'fault-reset',
  },
  ...{ 'input.7.function': 'jog', 'analog.1.signal': '4-20-ma', 'analog.1.loss': 'hold' },
};

/** Forward and reverse, two presets, a reset button; the speed by a signal. */
const TYPICAL = {
  ...{
    'command.source': 'source.terminals',
    'command.wiring': 'separate',
    'speed.source': 'source.analog.1',
  },
  ...{ 'input.1.function': 'run.forward', 'input.2.function': 'run.reverse', 'input.3.function': 'preset.1' },
  ...{ 'input.4.function': 'preset.2', 'input.5.function': 'fault-reset', 'analog.1.signal': '4-20-ma' },
};

function machine(wires, values) {
  const dictionary = modelNamed('halvern-hn64@1');
  return machineOf(bridge.read(dictionary, outfitOf(dictionary), plainReadings(dictionary, values)), wires);
}

function walk(wires, values, other) {
  const [a, b] = [machine(wires, values), machine(wires, { ...values, ...other })];
  const from = performance.now();
  const walked = sameBehaviour(a, b, { mostPairs: 1_000_000, mostDifferences: 20, keys: false });
  return { walked, took: performance.now() - from };
}

const said = ({ pairs, events, differences, unfinished }) =>
  `${pairs} pairs under ${events} events, ${differences.length} differences${unfinished ? ', unfinished' : ''}`;

export function behaviourBench() {
  const whole = machine(wiringOf(5), TYPICAL);
  let { state } = step(whole, begin(whole).state, { kind: 'supply', on: true });
  const steps = Array.from({ length: ROUNDS }, (_, round) => {
    const from = performance.now();
    ({ state } = step(whole, state, { kind: 'device', name: `S${(round % 5) + 1}`, to: round % 2 }));
    return performance.now() - from;
  });
  const typical = Array.from({ length: WALKS }, () => walk(wiringOf(5), TYPICAL, { 'preset.contact.1': 12 }));
  const large = walk(largeWiring(), LATCHING, { 'jog.speed': 12 });
  const naive = large.walked.events ** 3 * 2 * median(steps);
  const env = { ...process.env, JEST_PART: 'server', BEHAVIOUR_SETS: String(SETS) };
  const jest = spawnSync('npx', ['jest', '--silent', 'plant-sim/src/firmware'], {
    cwd: root,
    env,
    encoding: 'utf8',
  });
  return [
    {
      what: 'one event, with its reasons',
      measured: `${showMs(median(steps))} median, ${showMs(Math.max(...steps))} slowest`,
      wanted: 'below 0.05 ms; answered within 16 ms',
    },
    {
      what: `two sets of a typical position: ${said(typical[0].walked)}`,
      measured: `${showMs(median(typical.map(({ took }) => took)))} median, ${showMs(typical[0].took)} the first time`,
      wanted: 'below 50 ms',
    },
    {
      what: `ten contacts, a selector, two signals, started by buttons: ${said(large.walked)}`,
      measured: `${showMs(large.took)}; all sequences of three events alone would take ${showMs(naive)}`,
      wanted: 'below 2 s',
    },
    {
      what: `random events on simulated units, up to ${7 * SETS * 50}`,
      measured: jest.status === 0 ? 'none disagrees' : 'some disagree: run the test of the firmware',
      wanted: 'none disagrees',
    },
  ];
}
