// The duty's own table: what every contact must do, held against what the drive does by its set and its wires. Each line begins
// anew: everything at rest, the supply on.

import { begin, step, type Event, type Machine, type Outcome, type Stepped } from '../behaviour/index.ts';
import type { Must, StartingPoint, TableRow } from './starting-point.ts';
import type { Told } from './told.ts';

export interface TableResult {
  readonly row: TableRow;
  /** Of the speed, in Hz; nothing where none is told, or it is not a number. */
  readonly hertz: number | null;
  readonly outcome: Outcome;
  readonly state: Stepped['state'];
  readonly passed: boolean;
}

/** Speeds are kept in steps: rpm, tenths of a percent. Half a percent more or less is the same speed. */
const NEAR_HERTZ = 0.1;
const NEAR_SHARE = 0.005;

export function runTable(machine: Machine, point: StartingPoint, told: Told): readonly TableResult[] {
  return point.table
    .filter(({ when }) => told.holds(when))
    .map((row) => {
      const { state, outcome } = bringAbout(machine, row.act);
      const hertz = hertzOf(row, told);
      const passed = kindOf(outcome) === row.must && isSpeed(machine, row, hertz, outcome);
      return { row, hertz, outcome, state, passed };
    });
}

function bringAbout(machine: Machine, act: readonly string[]): Stepped {
  const start = step(machine, begin(machine).state, { kind: 'supply', on: true });
  let stepped = step(machine, start.state, { kind: 'settle' });
  for (const text of act)
    for (const event of eventsOf(machine, text)) stepped = step(machine, stepped.state, event);
  return step(machine, stepped.state, { kind: 'settle' });
}

/** `S1 on`, `S1 off`, `S1 press`, `S2 to 1`, `A1 at 50`, `break A1`, `supply off`. */
export function eventsOf(machine: Machine, text: string): readonly Event[] {
  const { wiring } = machine;
  const [name = '', how = '', more = ''] = text.split(' ');
  if (name === 'supply') return [{ kind: 'supply', on: how === 'on' }];
  if (name === 'break') return [{ kind: 'break', what: `at ${how}:${brokenAt(machine, how)}` }];
  const put = (to: number): Event => ({ kind: 'device', name, to });
  switch (how) {
    case 'on':
      return [put(1)];
    case 'off':
      return [put(0)];
    case 'press':
      return [put(1), { kind: 'settle' }, put(0)];
    case 'at':
      return [put(Number(more) / 100)];
    default: {
      const device = wiring.devices.find((each) => each.name === name);
      const places = device?.kind === 'selector' ? device.places : [];
      return [
        put(
          Math.max(
            0,
            places.findIndex((each) => each.name === more),
          ),
        ),
      ];
    }
  }
}

/** The connection of a device at an input of the drive, whose wire breaks. */
function brokenAt({ wiring, inputs, analogs }: Machine, name: string): string {
  const listened = new Set([...inputs, ...analogs].map(({ terminal }) => terminal));
  const ends = wiring.wires.flatMap(({ from, to }) => [
    [from, to],
    [to, from],
  ]);
  const found = ends.find(
    ([own, other]) =>
      own?.kind === 'device' &&
      own.device === name &&
      other?.kind === 'terminal' &&
      listened.has(other.terminal),
  )?.[0];
  return found?.kind === 'device' ? found.connection : '';
}

export function kindOf({ kind, direction }: Outcome): Must | 'other' {
  switch (kind) {
    case 'runs':
      return direction ?? 'other';
    case 'stopped':
    case 'fault':
    case 'locked':
    case 'not-permitted':
      return kind;
    default:
      return 'other';
  }
}

function hertzOf({ at }: TableRow, told: Told): number | null {
  if (at?.kind === 'hertz') return told.number(at.is) ?? null;
  if (at?.kind !== 'between') return null;
  const [low, high] = [told.number(at.low), told.number(at.high)];
  return low === undefined || high === undefined ? null : low + (high - low) * at.share;
}

function isSpeed(machine: Machine, { at }: TableRow, hertz: number | null, { setPoint }: Outcome): boolean {
  if (at === null) return true;
  if (!setPoint) return false;
  const { from } = setPoint;
  if (at.kind === 'from') return at.source === 'any' || from.kind === at.source;
  // What was not answered cannot be missed, but a speed has to come from somewhere.
  if (hertz === null || setPoint.hertz === null) return setPoint.hertz !== null;
  // The ends of a signal are kept in the steps of their model.
  const input =
    from.kind === 'analog' ? machine.analogs.find(({ number }) => number === from.number) : undefined;
  const near = NEAR_HERTZ + NEAR_SHARE * Math.abs(hertz) + (input?.curve?.step ?? 0) / 2;
  return Math.abs(setPoint.hertz - hertz) <= near;
}
