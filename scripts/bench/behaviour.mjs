// What an event costs, what a walk over two drives costs beside the naive one over all sequences, and the simulated units
// against the engine with a million random events.

import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { begin, machineOf, sameBehaviour, step } from '@drive-keep/core/behaviour';
import { Bridge, readVocabulary } from '@drive-keep/core/meanings';
import { defaultSet } from '@drive-keep/core/sets';
import { loadModels } from '@drive-keep/plant-sim';
import { modelsFolder, root } from '../setup/folders.mjs';
import { median, showMs } from './timing.mjs';

const RUN_ALWAYS = { '05C': 1, '07C': 0 };
const ROUNDS = 2000;
/** 7 models, as many sets, 50 events each. */
const SETS = 3000;

/** A contact on each of the first inputs. */
function wiringOf(count) {
  const inputs = Array.from({ length: count }, (_, at) => ({
    terminal: String(23 + at),
    name: `S${at + 1}`,
  }));
  const wire = (from, to) => ({ number: '', colour: '', from, to });
  const terminal = (id) => ({ kind: 'terminal', terminal: id });
  const at = (device, connection) => ({ kind: 'device', device, connection });
  const link = (a, b) => ({ between: [a, b], place: 'drive' });
  return {
    devices: inputs.map(({ name }) => ({
      ...{ kind: 'contact', name, what: '', momentary: false },
      contacts: [{ name: '13-14', opens: false }],
    })),
    wires: inputs.flatMap(({ terminal: id, name }) => [
      wire(terminal(id), at(name, '14')),
      wire(at(name, '13'), terminal('20')),
    ]),
    links: [link('21', '22'), link('30', '31'), link('32', '33')],
    switches: {},
    arrangement: '',
  };
}

export function behaviourBench() {
  const dictionary = loadModels(modelsFolder).get('halvern-hn64@1');
  const bridge = new Bridge(readVocabulary(readFileSync(join(modelsFolder, '../meanings.yaml'), 'utf8')));
  const outfit = { rating: 'HN64-15', region: '50-hz' };
  const machine = (contacts, values) => {
    const readings = new Map([...defaultSet(dictionary, outfit).readings, ...Object.entries(values)]);
    return machineOf(bridge.read(dictionary, outfit, readings), wiringOf(contacts));
  };
  const whole = machine(7, RUN_ALWAYS);
  let { state } = step(whole, begin(whole).state, { kind: 'supply', on: true });
  const steps = Array.from({ length: ROUNDS }, (_, round) => {
    const from = performance.now();
    ({ state } = step(whole, state, { kind: 'device', name: `S${(round % 7) + 1}`, to: round % 2 }));
    return performance.now() - from;
  });
  const [a, b] = [machine(5, RUN_ALWAYS), machine(5, { ...RUN_ALWAYS, '12R': 300 })];
  const from = performance.now();
  const walked = sameBehaviour(a, b, { mostPairs: 20_000, mostDifferences: 20, keys: false });
  const took = performance.now() - from;
  const naive = walked.events ** 3 * 2 * median(steps);
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
      wanted: 'below 16 ms',
    },
    {
      what: `two sets with five contacts, ${walked.pairs} pairs of states`,
      measured: `${showMs(took)}; all sequences of three events would take ${showMs(naive)}`,
      wanted: '',
    },
    {
      what: `random events on simulated units, up to ${7 * SETS * 50}`,
      measured: jest.status === 0 ? 'none disagrees' : 'some disagree: run the test of the firmware',
      wanted: 'none disagrees',
    },
  ];
}
