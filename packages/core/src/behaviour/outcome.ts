// What a drive does after an event, and why: facts only; sentences are made of them in say-outcome.ts.

import type { Code, RuleName } from '../dictionary/index.ts';
import type { Direction, Fault } from './state.ts';

export type OutcomeKind =
  | 'no-supply'
  | 'locked'
  | 'fault'
  | 'not-permitted'
  | 'stopped'
  | 'runs'
  /** Field relays and the drive's own outputs switch each other on and off for ever. */
  | 'oscillates'
  /** Something that would decide it is not known; `missing` names it. */
  | 'untold';

export type StopWay = 'coast' | 'ramp' | 'ramp-dc' | 'quick-stop' | 'torque-off';

/** Where the speed comes from. */
export type SpeedFrom =
  | { readonly kind: 'keypad' | 'jog' | 'network' | 'program' | 'fire' | 'none' }
  | { readonly kind: 'preset'; readonly number: number }
  | { readonly kind: 'analog'; readonly number: string; readonly lost: 'hold' | 'preset-1' | null }
  | { readonly kind: 'raised'; readonly raised: string }
  | { readonly kind: 'loop' }
  | { readonly kind: 'minimum' };

export interface SetPoint {
  readonly from: SpeedFrom;
  /** In Hz, never below 0; nothing where it is not a number that the set gives. */
  readonly hertz: number | null;
  readonly limited: 'minimum' | 'maximum' | 'skip' | null;
  readonly codes: readonly Code[];
}

/** What has to happen before it can run again. */
export type Need = 'release' | 'reset' | 'cause' | 'start' | 'key' | 'automatic';

export type Reason =
  | {
      readonly code: 'input';
      readonly terminal: string;
      readonly does: string;
      readonly closed: boolean;
      readonly devices: readonly string[];
      readonly set: Code | null;
    }
  | { readonly code: 'commands-from'; readonly source: string }
  | {
      readonly code: 'speed-from';
      readonly from: SpeedFrom;
      readonly hertz: number | null;
      readonly set: readonly Code[];
    }
  | { readonly code: 'limited'; readonly by: 'minimum' | 'maximum' | 'skip'; readonly hertz: number }
  | { readonly code: 'latched'; readonly direction: Direction }
  | { readonly code: 'keyed' }
  | { readonly code: 'fault'; readonly fault: Fault }
  | { readonly code: 'safe-open'; readonly terminals: readonly string[] }
  | { readonly code: 'waits' }
  | { readonly code: 'no-command' }
  | { readonly code: 'both-directions' }
  | { readonly code: 'limit'; readonly direction: Direction }
  | { readonly code: 'no-permit' }
  | { readonly code: 'stop-open' };

/** What was asked for and has no effect, and why. */
export interface Ignored {
  readonly does: string;
  readonly terminal: string;
  readonly why:
    | 'commands-elsewhere'
    | 'hand'
    | 'running'
    | 'needs-run'
    | 'forbidden'
    | 'waits'
    | 'not-enabled'
    | 'presets-not-source'
    | 'loop'
    | 'cyclic';
}

export type Missing =
  | { readonly kind: 'rule'; readonly rule: RuleName }
  /** A meaning or a function that the set does not tell. */
  | { readonly kind: 'value'; readonly what: string }
  /** A signal of another kind than the input takes. */
  | { readonly kind: 'signal'; readonly terminal: string; readonly sent: string; readonly wanted: string };

export interface Outcome {
  readonly kind: OutcomeKind;
  readonly direction: Direction | null;
  readonly setPoint: SetPoint | null;
  readonly ramps: 'first' | 'second' | 'jog' | null;
  /** How it stops now, or would when the command goes. */
  readonly stops: StopWay | null;
  readonly needs: readonly Need[];
  /** By number; nothing where it cannot be told from contacts. */
  readonly outputs: Readonly<Record<string, boolean | null>>;
  readonly reasons: readonly Reason[];
  readonly ignored: readonly Ignored[];
  readonly missing: readonly Missing[];
}
