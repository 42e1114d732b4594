// model.yaml as a text of sections: one section is shown and edited at a time, everything else stays letter for letter,
// comments too. A form changes single facts of the same text.

import { isMap, isScalar, parseDocument, type Document } from 'yaml';
import type { ModelSection } from './gaps.ts';
import { tooDeepAt } from './yaml-depth.ts';

/** Keys of model.yaml that a section holds. */
const KEYS: Readonly<Partial<Record<ModelSection, readonly string[]>>> = {
  names: ['model', 'version', 'maker', 'name', 'about', 'firmware'],
  ratings: ['ratings'],
  regions: ['regions'],
  line: ['line'],
  conventions: ['conventions', 'unit_current', 'fixed'],
  behaviour: ['behaviour'],
  derating: ['derating'],
  keypad: ['keypad'],
  procedures: ['procedures'],
  effects: ['effects'],
};

interface Piece {
  /** Nothing for what stands before the first key. */
  readonly key: string | null;
  readonly text: string;
}

/** The text of a section; empty where the file has none of its keys. */
export function sectionText(model: string, section: ModelSection): string {
  const keys = KEYS[section] ?? [];
  return piecesOf(model)
    .filter(({ key }) => key !== null && keys.includes(key))
    .map(({ text }) => text)
    .join('');
}

/** The file with another text in the place of a section; at the end where it had none. */
export function withSection(model: string, section: ModelSection, text: string): string {
  const keys = KEYS[section] ?? [];
  const pieces = piecesOf(model);
  const whole = text === '' || text.endsWith('\n') ? text : `${text}\n`;
  const first = pieces.findIndex(({ key }) => key !== null && keys.includes(key));
  const others = (part: readonly Piece[]) =>
    part
      .filter(({ key }) => key === null || !keys.includes(key))
      .map((piece) => piece.text)
      .join('');
  if (first === -1) return `${ended(model)}${whole}`;
  return `${ended(others(pieces.slice(0, first)))}${whole}${others(pieces.slice(first))}`;
}

/** The section in which a line of the file stands, counted from 1; nothing for what stands in none. */
export function sectionAt(model: string, line: number): ModelSection | undefined {
  let last = 0;
  for (const { key, text } of piecesOf(model)) {
    last += text.split('\n').length - 1;
    if (line > last) continue;
    const owner = Object.entries(KEYS).find(([, keys]) => key !== null && keys.includes(key));
    return owner?.[0] as ModelSection | undefined;
  }
  return undefined;
}

const ended = (text: string): string => (text === '' || text.endsWith('\n') ? text : `${text}\n`);

/** The file cut before each of its keys; comments right above a key belong to it. The pieces make up the whole. */
function piecesOf(model: string): readonly Piece[] {
  const lines = model.split(/(?<=\n)/);
  const pieces: { key: string | null; text: string }[] = [{ key: null, text: '' }];
  let above = '';
  for (const line of lines) {
    const key = /^([A-Za-z_]\w*)\s*:/.exec(line)?.[1];
    if (key !== undefined) {
      pieces.push({ key, text: above + line });
      above = '';
    } else if (line.startsWith('#')) above += line;
    else {
      const last = pieces.at(-1);
      if (last) last.text += above + line;
      above = '';
    }
  }
  const last = pieces.at(-1);
  if (last) last.text += above;
  return pieces;
}

export type FactPath = readonly (string | number)[];

/** What a text of YAML holds, as plain data; nothing where it cannot be read. */
export function factsIn(text: string): unknown {
  const document = documentIn(text);
  try {
    return document?.toJS({ maxAliasCount: 0 });
  } catch {
    // Aliases are not followed: a few of them would blow a small file up to gigabytes.
    return undefined;
  }
}

function documentIn(text: string): Document | undefined {
  if (tooDeepAt(text) !== undefined) return undefined;
  const document = parseDocument(text);
  return document.errors.length > 0 ? undefined : document;
}

/**
 * The text with another fact at a place, or without it where `value` is undefined; comments and the order of all else stay.
 * Nothing where the text cannot be read: then it is mended as a text first.
 */
export function withFact(text: string, path: FactPath, value: unknown): string | undefined {
  const document = documentIn(text);
  if (!document) return undefined;
  if (value === undefined) document.deleteIn(path);
  else {
    grow(document, path);
    const there = document.getIn(path, true);
    // A comment beside a value stays with its place.
    if (isScalar(there) && typeof value !== 'object') there.value = value;
    else document.setIn(path, document.createNode(value));
  }
  if (document.contents === null || (isMap(document.contents) && document.contents.items.length === 0))
    return '';
  return document.toString({ lineWidth: 110, singleQuote: true });
}

/** Groups that stand empty (`line:` and nothing after it) become groups, so that a fact can be put into them. */
function grow(document: Document, path: FactPath): void {
  for (let length = 0; length < path.length; length += 1) {
    const above = path.slice(0, length);
    const node = length === 0 ? document.contents : document.getIn(above, true);
    const empty = node === undefined || node === null || (isScalar(node) && node.value === null);
    if (!empty) continue;
    const fresh = document.createNode(typeof path[length] === 'number' ? [] : {});
    if (length === 0) document.contents = fresh;
    else document.setIn(above, fresh);
  }
}
