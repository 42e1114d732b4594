// What the outputs of the drive tell, and whether that is so now. Nothing for what contacts alone do not decide.

import { meaningOf } from '../values/index.ts';
import type { Machine } from './machine.ts';
import type { Outcome, OutcomeKind, SetPoint } from './outcome.ts';
import type { Direction, State } from './state.ts';

interface Now {
  readonly kind: OutcomeKind;
  readonly direction: Direction | null;
  readonly setPoint: SetPoint | null;
  readonly draft: State;
  readonly fire: boolean;
  /** Only the permit keeps it from running. */
  readonly wanted: boolean;
}

export function outputsOf(machine: Machine, now: Now): Outcome['outputs'] {
  return Object.fromEntries(
    machine.outputs.map(({ number, does, inverted }) => {
      const told = does === undefined ? null : isSo(machine, does, now);
      return [number, told === null ? null : told !== inverted];
    }),
  );
}

function isSo(machine: Machine, does: string, now: Now): boolean | null {
  const runs = now.kind === 'runs';
  switch (does) {
    case 'off':
      return false;
    case 'ready':
      return now.kind !== 'fault' && now.kind !== 'locked';
    case 'running':
    case 'enabled':
      return runs;
    case 'fault':
      return now.kind === 'fault';
    case 'reverse':
      return runs && now.direction === 'reverse';
    case 'standstill':
      return now.draft.motion === 'rest';
    case 'at-speed':
      return runs && now.draft.settled;
    case 'damper-open':
      return runs || now.wanted;
    case 'fire':
      return now.fire;
    case 'brake-open':
      return runs;
    case 'above-level':
      return aboveLevel(machine, now);
    default:
      return null;
  }
}

/** Once it has settled; on the way there it depends on the ramp. */
function aboveLevel({ set }: Machine, { kind, setPoint, draft }: Now): boolean | null {
  if (kind !== 'runs') return draft.motion === 'rest' ? false : null;
  const level = set.get(meaningOf('output.level'));
  if (!draft.settled || level.kind !== 'number' || typeof setPoint?.hertz !== 'number') return null;
  return setPoint.hertz > level.value;
}
