// Sections of an INI file as CiA 306 writes them: `[Name]`, `Key=Value`, comments after a semicolon at the start of a
// line. Keys and sections are told in small letters with the line on which they stand, which no package gives.

export interface IniEntry {
  readonly line: number;
  readonly key: string;
  readonly value: string;
}

export interface IniSection {
  readonly line: number;
  readonly name: string;
  readonly entries: ReadonlyMap<string, IniEntry>;
}

export interface IniFile {
  readonly sections: ReadonlyMap<string, IniSection>;
  /** Lines that are neither section, entry, comment nor empty. */
  readonly broken: readonly number[];
  /** Sections that are there twice; the first one counts. */
  readonly twice: readonly { readonly line: number; readonly name: string }[];
  /** Keys that are there twice in a section with another value; the first one counts. */
  readonly keysTwice: readonly {
    readonly line: number;
    readonly key: string;
    readonly first: string;
    readonly value: string;
  }[];
}

/**
 * Reads sections in brackets and lines `Key=Value`, as CiA 306 has them; names and keys without regard to case. Comments
 * begin with a semicolon. Nothing is refused: what is odd is told by line, counted from 1.
 */
export function readIni(text: string): IniFile {
  const sections = new Map<string, { line: number; name: string; entries: Map<string, IniEntry> }>();
  const broken: number[] = [];
  const twice: { line: number; name: string }[] = [];
  const keysTwice: { line: number; key: string; first: string; value: string }[] = [];
  let open: Map<string, IniEntry> | undefined;
  text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .forEach((raw, at) => {
      const line = at + 1;
      const content = raw.trim();
      if (content === '' || content.startsWith(';')) return;
      const head = /^\[([^\]]*)\]$/.exec(content);
      if (head) {
        const name = (head[1] ?? '').trim();
        const key = name.toLowerCase();
        if (sections.has(key)) twice.push({ line, name });
        open = new Map();
        if (!sections.has(key)) sections.set(key, { line, name, entries: open });
        return;
      }
      const split = content.indexOf('=');
      if (split < 1 || !open) {
        broken.push(line);
        return;
      }
      const key = content.slice(0, split).trim();
      const value = content.slice(split + 1).trim();
      const first = open.get(key.toLowerCase());
      if (!first) open.set(key.toLowerCase(), { line, key, value });
      else if (first.value !== value) keysTwice.push({ line, key, first: first.value, value });
    });
  return { sections, broken, twice, keysTwice };
}

/** The value of a key, trimmed; empty where section or key are missing. */
export const iniValue = (section: IniSection | undefined, key: string): string =>
  section?.entries.get(key.toLowerCase())?.value ?? '';
