// What a wire's function alone cannot decide about its new place. Each is asked of somebody who stands at the cabinet, and what
// he says of it stands on the sheet.

import { terminalsOf, type Dictionary, type Terminal } from '../dictionary/index.ts';
import type { FieldDevice, Wiring } from '../wiring/index.ts';
import type { Move, WireMoves } from './wire-moves.ts';

export interface Caution {
  /** Stays the same as long as it is about the same thing. */
  readonly id: string;
  readonly text: string;
}

export function cautionsOf(
  old: Dictionary,
  fresh: Dictionary,
  wiring: Wiring,
  moves: WireMoves,
): readonly Caution[] {
  const all = terminalsIn(old);
  const at = (move: Move): Terminal | undefined => all.get(move.from);
  const byTerminal = [...new Map(moves.moves.map((move) => [move.from, move])).values()];
  return [
    ...(wiring.wires.length === 0 ? [NO_WIRING_KEPT] : []),
    ...byTerminal.flatMap((move) => ofTerminal(move, at(move), terminalsIn(fresh))),
    ...wiring.devices.flatMap((device) => ofDevice(device, moves)),
    CONTACTOR,
  ];
}

const terminalsIn = ({ terminals }: Dictionary): ReadonlyMap<string, Terminal> =>
  new Map((terminals ? terminalsOf(terminals) : []).map((each) => [each.id, each]));

const NO_WIRING_KEPT: Caution = {
  id: 'no-wiring',
  text: 'No wiring of this position is kept: which wire goes where cannot be told. Keep it before a hand goes in, or say how the wires will be found again.',
};

const CONTACTOR: Caution = {
  id: 'contactor',
  text: 'Is there a contactor between mains and unit, or between unit and motor? The wiring does not tell. One before the unit decides when it has its supply; one behind it must not open while the unit gives current.',
};

function ofTerminal(
  move: Move,
  terminal: Terminal | undefined,
  fresh: ReadonlyMap<string, Terminal>,
): readonly Caution[] {
  if (!terminal) return [];
  const to = move.to === null ? undefined : fresh.get(move.to);
  const where = `${move.from} to ${move.at}`;
  if (terminal.contact?.side === 'opens')
    return [
      {
        id: `rest ${move.from}`,
        text: `${where}: this contact is closed while the old unit has no supply. Does what hangs there need that, also between switching on and the first message of the successor?`,
      },
    ];
  if (terminal.kind === 'digital-output' && to && (terminal.logic !== to.logic || to.logic === null))
    return [
      {
        id: `transistor ${move.from}`,
        text: `${where}: ${logicText(terminal)} on the old unit, ${logicText(to)} on the successor. The other end of the load hangs on the other side, then.`,
      },
    ];
  if (terminal.kind === 'analog-output')
    return [
      {
        id: `meter ${move.from}`,
        text: `${where}: read the meter at a known speed before and after. ${to ? `It gets ${to.signal || 'what the successor gives'}` : 'The successor has no such output'}; it had ${terminal.signal || 'what the old unit gave'}.`,
      },
    ];
  if (terminal.kind === 'analog-input')
    return [
      {
        id: `shield ${move.from}`,
        text: `${where}: where does the shield of this signal end? On one side only, on the clamp of the new unit, unless the plant does it otherwise.`,
      },
    ];
  return [];
}

const logicText = ({ logic }: Terminal): string =>
  logic === 'sourcing'
    ? 'gives plus to its load'
    : logic === 'sinking'
      ? 'takes its load to zero'
      : 'not told which side it switches';

function ofDevice(device: FieldDevice, { logic }: WireMoves): readonly Caution[] {
  const name = device.what === '' ? device.name : `${device.name} (${device.what})`;
  if (device.kind === 'supply')
    return [
      {
        id: `shared ${device.name}`,
        text: `Does ${name} feed other drives or circuits, too? They are dead or live together with this one, and their zero is joined to it.`,
      },
    ];
  if (device.kind === 'sensor')
    return [
      {
        id: `sensor ${device.name}`,
        text: `${name} is said to be a ${device.sensor}. Measure it before it is connected: the successor trips at other resistances.`,
      },
    ];
  if (device.kind === 'controller' && logic.old !== logic.fresh)
    return [
      {
        id: `side ${device.name}`,
        text: `${name} switches its output to one side. The contacts of the successor are ${logic.fresh ?? 'not told'} and were ${logic.old ?? 'not told'}: can this output do that?`,
      },
    ];
  return [];
}
