// What people have said on the sheet of a replacement, as it is kept and sent: the last word of each line counts.

import type { Code } from '../dictionary/index.ts';
import type { Answer } from './settings.ts';
import type { Sayings } from './sheet.ts';

export const SAYING_PARTS = ['setting', 'terminal', 'point', 'task'] as const;
export type SayingPart = (typeof SAYING_PARTS)[number];

export type SaidValue =
  /** `setting`: one of the choices of the question. */
  | { readonly kind: 'choice'; readonly at: number }
  /** `setting`: own raw values of the successor. */
  | { readonly kind: 'own'; readonly values: Readonly<Record<string, number>>; readonly reason: string }
  /** `setting`, `point`: it is right as it stands. */
  | { readonly kind: 'accepted'; readonly reason: string }
  /** `terminal`: where the wires of this old terminal go, or this one of them. */
  | { readonly kind: 'to'; readonly terminal: string }
  /** `task`: done, with what there is to say about it. */
  | { readonly kind: 'done'; readonly note: string };

export interface Saying {
  readonly part: SayingPart;
  readonly line: string;
  /** Nothing: taken back. */
  readonly value: SaidValue | null;
}

const KINDS: Readonly<Record<SayingPart, readonly SaidValue['kind'][]>> = {
  setting: ['choice', 'own', 'accepted'],
  terminal: ['to'],
  point: ['accepted'],
  task: ['done'],
};

/** A value of another part says nothing of this one. */
export const belongs = ({ part, value }: Saying): boolean =>
  value === null || KINDS[part].includes(value.kind);

/** The last word of each line, in the order in which they came. */
export function sayingsFrom(said: readonly Saying[]): Sayings {
  const answers = new Map<string, Answer>();
  const terminals = new Map<string, string>();
  const accepted = new Map<string, string>();
  for (const { part, line, value } of said) {
    // What was said before is of no account, whatever comes now.
    if (part === 'setting') answers.delete(line);
    if (part === 'terminal') terminals.delete(line);
    if (part === 'point') accepted.delete(line);
    if (value?.kind === 'to' && part === 'terminal') terminals.set(line, value.terminal);
    if (value?.kind === 'accepted' && part === 'point') accepted.set(line, value.reason);
    if (part === 'setting' && value) {
      const answer = answerFrom(value);
      if (answer) answers.set(line, answer);
    }
  }
  return { answers, terminals, accepted };
}

function answerFrom(value: SaidValue): Answer | undefined {
  switch (value.kind) {
    case 'choice':
    case 'accepted':
      return value;
    case 'own':
      return {
        ...value,
        values: new Map(Object.entries(value.values)) as ReadonlyMap<string, number> as ReadonlyMap<
          Code,
          number
        >,
      };
    default:
      return undefined;
  }
}
