// What an option or a bit means whatever the model, as the catalogue writes it in brackets behind its text:
// `[coast]`, `[run.reverse when command.wiring=separate, else direction]`, `[stop.mode=ramp-dc else ramp]`.
// `parseOptionMeaning(formatOptionMeaning(x)) = x`.

import { meaningOf, type Meaning } from './meaning.ts';

export interface Choice {
  /** Meaning of what is chosen. */
  readonly meaning: Meaning;
  /** The option that is chosen. */
  readonly is: string;
}

/** What an option says of another meaning than its parameter's, or a bit at all; `else` is said by a bit that is clear. */
export interface Saying extends Choice {
  readonly else?: string;
}

export interface OptionMeaning {
  /** What the option itself is, such as `run.forward`. */
  readonly meaning?: string;
  /** What it is instead while another setting stands so. */
  readonly instead?: { readonly meaning: string; readonly when: Choice };
  readonly says?: readonly Saying[];
}

const OWN = /^[\w.-]+$/;
const WHEN = /^([\w.-]+) when ([\w.-]+)=([\w.-]+)$/;
const ELSE = /^else ([\w.-]+)$/;
const SAYS = /^([\w.-]+)=([\w.-]+?)(?: else ([\w.-]+))?$/;

/** The text between the brackets; nothing where it is not understood whole. */
export function parseOptionMeaning(text: string): OptionMeaning | undefined {
  const pieces = text.split(',').map((piece) => piece.trim());
  let found: OptionMeaning = {};
  for (let at = 0; at < pieces.length; at += 1) {
    const piece = pieces[at] ?? '';
    const when = WHEN.exec(piece);
    const saying = SAYS.exec(piece);
    if (when) {
      const [, meaning = '', other = '', is = ''] = when;
      const otherwise = ELSE.exec(pieces[at + 1] ?? '')?.[1];
      if (otherwise === undefined || found.meaning !== undefined) return undefined;
      found = { ...found, meaning: otherwise, instead: { meaning, when: { meaning: meaningOf(other), is } } };
      at += 1;
    } else if (saying) {
      const [, name = '', is = '', otherwise] = saying;
      const meaning = meaningOf(name);
      const said = otherwise === undefined ? { meaning, is } : { meaning, is, else: otherwise };
      found = { ...found, says: [...(found.says ?? []), said] };
    } else if (OWN.test(piece) && found.meaning === undefined) found = { ...found, meaning: piece };
    else return undefined;
  }
  return found;
}

export function formatOptionMeaning({ meaning, instead, says = [] }: OptionMeaning): string {
  const own =
    meaning === undefined
      ? []
      : [
          instead
            ? `${instead.meaning} when ${instead.when.meaning}=${instead.when.is}, else ${meaning}`
            : meaning,
        ];
  const others = says.map((each) => `${each.meaning}=${each.is}${each.else ? ` else ${each.else}` : ''}`);
  return [...own, ...others].join(', ');
}
