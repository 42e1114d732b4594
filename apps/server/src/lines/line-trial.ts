// Tries a line before anybody relies on it: does the gateway accept a connection, who answers behind it, how fast, and are the
// frames the right ones. Nothing is written, and nothing is kept of it.

import type { LineTrial } from '@drive-keep/api';
import type { LineFault } from './drive-line.ts';
import type { LineSettings } from './line-settings.ts';
import { ModbusLine } from './modbus-line.ts';

/** Addresses that are asked beside those that are registered: most lines begin with them. */
const FIRST_ADDRESSES = Array.from({ length: 16 }, (_, at) => at + 1);
/** After so long no further address is asked. */
const PATIENCE_MS = 10_000;
/** So many answers without a gap are no coincidence. */
const EVERYONE = 16;
/** Asked with the other frames, where nobody answers with those that were chosen. */
const OTHER_FRAMES = { addresses: 3, timeoutMs: 300 };

interface Asked {
  readonly asked: number[];
  readonly answering: number[];
  readonly times: number[];
  noConnection: LineFault | undefined;
}

/** `known` are the addresses of units that are registered on the line. */
export async function tryLine(settings: LineSettings, known: readonly number[]): Promise<LineTrial> {
  const addresses = [...new Set([...known, ...FIRST_ADDRESSES])];
  const found = await ask({ ...settings, retries: 0 }, addresses);
  const { asked, answering } = found;
  if (found.noConnection) return { ...NOBODY, ...refused(settings) };
  const answerMs = median(found.times);
  const told = { connects: true, answerMs, asked, answering };
  if (answering.length === 0) return { ...told, attention: 'look', text: await nobodyText(settings, asked) };
  const ms = `Answers in ${Math.max(1, Math.round(answerMs ?? 0))} ms`;
  if (answering.length >= EVERYONE && answering.length === asked.length)
    return {
      ...told,
      attention: 'look',
      text: `${ms}, but at every address alike (${asked.length} were asked). Such a gateway, or a drive with a socket of its own, does not look at the address: register what is behind it once, with the address that its manual names.`,
    };
  const missing = known.filter((address) => asked.includes(address) && !answering.includes(address));
  const units = answering.length === 1 ? '1 unit' : `${answering.length} units`;
  return {
    ...told,
    attention: missing.length > 0 ? 'look' : 'plain',
    text: `${ms}; ${units} found at ${list(answering)} (${asked.length} addresses asked).${missing.length > 0 ? ` Registered but silent: ${list(missing)}.` : ''}`,
  };
}

const NOBODY = { connects: false, answerMs: null, asked: [], answering: [] } as const;

const refused = ({ host, port }: LineSettings) => ({
  attention: 'stop' as const,
  text: `Nothing accepts a connection at ${host}:${port}. Is the gateway switched on, are address and port right, and does this machine reach its network?`,
});

async function nobodyText(settings: LineSettings, asked: readonly number[]): Promise<string> {
  const accepts = `${settings.host}:${settings.port} accepts a connection, but nobody answers at ${list(asked)}.`;
  const framing = settings.framing === 'tcp' ? 'rtu' : 'tcp';
  const other = { ...settings, framing, timeoutMs: OTHER_FRAMES.timeoutMs, retries: 0 } as const;
  const found = await ask(other, asked.slice(0, OTHER_FRAMES.addresses));
  if (found.answering.length > 0)
    return `${accepts} With ${framing === 'rtu' ? 'RTU frames' : 'Modbus TCP'} somebody does: choose that.`;
  return `${accepts} Are the units switched on, is their bus connected, and are the gateway’s speed and parity theirs? Units may have other addresses, too: search the line for them.`;
}

async function ask(settings: LineSettings, addresses: readonly number[]): Promise<Asked> {
  const line = new ModbusLine(settings);
  const found: Asked = { asked: [], answering: [], times: [], noConnection: undefined };
  const until = performance.now() + PATIENCE_MS;
  try {
    for (const address of addresses) {
      if (performance.now() > until) break;
      const began = performance.now();
      const answer = await line.read(address, 0, 1);
      if (!answer.ok && answer.fault.code === 'no-connection') {
        found.noConnection = answer.fault;
        break;
      }
      found.asked.push(address);
      // A unit that refuses the register is there all the same.
      if (!answer.ok && answer.fault.code !== 'refused' && answer.fault.code !== 'busy') continue;
      found.answering.push(address);
      found.times.push(performance.now() - began);
    }
  } finally {
    line.close();
  }
  return found;
}

function median(numbers: readonly number[]): number | null {
  return [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)] ?? null;
}

/** `1 to 4, 7` of numbers in any order. */
function list(numbers: readonly number[]): string {
  const runs: [number, number][] = [];
  for (const each of [...numbers].sort((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last && each <= last[1] + 1) last[1] = each;
    else runs.push([each, each]);
  }
  return runs.map(([from, to]) => (from === to ? `${from}` : `${from} to ${to}`)).join(', ');
}
