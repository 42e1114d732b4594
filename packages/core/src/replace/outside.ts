// Who else knows the old unit: a controller or a panel that reads and writes its registers, a meter at an analog output. For each
// value of the old unit where it is on the successor, how it counts there, and what is not there any more.

import {
  COMMAND_BITS,
  type CommandBit,
  type CommandWord,
  type Dictionary,
  type Parameter,
} from '../dictionary/index.ts';
import { formatResolution, type Form } from '../values/index.ts';

export interface RegisterLine {
  readonly old: RegisterFacts;
  /** Nothing where the successor does not tell it. */
  readonly fresh: RegisterFacts | null;
}

export interface RegisterFacts {
  readonly what: string;
  readonly code: string;
  readonly register: string;
  /** What one count is: `0.01 Hz`, `option`. */
  readonly counts: string;
  readonly words: string;
}

export interface OutsideTable {
  readonly lines: readonly RegisterLine[];
  /** Facts that hold for all of them. */
  readonly notes: readonly string[];
}

/** Nothing where the old model has no line of its own. */
export function outsideTable(old: Dictionary, fresh: Dictionary): OutsideTable | null {
  if (!old.line) return null;
  const lines = old.parameters.flatMap((parameter): RegisterLine[] => {
    if (!parameter.register || parameter.meaning === null || !isAskedFor(parameter)) return [];
    const other = fresh.parameters.find(({ meaning }) => meaning === parameter.meaning);
    return [{ old: factsOf(parameter, old), fresh: other ? factsOf(other, fresh) : null }];
  });
  return {
    lines: [...systemLines(old, fresh), ...commandLines(old, fresh), ...lines],
    notes: [...notesOf(old, fresh), ...commandNotes(old, fresh)],
  };
}

/** What a controller reads or writes while it works; the other settings go over with the set. */
const isAskedFor = ({ keeping, purpose }: Parameter): boolean =>
  keeping === 'monitor' ||
  keeping === 'counter' ||
  purpose === 'monitor' ||
  purpose === 'communication' ||
  purpose === 'commands';

function factsOf({ code, name, register, form }: Parameter, { line }: Dictionary): RegisterFacts {
  const long = register?.width === 32;
  const order = line?.wordOrder === 'low-first' ? 'low word first' : 'high word first';
  return {
    ...{ what: name, code, counts: countsOf(form) },
    register: register ? String(register.address) : 'none',
    words: [long ? `two registers, ${order}` : 'one register', register?.signed ? 'signed' : '']
      .filter(Boolean)
      .join(', '),
  };
}

function countsOf(form: Form): string {
  if (form.kind === 'number') return `${formatResolution(form.resolution)} ${form.unit}`.trim();
  return form.kind === 'option' ? 'number of an option' : 'bits';
}

function systemLines(old: Dictionary, fresh: Dictionary): readonly RegisterLine[] {
  const status = ({ line }: Dictionary): RegisterFacts | null =>
    line?.status
      ? {
          ...{ what: 'Status word', code: '', register: String(line.status.register), words: 'one register' },
          counts: `bit ${line.status.running} runs, bit ${line.status.fault} fault`,
        }
      : null;
  const fault = ({ line, name }: Dictionary): RegisterFacts | null =>
    line?.fault
      ? {
          ...{ what: 'Active fault', code: '', register: String(line.fault.active), words: 'one register' },
          counts: `fault number of the ${name}`,
        }
      : null;
  return [status, fault].flatMap((facts) => {
    const own = facts(old);
    return own ? [{ old: own, fresh: facts(fresh) }] : [];
  });
}

const BITS: Readonly<Record<CommandBit, string>> = {
  ...{ run: 'Run', reverse: 'Reverse, beside run', run_forward: 'Run forward', run_reverse: 'Run reverse' },
  ...{ enable: 'Enable', fast_stop: 'Fast stop', reset: 'Reset of a fault' },
};

/** What says the same on a unit that counts its commands the other way. */
const INSTEAD: Readonly<Partial<Record<CommandBit, readonly CommandBit[]>>> = {
  run: ['run_forward'],
  reverse: ['run_reverse'],
  run_forward: ['run'],
  run_reverse: ['run', 'reverse'],
};

/** The command word bit by bit, and the register of the speed. */
function commandLines({ line: old }: Dictionary, { line: fresh }: Dictionary): readonly RegisterLine[] {
  if (!old?.command) return [];
  const { bits, register, speed } = old.command;
  const now = fresh?.command ?? null;
  const lines = COMMAND_BITS.flatMap((name): RegisterLine[] => {
    const bit = bits[name];
    return bit === undefined
      ? []
      : [{ old: commandFacts(register, [[name, bit]]), fresh: now && sameCommand(now, name) }];
  });
  const speedFacts = (told: CommandWord['speed'] | undefined): RegisterFacts | null =>
    told
      ? {
          ...{ what: 'Speed from the line', code: '', register: String(told.register), counts: told.counts },
          words: 'one register',
        }
      : null;
  const before = speedFacts(speed);
  return before ? [...lines, { old: before, fresh: speedFacts(now?.speed) }] : lines;
}

function sameCommand({ register, bits }: CommandWord, name: CommandBit): RegisterFacts | null {
  const named = [[name], INSTEAD[name] ?? []].find(
    (each) => each.length > 0 && each.every((bit) => bits[bit] !== undefined),
  );
  return named
    ? commandFacts(
        register,
        named.map((bit) => [bit, bits[bit] ?? 0]),
      )
    : null;
}

const commandFacts = (register: number, bits: readonly (readonly [CommandBit, number])[]): RegisterFacts => ({
  ...{
    what: `Command word: ${bits.map(([name]) => BITS[name]).join(' and ')}`,
    code: '',
    words: 'one register',
  },
  register: String(register),
  counts: bits.map(([, bit]) => `bit ${bit}`).join(' and '),
});

function commandNotes({ line: old, name }: Dictionary, { line: fresh, name: successor }: Dictionary) {
  if (!old?.command)
    return [`The model ${name} does not tell its command word: look into the controller's program.`];
  if (!fresh) return [];
  if (!fresh.command) return [`The model ${successor} does not tell its command word: its manual does.`];
  const [before, now] = [old.command.bits, fresh.command.bits];
  const turns = before.run !== undefined && now.run_forward !== undefined;
  const back = before.run_forward !== undefined && now.run !== undefined;
  const own = (['enable', 'fast_stop'] as const).filter(
    (bit) => before[bit] === undefined && now[bit] !== undefined,
  );
  return [
    ...(turns ? ['Run and direction become one bit for each direction: never both at once.'] : []),
    ...(back ? ['One bit for each direction becomes run and direction.'] : []),
    ...own.map(
      (bit) =>
        `New in the command word: ${BITS[bit].toLowerCase()}, bit ${now[bit]}. Its manual says when it has to be on.`,
    ),
  ];
}

function notesOf(old: Dictionary, fresh: Dictionary): readonly string[] {
  const [before, now] = [old.line, fresh.line];
  if (!now) return [`The ${fresh.name} has no line: nothing can read or write it from elsewhere.`];
  if (!before) return [];
  return [
    ...(before.largestRead !== now.largestRead
      ? [`One request reads at most ${now.largestRead} registers (before: ${before.largestRead}).`]
      : []),
    ...(now.only16 && !before.only16 ? ['Single registers are written with function 16, too.'] : []),
    ...(now.save && !before.save
      ? [
          `What is written is lost with the supply until ${now.save.value} is written to register ${now.save.register}.`,
        ]
      : []),
    ...(before.save && !now.save
      ? ['Every write is kept at once: do not write in a loop what does not change.']
      : []),
    ...now.reserved.map(({ from, to }) => `Registers ${from} to ${to} refuse to be read.`),
  ];
}
