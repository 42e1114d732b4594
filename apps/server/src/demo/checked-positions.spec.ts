// The checks on every position of the demo plant: what the story means is found, and nothing else.

import { expect, it } from '@jest/globals';
import { groundOf, runChecks, type Peer } from '@drive-keep/core/checks';
import { describe as sentence } from '@drive-keep/core/findings';
import { plateFromSet, plateOf, CONNECTIONS } from '@drive-keep/core/motor';
import { loadModels } from '@drive-keep/plant-sim';
import { MODELS_FOLDER } from '../testing/running-plant.ts';
import { demoPositions } from './demo-positions.ts';
import { demoWiring } from './demo-wirings.ts';
import { bridgeBeside } from './describe-plant.ts';
import { setAt } from './position-history.ts';
import { MAINS_VOLTS, NIGHTS, type DemoPosition } from './story.ts';

const models = loadModels(MODELS_FOLDER);
const bridge = bridgeBeside(MODELS_FOLDER);
const modelOf = ({ model }: DemoPosition) => {
  const found = models.get(model);
  if (!found) throw new Error(model);
  return found;
};

it('lists', () => {
  const all = demoPositions();
  const nameOf = (motor: string) => motor.split(',')[0] ?? motor;
  const lines: string[] = [];
  for (const told of all) {
    const dictionary = modelOf(told);
    const first = all.find(({ motor }) => nameOf(motor) === nameOf(told.motor)) ?? told;
    const plate = plateOf(plateFromSet(bridge, modelOf(first), setAt(modelOf(first), first, NIGHTS + 1)));
    const speed = /(\d+) rpm/.exec(told.motor)?.[1];
    const connection = CONNECTIONS.find((each) => told.motor.includes(each));
    const [rating = {}] = plate.ratings;
    const peers: Peer[] = all
      .filter((each) => each.machine === told.machine && each.model.split('@')[0] === told.model.split('@')[0] && each.tag !== told.tag)
      .map((each) => ({
        tag: each.tag,
        firmware: String(each.firmware),
        set: bridge.read(modelOf(each), each, setAt(modelOf(each), each, 0).readings),
      }));
    const ground = groundOf(bridge, dictionary, told, setAt(dictionary, told, 0).readings, {
      plate: { ...plate, ratings: [{ ...rating, ...(connection ? { connection } : {}), ...(speed ? { speed: Number(speed) } : {}) }] },
      wiring: demoWiring(told, dictionary, bridge),
      site: { ambient: told.area === 'Kiln 1' ? 48 : 32, nominalVolts: 400, measuredVolts: told.area === 'Kiln 1' ? MAINS_VOLTS : 404.5, hertz: 50, residualMilliamps: null },
      address: told.line?.address ?? 'keypad',
      peers,
      firmware: String(told.firmware),
      baseline: bridge.read(dictionary, told, setAt(dictionary, told, NIGHTS).readings),
    });
    const report = runChecks(ground);
    for (const each of report.found)
      lines.push(`${told.tag} ${each.attention} ${each.check} [${each.at}] ${sentence(each.said as never)} {${each.values.map(({ code }) => code).join(' ')}} mends ${JSON.stringify(each.mends)}`);
    if (process.env['UNTOLD']) for (const { check, missing } of report.untold) lines.push(`   ${told.tag} untold ${check}: ${missing.join('; ')}`);
  }
  console.log(lines.join('\n'));
  expect(lines).toBeDefined();
});
