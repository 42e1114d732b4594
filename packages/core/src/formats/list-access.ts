// What a list says of access, in the words of six languages. What is not understood is asked: it never becomes writable.

import type { Access } from '../dictionary/index.ts';

const words = (text: string): ReadonlySet<string> => new Set(text.split('|'));

const READ = words(
  'r|ro|read|read only|read-only|readonly|const|monitor|display|display only|nur lesen|lesen|anzeige|l|lecture|lecture seule|' +
    'ls|solo lectura|lectura|sola lettura|lettura|solo lettura|alleen lezen|lezen|alleen-lezen',
);
const WRITE = words(
  'rw|r/w|wr|w/r|r+w|read/write|read write|read-write|write|always|any time|rww|rwr|lesen/schreiben|lesen und schreiben|schreiben|' +
    'l/s|l/e|lecture/écriture|lecture/ecriture|lectura/escritura|l/e|lettura/scrittura|lezen/schrijven',
);
const STOPPED = words(
  'write-stopped|stop|stopped|only when stopped|when stopped|at stop|at standstill|standstill|stop only|only at stop|r/w stop|' +
    'not while running|not when running|not during run|not during operation|no change while running|im stillstand|nur im stillstand|stillstand|' +
    "à l’arrêt|à l'arrêt|a l'arret|arrêt|en parada|en paro|parado|da fermo|a motore fermo|fermo|bij stilstand|stilstand|in stilstand",
);
const ALWAYS = words(
  'always|at any time|any time|at all times|while running|during operation|when running|immer|jederzeit|im betrieb|toujours|en marche|' +
    'siempre|en marcha|sempre|in marcia|altijd|in bedrijf',
);
const YES = words('yes|y|ja|j|oui|o|si|sí|s|true|1|✓|✔|possible|allowed|ok|enabled');
const NO = words('no|n|nein|non|nee|false|0|✗|✘|not possible|not allowed|disabled');

/** What the heading asks: `Change while running: no` is another answer than `Read only: no`. */
export type AccessQuestion = 'access' | 'running' | 'read-only' | 'writable';

/** Nothing where it is not understood, an empty cell among it. */
export function accessIn(text: string, question: AccessQuestion): Access | undefined {
  const word = text.trim().toLowerCase().replace(/\s+/g, ' ').replace(/\.$/, '');
  const answer = YES.has(word) ? true : NO.has(word) ? false : undefined;
  if (question === 'read-only' && answer !== undefined) return answer ? 'read' : 'write-stopped';
  if (question === 'writable' && answer !== undefined) return answer ? 'write-stopped' : 'read';
  if (question === 'running' && answer !== undefined) return answer ? 'write' : 'write-stopped';
  if (READ.has(word)) return 'read';
  if (isStopped(word)) return 'write-stopped';
  if (WRITE.has(word) || ALWAYS.has(word)) return 'write';
  // `R/W, at standstill only`, `read/write (always)`: both halves have to be understood.
  const [, first = '', rest = ''] = /^([^,;([–]+?)\s*[,;([–-]\s*(.+?)[\])]?$/.exec(word) ?? [];
  if (!WRITE.has(first)) return undefined;
  return isStopped(rest) ? 'write-stopped' : ALWAYS.has(rest) ? 'write' : undefined;
}

const ONLY = /\b(only|nur|seulement|uniquement|solo|sólo|solamente|alleen)\b/g;

const isStopped = (word: string): boolean =>
  STOPPED.has(word) || STOPPED.has(word.replace(ONLY, '').replace(/\s+/g, ' ').trim());
