// What is wrong with a model's files. Every finding names its file, line and column; the text is made here, once.

export type ModelFile = 'model.yaml' | 'parameters.csv' | 'terminals.yaml';

/** `column` is a heading in a table, and a count of characters in YAML. */
interface Place {
  readonly file: ModelFile;
  readonly line: number;
  readonly column: string | number;
}

export type ModelFinding = Place &
  (
    | { readonly code: 'yaml-broken'; readonly why: string }
    | { readonly code: 'fact-missing'; readonly path: string; readonly wanted: string }
    | { readonly code: 'table-empty' }
    | { readonly code: 'table-broken' }
    | { readonly code: 'column-missing' }
    | { readonly code: 'column-twice' }
    | { readonly code: 'cell-empty' }
    | { readonly code: 'cell-unknown'; readonly text: string; readonly allowed: string }
    | { readonly code: 'cell-unreadable'; readonly text: string; readonly wanted: string }
    | { readonly code: 'code-twice'; readonly text: string; readonly first: number }
    | { readonly code: 'meaning-twice'; readonly text: string; readonly first: number }
    | { readonly code: 'code-unknown'; readonly text: string }
    | { readonly code: 'effect-other-step'; readonly when: string; readonly text: string }
    | { readonly code: 'effect-region-unknown'; readonly text: string }
    | { readonly code: 'fact-unknown'; readonly fact: string; readonly outfit: string }
    | { readonly code: 'least-above-greatest'; readonly outfit: string }
    | { readonly code: 'default-outside'; readonly outfit: string }
    | { readonly code: 'register-twice'; readonly address: number; readonly first: number }
    | { readonly code: 'register-too-narrow'; readonly address: number }
  );

/** One sentence that says what is wrong and what to do. */
export function describeModelFinding(finding: ModelFinding): string {
  switch (finding.code) {
    case 'yaml-broken':
      return `This is not YAML: ${finding.why}.`;
    case 'fact-missing':
      return `"${finding.path}" must be ${finding.wanted}.`;
    case 'table-empty':
      return 'The table is empty. The first line names the columns.';
    case 'table-broken':
      return 'The table cannot be read from here on: a quotation mark is not closed.';
    case 'column-missing':
      return `The column "${finding.column}" is missing. Add it to the first line.`;
    case 'column-twice':
      return `The column "${finding.column}" is there twice. Keep one of them.`;
    case 'cell-empty':
      return `"${finding.column}" is empty and must not be.`;
    case 'cell-unknown':
      return `"${finding.text}" is not known as ${finding.column}; use one of: ${finding.allowed}.`;
    case 'cell-unreadable':
      return `"${finding.text}" cannot be read as ${finding.column}; write ${finding.wanted}.`;
    case 'code-twice':
      return `The code ${finding.text} is already on line ${finding.first}. Keep one of them.`;
    case 'meaning-twice':
      return `The meaning ${finding.text} is already on line ${finding.first}. Keep one of them.`;
    case 'code-unknown':
      return `There is no parameter ${finding.text} in this dictionary. Check its spelling.`;
    case 'effect-other-step':
      return `${finding.when} cannot narrow ${finding.text}: they are not numbers of the same unit and resolution.`;
    case 'effect-region-unknown':
      return `There is no region "${finding.text}" in this file. Check its spelling.`;
    case 'fact-unknown':
      return `The fact "${finding.fact}" is missing, or does not fit the resolution, for ${finding.outfit}. State it in model.yaml.`;
    case 'least-above-greatest':
      return `The least value is above the greatest for ${finding.outfit}. Exchange or correct them.`;
    case 'default-outside':
      return `The default is outside the range for ${finding.outfit}. Correct the default or the range.`;
    case 'register-twice':
      return `Register ${finding.address} already belongs to line ${finding.first}. Correct one address.`;
    case 'register-too-narrow':
      return `The range does not fit the register at ${finding.address}; give it 32 bits or a sign.`;
  }
}
