// The files of a model as one ZIP, out and in. What comes in is bounded, and nothing of it is ever written to a disk.

import type { ModelFiles } from '@drive-keep/core/dictionary';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { ProblemException } from '../problems/problem.ts';

const NAMES = {
  model: 'model.yaml',
  parameters: 'parameters.csv',
  terminals: 'terminals.yaml',
  faults: 'faults.csv',
} as const;
const KNOWN: readonly string[] = Object.values(NAMES);
/** What file managers put into a ZIP by themselves. */
const BY_THE_WAY = /(^|\/)(__MACOSX\/|\.DS_Store$|Thumbs\.db$|desktop\.ini$)/;
/** Of one file, unpacked. */
const MOST_BYTES = 4_000_000;
const MOST_ENTRIES = 40;

/** The same files give the same bytes. */
export function zipOf({ model, parameters, terminals, faults }: ModelFiles, folder: string): Buffer {
  const files = {
    [`${folder}/${NAMES.model}`]: strToU8(model),
    [`${folder}/${NAMES.parameters}`]: strToU8(parameters),
    ...(terminals ? { [`${folder}/${NAMES.terminals}`]: strToU8(terminals) } : {}),
    ...(faults ? { [`${folder}/${NAMES.faults}`]: strToU8(faults) } : {}),
  };
  return Buffer.from(zipSync(files, { mtime: new Date(2000, 0, 1) }));
}

/** Whether it is a ZIP that holds a model; a spreadsheet is a ZIP, too. */
export function isModelZip(bytes: Buffer): boolean {
  return bytes.subarray(0, 2).toString('latin1') === 'PK' && !bytes.includes('[Content_Types].xml');
}

export function filesFromZip(bytes: Buffer): ModelFiles {
  const seen = new Map<string, string>();
  const entries = unpack(bytes);
  for (const [path, content] of Object.entries(entries)) seen.set(nameIn(path, seen), text(path, content));
  const missing = [NAMES.model, NAMES.parameters].filter((name) => !seen.has(name));
  if (missing.length > 0)
    throw bad(`The ZIP does not hold ${missing.join(' and ')}. A model consists of ${KNOWN.join(', ')}.`);
  return {
    model: seen.get(NAMES.model) ?? '',
    parameters: seen.get(NAMES.parameters) ?? '',
    terminals: seen.get(NAMES.terminals) ?? null,
    faults: seen.get(NAMES.faults) ?? null,
  };
}

function unpack(bytes: Buffer): Record<string, Uint8Array> {
  let count = 0;
  try {
    return unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (name.endsWith('/') || BY_THE_WAY.test(name)) return false;
        count += 1;
        if (count > MOST_ENTRIES) throw bad(`The ZIP holds more than ${MOST_ENTRIES} files; it is no model.`);
        if (originalSize > MOST_BYTES)
          throw bad(`${name} would be larger than ${MOST_BYTES / 1_000_000} MB unpacked; it is no model.`);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof ProblemException) throw error;
    throw bad('The ZIP cannot be unpacked: it is damaged. Save it once more and choose it again.');
  }
}

/** The files lie at the top or together in one folder; nothing else is taken, and nothing left out without a word. */
function nameIn(path: string, seen: ReadonlyMap<string, string>): string {
  const parts = path.split('/');
  const strange = path.startsWith('/') || path.includes('\\') || parts.includes('..') || parts.length > 2;
  if (strange)
    throw bad(
      `The ZIP holds the strange path "${path}". Put the files of one model into it, without folders.`,
    );
  const name = parts.at(-1) ?? '';
  if (!KNOWN.includes(name))
    throw bad(`The ZIP holds "${path}", which is no file of a model. Take it out: ${KNOWN.join(', ')}.`);
  if (seen.has(name)) throw bad(`The ZIP holds ${name} twice. A ZIP is one model.`);
  return name;
}

function text(path: string, content: Uint8Array): string {
  if (content.length > MOST_BYTES) throw bad(`${path} is larger than ${MOST_BYTES / 1_000_000} MB.`);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(content);
  } catch {
    throw bad(`${path} is not text in UTF-8. Save it as UTF-8 and choose the ZIP again.`);
  }
}

const bad = (detail: string): ProblemException =>
  new ProblemException(422, 'model-zip', `${detail} Nothing was kept.`);

/** For tests and tools that look into a ZIP. */
export const textsIn = (bytes: Uint8Array): Readonly<Record<string, string>> =>
  Object.fromEntries(Object.entries(unzipSync(bytes)).map(([name, content]) => [name, strFromU8(content)]));
