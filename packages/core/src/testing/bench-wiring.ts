// A drive on the bench: a contact on each of its digital inputs, a sender on each analog input, the links as delivered. The
// contact of input 3 is called S3, the sender of analog input 1 is called B1.

import { findParameter, terminalsOf, type Dictionary, type Terminal } from '../dictionary/index.ts';
import type { FieldDevice, FieldSignal, Wire, WireEnd, Wiring } from '../wiring/index.ts';

export interface Bench {
  /** Kind of signal of the senders, by number. */
  readonly signals?: Readonly<Record<string, FieldSignal>>;
  /** Name of a supply arrangement; as delivered where there is none. */
  readonly arrangement?: string;
}

const terminal = (id: string): WireEnd => ({ kind: 'terminal', terminal: id });
const at = (device: string, connection: string): WireEnd => ({ kind: 'device', device, connection });
const wire = (from: WireEnd, to: WireEnd): Wire => ({ number: '', colour: '', from, to });

export function benchWiring(dictionary: Dictionary, { signals = {}, arrangement = '' }: Bench = {}): Wiring {
  const chart = dictionary.terminals;
  if (!chart) throw new Error(`${dictionary.id} has no terminals`);
  const terminals = terminalsOf(chart);
  const chosen = chart.arrangements.find(({ name, factory }) =>
    arrangement === '' ? factory : name === arrangement,
  );
  const other = sideOf(terminals, chosen?.logic === 'sourcing');
  const zero = terminals.find(({ kind, signal }) => kind === 'common' && signal === '0 V')?.id ?? '';
  const devices: FieldDevice[] = [];
  const wires: Wire[] = [];
  for (const each of terminals) {
    const number = /\d+/.exec(findParameter(dictionary, each.setBy ?? '')?.meaning ?? '')?.[0];
    if (number === undefined) continue;
    if (each.kind === 'digital-input') {
      const name = `S${number}`;
      const contacts = [{ name: '13-14', opens: false }];
      devices.push({ kind: 'contact', name, what: '', momentary: false, contacts });
      wires.push(wire(terminal(each.id), at(name, '14')), wire(at(name, '13'), terminal(other)));
    } else if (each.kind === 'analog-input') {
      const name = `B${number}`;
      const signal = signals[number] ?? '0-10-v';
      const range = { low: 0, high: 100, unit: '%' };
      devices.push({ kind: 'transmitter', name, what: '', signal, wires: 4, range, failsAt: null });
      wires.push(wire(terminal(each.id), at(name, 'out')), wire(at(name, '0'), terminal(zero)));
    }
  }
  return { devices, wires, links: linksOf(dictionary), switches: {}, arrangement };
}

/** Links from the works, and those of safe torque off where the works leave them out. */
const linksOf = ({ terminals: chart }: Dictionary): Wiring['links'] => {
  const safe = new Set(
    chart ? terminalsOf(chart).flatMap(({ id, kind }) => (kind === 'safe-input' ? [id] : [])) : [],
  );
  return (chart?.links ?? [])
    .filter(({ factory, between }) => factory || between.some((each) => safe.has(each)))
    .map(({ between }) => ({ between, place: 'drive' as const }));
};

function sideOf(terminals: readonly Terminal[], sourcing: boolean): string {
  const found = sourcing
    ? terminals.find(({ kind, volts }) => kind === 'supply' && (volts ?? 0) > 10)
    : terminals.find(
        ({ kind, name, signal }) => kind === 'common' && signal === '0 V' && !/analog/i.test(name),
      );
  return found?.id ?? '';
}
