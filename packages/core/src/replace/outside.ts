// Who else knows the old unit: a controller or a panel that reads and writes its registers, a meter at an analog output. For each
// value of the old unit where it is on the successor, how it counts there, and what is not there any more.

import type { Dictionary, Parameter } from '../dictionary/index.ts';
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
  return { lines: [...systemLines(old, fresh), ...lines], notes: notesOf(old, fresh) };
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
