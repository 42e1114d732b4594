// How deep groups stand in each other, told without reading the text as YAML: the reader goes one call deeper for each, and a
// small file of nothing but brackets would end the whole process. No model comes near the limit.

const MOST = 500;
/** Columns; each level of indented groups takes at least one. */
const MOST_INDENT = 1000;

/** The line, counted from 1, from which on a text is deeper than anything can be read; nothing for all others. */
export function tooDeepAt(text: string): number | undefined {
  let open = 0;
  for (const [at, line] of text.split('\n').entries()) {
    const outside = line.replace(/'(?:[^']|'')*'|"(?:[^"\\]|\\.)*"|\s#.*$/g, '');
    for (const sign of outside) {
      if (sign === '[' || sign === '{') open += 1;
      else if (sign === ']' || sign === '}') open = Math.max(0, open - 1);
      if (open > MOST) return at + 1;
    }
    const begin = /^[\s?:-]*/.exec(line)?.[0] ?? '';
    const marks = begin.replace(/\s/g, '').length;
    if (marks > MOST || begin.length > MOST_INDENT) return at + 1;
  }
  return undefined;
}
