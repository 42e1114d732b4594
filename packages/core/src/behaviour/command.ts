// Whether the drive is commanded to run, which way, and by what: contacts in each wiring, jog, enable, keys.

import type { Need, StopWay } from './outcome.ts';
import type { Direction } from './state.ts';
import type { Turn } from './turn.ts';

export interface Command {
  /** Nothing while nothing commands it. */
  readonly direction: Direction | null;
  readonly jogs: boolean;
  /** What would start it. */
  readonly needs: readonly Need[];
  readonly stops?: StopWay;
}

const NONE: Command = { direction: null, jogs: false, needs: ['start'] };

/** A maintained command at the terminals, whether it counts or not. */
export function isStanding(turn: Turn): boolean {
  if (!commandedByTerminals(turn, turn.commandSource() ?? '')) return false;
  if (turn.machine.rules.list('priority').includes('enable')) return turn.has('enable');
  const wiring = turn.choice('command.wiring') ?? 'separate';
  if (wiring === 'three-wire') return false;
  return turn.has('run.forward') || (wiring !== 'direction' && turn.has('run.reverse'));
}

/** Also while they come from elsewhere, on a model whose run contacts are not dead then. */
function commandedByTerminals({ machine }: Turn, source: string): boolean {
  const dead = machine.rules.list('source.dead');
  return source.startsWith('source.terminals') || !(dead.includes('run') || dead.includes('enable'));
}

export function commandOf(turn: Turn): Command {
  const source = turn.commandSource();
  if (source === undefined) {
    turn.missing.push({ kind: 'value', what: 'command.source' });
    return NONE;
  }
  turn.reasons.push({ code: 'commands-from', source });
  const byTerminals = source.startsWith('source.terminals');
  const run = commandedByTerminals(turn, source) ? runOf(turn) : runElsewhere(turn, source);
  const jog = jogOf(turn, run, byTerminals);
  return jog ?? run;
}

/** In hand the contacts are dead; where the set has commands come from elsewhere they are dead in automatic, too. */
function deadBecause(turn: Turn): 'hand' | 'commands-elsewhere' {
  const chosen = turn.choice('command.source') ?? '';
  return turn.draft.hand && chosen.startsWith('source.terminals') ? 'hand' : 'commands-elsewhere';
}

/** Commands come from the keypad, a network or a program: contacts that are dead then are told. */
function runElsewhere(turn: Turn, source: string): Command {
  const why = deadBecause(turn);
  for (const does of ['run.forward', 'run.reverse', 'enable', 'stop']) turn.ignore(does, why);
  if (source !== 'source.keypad') return { ...NONE, needs: [] };
  if (!turn.draft.keyed) {
    turn.reasons.push({ code: 'no-command' });
    return { ...NONE, needs: ['key'] };
  }
  turn.reasons.push({ code: 'keyed' });
  return { ...NONE, direction: 'forward', needs: [] };
}

function runOf(turn: Turn): Command {
  const { machine, draft } = turn;
  if (machine.rules.list('priority').includes('enable')) return enabled(turn);
  const wiring = turn.choice('command.wiring') ?? 'separate';
  if (wiring === 'three-wire') return byButtons(turn);
  const asked = wiring === 'direction' ? runAndDirection(turn) : bothContacts(turn);
  const standing = isStanding(turn);
  if (draft.waits && standing) {
    turn.reasons.push({ code: 'waits' });
    return { ...NONE, needs: ['release'] };
  }
  if (asked === null && !standing) turn.reasons.push({ code: 'no-command' });
  return { ...NONE, direction: asked, needs: asked === null ? ['start'] : [] };
}

/** A contact for each direction. */
function bothContacts(turn: Turn): Direction | null {
  const allowed = turn.choice('direction.allowed') ?? 'both';
  const ignores = turn.machine.rules.answer('reverse.forbidden') === 'ignore';
  const may = (direction: Direction) => allowed === 'both' || allowed === direction;
  const asks = (direction: Direction) => turn.has(`run.${direction}`) && (may(direction) || !ignores);
  for (const direction of ['forward', 'reverse'] as const)
    if (turn.has(`run.${direction}`) && !may(direction)) turn.ignore(`run.${direction}`, 'forbidden');
  const [forward, reverse] = [asks('forward'), asks('reverse')];
  if (forward && reverse) return together(turn, may);
  const direction = forward ? 'forward' : reverse ? 'reverse' : null;
  if (direction === null || !may(direction)) return null;
  turn.because(`run.${direction}`);
  return direction;
}

function together(turn: Turn, may: (direction: Direction) => boolean): Direction | null {
  const rule = turn.rule('run.both');
  turn.because('run.forward');
  turn.because('run.reverse');
  if (rule === 'stop') {
    turn.reasons.push({ code: 'both-directions' });
    return null;
  }
  const first = turn.before.on.includes('run.reverse') && !turn.before.on.includes('run.forward');
  const holds = turn.before.on.includes('run.forward') && turn.before.on.includes('run.reverse');
  const reverse = rule === 'first' && (first || (holds && turn.before.motion === 'reverse'));
  const direction: Direction = reverse ? 'reverse' : 'forward';
  return may(direction) ? direction : null;
}

function runAndDirection(turn: Turn): Direction | null {
  if (!turn.has('run.forward')) return null;
  turn.because('run.forward');
  const asks: Direction = turn.has('direction') ? 'reverse' : 'forward';
  if (asks === 'reverse') turn.because('direction');
  return allowedOr(turn, asks, 'direction');
}

/** A direction that is not allowed is a stop, or as if its contact were not there. */
function allowedOr(turn: Turn, asks: Direction, does: string): Direction | null {
  const allowed = turn.choice('direction.allowed') ?? 'both';
  if (allowed === 'both' || allowed === asks) return asks;
  turn.ignore(does, 'forbidden');
  const other: Direction = asks === 'forward' ? 'reverse' : 'forward';
  return turn.rule('reverse.forbidden') === 'ignore' && allowed === other ? other : null;
}

/** Buttons latch; the stop contact keeps the latch while it is on. */
function byButtons(turn: Turn): Command {
  const { draft, before } = turn;
  const needsOn = turn.rule('stop.input') === 'needs-on';
  const free = turn.has('stop') === needsOn;
  if (!free) {
    draft.latch = null;
    turn.reasons.push({ code: 'stop-open' });
    return { ...NONE, needs: ['cause', 'start'] };
  }
  const pressed = (does: string) => turn.has(does) && !before.on.includes(does);
  // A button that is held while the stop contact closes, the supply comes or a fault is reset is no start.
  if (before.supply && turn.event?.kind !== 'supply') {
    const held = before.stopping !== null || before.fault !== null;
    if (pressed('run.forward') && !held) draft.latch = 'forward';
    if (pressed('run.reverse') && !held) draft.latch = 'reverse';
  }
  if (draft.latch === null || draft.fault !== null) {
    turn.reasons.push({ code: 'no-command' });
    return NONE;
  }
  turn.because('stop');
  turn.reasons.push({ code: 'latched', direction: draft.latch });
  const turned = turn.has('direction') && turn.rule('three-wire.direction') === 'acts';
  const asks: Direction = turned ? 'reverse' : draft.latch;
  const direction = allowedOr(turn, asks, turned ? 'direction' : `run.${asks}`);
  return { ...NONE, direction, needs: direction === null ? ['start'] : [] };
}

/** A servo axis runs while it is enabled, and not into a limit switch. */
function enabled(turn: Turn): Command {
  if (!turn.has('enable')) {
    turn.reasons.push({ code: 'no-command' });
    return NONE;
  }
  if (turn.draft.waits) {
    turn.reasons.push({ code: 'waits' });
    return { ...NONE, needs: ['release'] };
  }
  turn.because('enable');
  return blocked(turn, { ...NONE, direction: 'forward', needs: [] });
}

function blocked(turn: Turn, command: Command): Command {
  const [forward, reverse] = [turn.has('limit.positive'), turn.has('limit.negative')];
  const both = turn.rule('limit-switch') === 'both-directions';
  const own = command.direction === 'forward' ? forward : reverse;
  const stands = (forward && reverse) || (both ? forward || reverse : own);
  if (!stands || command.direction === null) return command;
  turn.because(forward ? 'limit.positive' : 'limit.negative');
  turn.reasons.push({ code: 'limit', direction: command.direction });
  return { ...command, direction: null, stops: 'quick-stop', needs: ['cause'] };
}

function jogOf(turn: Turn, run: Command, byTerminals: boolean): Command | undefined {
  const [ahead, back] = [turn.has('jog'), turn.has('jog.reverse')];
  if (!ahead && !back) return undefined;
  const does = ahead ? 'jog' : 'jog.reverse';
  const dead = !byTerminals && turn.machine.rules.list('source.dead').includes('jog');
  if (dead || turn.draft.hand) {
    turn.ignore(does, deadBecause(turn));
    return undefined;
  }
  const starts = turn.rule('jog.starts');
  if (starts === 'itself-enabled') return jogAxis(turn, run, ahead, back);
  if (starts === 'with-run' && run.direction === null) {
    turn.ignore(does, 'needs-run');
    return undefined;
  }
  // Running counts, not what is commanded: a jog that has begun goes on when run joins it.
  const running = turn.draft.motion !== 'rest' && !turn.draft.jogging;
  if (running && turn.rule('jog.while-running') === 'ignore') {
    turn.ignore(does, 'running');
    return undefined;
  }
  turn.because(does);
  const kept = running || starts === 'with-run' ? run.direction : null;
  return { ...run, direction: kept ?? 'forward', jogs: true, needs: [] };
}

function jogAxis(turn: Turn, run: Command, ahead: boolean, back: boolean): Command | undefined {
  const does = ahead ? 'jog' : 'jog.reverse';
  if (run.direction === null && !turn.has('enable')) {
    turn.ignore(does, 'not-enabled');
    return undefined;
  }
  if ((turn.choice('axis.mode') ?? '').startsWith('cyclic')) {
    turn.ignore(does, 'cyclic');
    return undefined;
  }
  if (ahead && back) return { ...run, direction: null, needs: ['cause'] };
  turn.because(does);
  return { ...blocked(turn, { ...run, direction: ahead ? 'forward' : 'reverse' }), jogs: true };
}
