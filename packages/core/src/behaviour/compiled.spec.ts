import { expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  anyEvent,
  anySettings,
  anyWish,
  bridge,
  modelNamed,
  outfitOf,
  readingsOf,
  SEEDED,
  wishedWiring,
} from '../testing/index.ts';
import type { FieldDevice, WireEnd, Wiring } from '../wiring/index.ts';
import { bareOf, Compiled, type CompiledStep } from './compiled.ts';
import { begin, machineOf, step, type Event } from './index.ts';
import { positionsIn, Stands } from './stands.ts';

const IDS = ['halvern-hn20@1', 'halvern-hn64@2', 'toreka-c1@1', 'toreka-c7@1', 'toreka-f3@1', 'quenby-s4@1'];
const RUNS = 25;
const EVENTS = 40;

/** A field relay wired at random: it may seal itself in, follow an output, or chatter for ever. */
const anyRelay = fc.array(fc.tuple(fc.constantFrom('A1', 'A2', '13', '14'), fc.nat()), { maxLength: 6 });

function withRelay(wiring: Wiring, wires: readonly (readonly [string, number])[]): Wiring {
  const ends = wiring.wires.flatMap(({ from, to }) => [from, to]);
  if (ends.length === 0 || wires.length === 0) return wiring;
  const relay: FieldDevice = {
    ...{ kind: 'relay', name: 'K0', what: '', volts: 24, milliamps: 50 },
    contacts: [{ name: '13-14', opens: false }],
  };
  const from = (connection: string): WireEnd => ({ kind: 'device', device: 'K0', connection });
  const fresh = wires.map(([connection, at]) => ({
    ...{ number: '', colour: '', from: from(connection) },
    to: ends[at % ends.length] as WireEnd,
  }));
  return { ...wiring, devices: [...wiring.devices, relay], wires: [...wiring.wires, ...fresh] };
}

/** Of a signal a walk knows a few shares; the law is tried with these. */
const known = (event: Event, stands: Stands, wiring: Wiring): Event | undefined => {
  if (event.kind !== 'device') return event;
  const device = wiring.devices.find(({ name }) => name === event.name);
  if (!device || stands.indexOf(event.name) === undefined) return undefined;
  const positions = positionsIn(device);
  return positions.includes(event.to)
    ? event
    : { ...event, to: positions[Math.round(event.to * (positions.length - 1))] ?? 0 };
};

it.each(IDS)('a compiled %s comes to the same states and outcomes as its step', (id) => {
  const model = modelNamed(id);
  fc.assert(
    fc.property(
      anySettings(model),
      anyWish,
      fc.constantFrom('0-10-v' as const, '4-20-ma' as const),
      anyRelay,
      fc.array(fc.array(anyEvent(model), { minLength: EVENTS, maxLength: EVENTS }), {
        minLength: 2,
        maxLength: 2,
      }),
      (settings, wish, signal, relay, sequences) => {
        const readings = new Map([...readingsOf(model, {}), ...settings]);
        const wiring = withRelay(wishedWiring(model, wish, { signals: { 1: signal, 2: signal } }), relay);
        const machine = machineOf(bridge.read(model, outfitOf(model), readings), wiring);
        const stands = new Stands(wiring.devices);
        // What the first sequence has taught it is asked again by the second.
        const compiled = new Compiled(machine, stands);
        for (const events of sequences) {
          let stepped = begin(machine);
          let at: CompiledStep = compiled.begin();
          for (const wanted of [{ kind: 'supply', on: true } as const, ...events]) {
            const event = known(wanted, stands, wiring);
            if (!event) continue;
            stepped = step(machine, stepped.state, event);
            at = compiled.step(at, compiled.action(event));
            expect([event, compiled.outcomeOf(at)]).toEqual([event, bareOf(stepped.outcome)]);
            expect(compiled.stateOf(at)).toEqual(stepped.state);
          }
        }
      },
    ),
    { ...SEEDED, numRuns: RUNS },
  );
});
