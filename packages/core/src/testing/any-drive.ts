// Random sets and events of a drive on the bench.

import fc from 'fast-check';
import type { Event } from '../behaviour/index.ts';
import { factsOf, type Code, type Dictionary } from '../dictionary/index.ts';
import { PLACES, SELECTOR } from './any-wiring.ts';
import { rawOf } from './arbitraries.ts';
import { outfitOf } from './bench-drive.ts';
import { benchWiring } from './bench-wiring.ts';

/** Parameters that have to do with what contacts, keys and signals make of it. */
export const COMMANDS =
  /^(input\.\d\.|input\.senses|command\.|speed\.|preset\.|jog\.|raise\.|direction\.|stop\.mode|stop\.faultMode|frequency\.(minimum|maximum)|analog\.\d\.(signal|loss|low|high|gain|bias|point)|skip\.|loop\.mode|trim\.|protect\.(external|sto|sensor|undervoltage)|restart\.|permit\.mode|fire\.|sto\.|unit\.optionsWord|axis\.mode|program\.inputs)/;

export const anyEvent = (model: Dictionary): fc.Arbitrary<Event> => {
  const wiring = benchWiring(model);
  const contacts = wiring.devices.filter(({ kind }) => kind === 'contact').map(({ name }) => name);
  const senders = wiring.devices.filter(({ kind }) => kind === 'transmitter').map(({ name }) => name);
  const conductors = [
    ...wiring.wires.map((_, at) => `wire ${at}`),
    ...wiring.links.map((_, at) => `link ${at}`),
  ];
  const device = (names: readonly string[], shares: readonly number[]) =>
    fc.record({
      kind: fc.constant('device' as const),
      name: fc.constantFrom(...names),
      to: fc.constantFrom(...shares),
    });
  return fc.oneof(
    { weight: 12, arbitrary: device(contacts, [0, 1]) },
    {
      weight: 2,
      arbitrary: device(
        [SELECTOR],
        Array.from({ length: PLACES }, (_, place) => place),
      ),
    },
    ...(senders.length > 0
      ? [{ weight: 3, arbitrary: device(senders, [0, 0.06, 0.12, 0.14, 0.2, 0.5, 1]) }]
      : []),
    { weight: 2, arbitrary: fc.constant({ kind: 'settle' as const }) },
    { weight: 1, arbitrary: fc.record({ kind: fc.constant('supply' as const), on: fc.boolean() }) },
    {
      weight: 2,
      arbitrary: fc.record({
        kind: fc.constant('key' as const),
        key: fc.constantFrom('run', 'stop', 'reset', 'hand', 'automatic'),
      }),
    },
    {
      weight: 1,
      arbitrary: fc.record({
        kind: fc.constant('fault' as const),
        of: fc.constantFrom('overcurrent', 'overvoltage', 'undervoltage', 'motorOverload', 'earth'),
      }),
    },
    {
      weight: 1,
      arbitrary: fc.record({
        kind: fc.constantFrom('break', 'mend', 'mend'),
        what: fc.constantFrom(...conductors),
      }),
    },
  );
};

export const anySettings = (model: Dictionary): fc.Arbitrary<ReadonlyMap<Code, number>> => {
  const facts = factsOf(model, outfitOf(model)) ?? {};
  const touched = model.parameters.filter(
    ({ meaning, access }) => meaning !== null && access !== 'read' && COMMANDS.test(meaning),
  );
  return fc
    .tuple(...touched.map((parameter) => fc.option(rawOf(parameter, facts), { nil: undefined, freq: 3 })))
    .map(
      (raws) =>
        new Map(
          touched.flatMap(({ code }, at) => {
            const raw = raws[at];
            return raw === undefined ? [] : [[code, raw] as const];
          }),
        ),
    );
};
