// A cross-reference changed line by line, as text: what a person has written around the line, comments too, stays as it was.
// Law: reading `withRule(text, side, code, rule)` gives that rule for the code and the rules of `text` for all others.

import { isMap, isScalar, isSeq, parseDocument, type Document, type YAMLSeq } from 'yaml';
import type { Dictionary } from '../dictionary/index.ts';

export type RuleSide = 'old' | 'new';

/** Values as the keypad of the successor shows them. */
export type ShownValues = Readonly<Record<string, string>>;

export interface WrittenRule {
  readonly does: 'left' | 'carried' | 'check' | 'stays' | 'fixed' | 'asked';
  readonly why: string;
  readonly sets?: ShownValues;
  readonly ask?: string;
  readonly choices?: readonly { readonly text: string; readonly sets: ShownValues }[];
}

/** For a pair for which nobody has written one. */
export const emptyCrossReference = (old: Dictionary, fresh: Dictionary): string =>
  `# What the bridge cannot know of a ${old.name} that a ${fresh.name} replaces. Values as the keypad of the ${fresh.name} shows them.
# Format: docs/formats/cross-reference.schema.json
old: ${old.model}
new: ${fresh.model}
version: 1
settings: []
successor: []
`;

/** The rule of one parameter put in place of what is said of it; nothing takes it out. Throws where the text is no YAML. */
export function withRule(text: string, side: RuleSide, code: string, rule: WrittenRule | null): string {
  const document = parseDocument(text);
  if (document.errors.length > 0) throw new Error('not YAML');
  const list = listOf(document, side);
  takeOut(list, side, code);
  if (rule) list.add(document.createNode(lineOf(side, code, rule)));
  list.flow = list.items.length === 0;
  return document.toString({ lineWidth: 0 });
}

function listOf(document: Document, side: RuleSide): YAMLSeq {
  const name = side === 'old' ? 'settings' : 'successor';
  const found = document.get(name, true);
  if (isSeq(found)) return found;
  const made = document.createNode([]) as unknown as YAMLSeq;
  document.set(name, made);
  return made;
}

/** A line of several codes keeps the others. */
function takeOut(list: YAMLSeq, side: RuleSide, code: string): void {
  list.items = list.items.filter((item) => {
    if (!isMap(item)) return true;
    const named: unknown = item.get(side, true);
    if (isScalar(named)) return String(named.value) !== code;
    if (!isSeq(named)) return true;
    named.items = named.items.filter((each) => !(isScalar(each) && String(each.value) === code));
    return named.items.length > 0;
  });
}

const lineOf = (side: RuleSide, code: string, { does, why, sets, ask, choices }: WrittenRule): object => ({
  [side]: code,
  does,
  ...(does === 'fixed' ? { sets: sets ?? {} } : {}),
  ...(does === 'asked'
    ? {
        ask: ask ?? '',
        choices: (choices ?? []).map((choice) => ({
          text: choice.text,
          ...(Object.keys(choice.sets).length > 0 ? { sets: choice.sets } : {}),
        })),
      }
    : {}),
  why,
});

/** `05C = 1; 064 = 3.0`, as somebody types it; nothing where a piece of it is no pair. */
export function readShownValues(text: string): ShownValues | undefined {
  const pieces = text
    .split(/[;\n]/)
    .map((each) => each.trim())
    .filter((each) => each !== '');
  const pairs = pieces.map((each) => /^(\S+)\s*=\s*(\S.*)$/.exec(each));
  if (pairs.includes(null)) return undefined;
  const found = pairs.flatMap((pair): [string, string][] =>
    pair?.[1] && pair[2] ? [[pair[1], pair[2].trim()]] : [],
  );
  return new Set(found.map(([code]) => code)).size === found.length ? Object.fromEntries(found) : undefined;
}

export const showShownValues = (values: ShownValues): string =>
  Object.entries(values)
    .map(([code, value]) => `${code} = ${value}`)
    .join('; ');
