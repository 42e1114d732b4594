// Where things stand in the drawing of a wiring: terminals in one strip, devices below under the first terminal to which they
// go, and a lane of its own for each conductor between them. All lengths in pixels.

import { terminalsOf, type Terminal, type TerminalChart } from '@drive-keep/core/dictionary';
import { connectionsOf, showEnd, type FieldDevice, type Wiring } from '@drive-keep/core/wiring';

export const WIDE = 66;
export const STRIP_TOP = 18;
export const STRIP_BOTTOM = 66;
export const BOX = 44;
const GAP = 16;
const LANE = 11;
const LEAST_BOX = 64;
const PER_CONNECTION = 26;
const PER_LETTER = 9;

export interface Spot {
  readonly x: number;
  readonly y: number;
}

export interface DrawingLayout {
  readonly terminals: readonly Terminal[];
  readonly boxes: readonly { readonly device: FieldDevice; readonly x: number; readonly width: number }[];
  /** By end: `12`, `S2:13`. */
  readonly spots: ReadonlyMap<string, Spot>;
  readonly laneOf: (wire: number) => number;
  readonly deviceTop: number;
  readonly width: number;
}

/** `also` are terminals that are drawn although nothing hangs there yet. */
export function layOut(chart: TerminalChart, wiring: Wiring, also: readonly string[] = []): DrawingLayout {
  const used = new Set([
    ...also,
    ...wiring.wires.flatMap(({ from, to }) => [showEnd(from), showEnd(to)]),
    ...wiring.links.flatMap(({ between }) => between),
  ]);
  const terminals = terminalsOf(chart).filter(({ id }) => used.has(id));
  const spots = new Map<string, Spot>(
    terminals.map(({ id }, at) => [id, { x: at * WIDE + WIDE / 2, y: STRIP_BOTTOM }]),
  );
  const deviceTop = STRIP_BOTTOM + 24 + wiring.wires.length * LANE;
  const boxes: { device: FieldDevice; x: number; width: number }[] = [];
  for (const device of sorted(wiring, spots)) {
    const connections = connectionsOf(device);
    const last = boxes.at(-1);
    const x = last ? last.x + last.width + GAP : 0;
    const wanted = [connections.length * PER_CONNECTION, device.name.length * PER_LETTER + 12];
    const width = Math.max(LEAST_BOX, ...wanted);
    boxes.push({ device, x, width });
    for (const [at, connection] of connections.entries())
      spots.set(`${device.name}:${connection}`, {
        x: x + ((at + 0.5) * width) / connections.length,
        y: deviceTop,
      });
  }
  const last = boxes.at(-1);
  return {
    ...{ terminals, boxes, spots, deviceTop },
    laneOf: (wire) => STRIP_BOTTOM + 14 + wire * LANE,
    width: Math.max(terminals.length * WIDE, last ? last.x + last.width : 0),
  };
}

const LINE_LETTERS = 12;

/** The name of a terminal in two lines at most, broken between words; what does not fit ends with an ellipsis. */
export function nameLines(name: string): readonly string[] {
  const lines: string[] = [];
  for (const word of name.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + word.length < LINE_LETTERS)
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  const shown = lines.slice(0, 2);
  if (lines.length > 2) shown[1] = `${shown[1]?.slice(0, LINE_LETTERS - 1) ?? ''}…`;
  return shown;
}

function sorted({ devices, wires }: Wiring, spots: ReadonlyMap<string, Spot>): readonly FieldDevice[] {
  const firstX = (device: FieldDevice): number => {
    const own = wires.filter(({ from, to }) =>
      [from, to].some((end) => end.kind === 'device' && end.device === device.name),
    );
    const places = own.flatMap(({ from, to }) =>
      [from, to].flatMap((end) => spots.get(showEnd(end))?.x ?? []),
    );
    return Math.min(...places, Number.MAX_SAFE_INTEGER);
  };
  return [...devices].sort((a, b) => firstX(a) - firstX(b));
}
