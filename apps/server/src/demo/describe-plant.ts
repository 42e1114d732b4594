// node dist/demo/describe-plant.js --models FOLDER: prints the description of the simulated plant as JSON.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { machineOf, type Event, type Machine } from '@drive-keep/core/behaviour';
import { readModel, type Dictionary } from '@drive-keep/core/dictionary';
import { Bridge, readVocabulary } from '@drive-keep/core/meanings';
import { meaningOf } from '@drive-keep/core/values';
import { plainWiring } from '@drive-keep/core/wiring';
import type { Hand, PlantDescription } from '@drive-keep/plant-sim';
import { modelFilesIn } from '../catalogue/model-folder.ts';
import { demoPositions } from './demo-positions.ts';
import { demoWiring } from './demo-wirings.ts';
import { loadOf } from './demo-loads.ts';
import { handsThatRun } from './running-hands.ts';
import { rawsNow, rawsUnsaved, refusedRegisters, setAt } from './position-history.ts';
import { STACKER_CONTROLLER } from './packing.ts';
import { LINES, MAINS_VOLTS } from './story.ts';

/** Delay of a gateway on a plant network, in ms. */
const LINE_DELAY_MS = 3;

export function describePlant(
  dictionaries: ReadonlyMap<string, Dictionary>,
  bridge: Bridge,
): PlantDescription {
  return {
    mains: MAINS_VOLTS,
    lines: LINES.map((id) => ({ id, port: 0, delayMs: LINE_DELAY_MS })),
    units: demoPositions().flatMap((position) => {
      const dictionary = dictionaries.get(position.model);
      if (!dictionary) throw new Error(`${position.tag}: no model ${position.model}`);
      if (!position.line) return [];
      const values = rawsNow(dictionary, position);
      const set = bridge.read(dictionary, position, setAt(dictionary, position, 0).readings);
      const machine = machineOf(set, demoWiring(position, dictionary, bridge));
      const hands = position.runs ? handsThatRun(machine)?.flatMap(handIn) : undefined;
      return [
        {
          tag: position.tag,
          line: position.line.name,
          address: position.line.address,
          dictionary: dictionary.id,
          rating: position.rating,
          region: position.region,
          firmware: position.firmware,
          serial: position.answers,
          values,
          working: rawsUnsaved(dictionary, position),
          runContact: position.runs,
          load: loadOf(position, transmitterOf(machine)),
          ...(hands ? { hands } : {}),
          floor: { ...plainWiring(machine.wiring), logic: machine.logic ?? 'sourcing' },
          mischief: { ...position.mischief, refuse: refusedRegisters(dictionary, position) },
        },
      ];
    }),
    controllers: [
      {
        line: STACKER_CONTROLLER.line,
        address: STACKER_CONTROLLER.address,
        axes: demoPositions()
          .filter(({ machine }) => machine === STACKER_CONTROLLER.machine)
          .map(({ answers }) => answers),
      },
    ],
  };
}

const handIn = (event: Event): Hand[] =>
  event.kind === 'device'
    ? [{ device: event.name, to: event.to }]
    : event.kind === 'key'
      ? [{ key: event.key }]
      : [];

/** The device that sends the actual value of the loop; nothing without a loop, or where nothing is wired to its input. */
function transmitterOf(machine: Machine): string | undefined {
  if ((machine.set.choice(meaningOf('loop.mode')) ?? 'off') === 'off') return undefined;
  const number = /\d/.exec(machine.set.choice(meaningOf('loop.feedback')) ?? '')?.[0];
  const input = machine.analogs.find((each) => each.number === number);
  const names = machine.devicesAt.get(input?.terminal ?? '') ?? [];
  return machine.wiring.devices.find(({ name, kind }) => kind === 'transmitter' && names.includes(name))
    ?.name;
}

function readDictionaries(folder: string): ReadonlyMap<string, Dictionary> {
  const dictionaries = readdirSync(folder).map((name) => {
    const read = readModel(modelFilesIn(join(folder, name)));
    if (!read.ok) throw new Error(`${name} cannot be read`);
    return [read.value.id, read.value] as const;
  });
  return new Map(dictionaries);
}

/** Wordings of meanings lie beside the folder of the models. */
export const bridgeBeside = (folder: string): Bridge =>
  new Bridge(readVocabulary(readFileSync(join(folder, '../meanings.yaml'), 'utf8')));

const { values } = parseArgs({ options: { models: { type: 'string' } }, strict: false });
if (typeof values.models === 'string') {
  process.stdout.write(
    JSON.stringify(describePlant(readDictionaries(values.models), bridgeBeside(values.models))),
  );
}
