import type { MeaningProposal } from '@drive-keep/core/meanings';
import type { ColumnUse, DecimalMark } from '@drive-keep/core/formats';
import type { Fault, Parameter, RegisterGuess, VersionDifference } from '@drive-keep/core/dictionary';
import type { Reading } from '@drive-keep/core/values';
import type { FindingView } from './findings.ts';

/** One dictionary in the list of models. */
export interface ModelListing {
  readonly id: string;
  readonly model: string;
  readonly version: number;
  readonly maker: string;
  readonly name: string;
  readonly about: string;
  readonly firmware: { readonly from: string; readonly to: string };
  readonly parameters: number;
  readonly terminals: number;
  readonly hasLine: boolean;
  /** Who brought it; nothing for a shipped model. */
  readonly importedBy: string | null;
  /** Positions whose unit has it now. */
  readonly positions: number;
}

/** What has changed since another dictionary of the same model; `before` and `after` are their ids. */
export interface DictionaryChanges extends VersionDifference {
  readonly before: string;
  readonly after: string;
}

/** A parameter that was looked up. */
export interface LookUpView {
  readonly dictionary: string;
  readonly model: string;
  readonly parameter: Parameter;
  /** For the outfit that was asked for: range and default as text with unit; empty where there is none. */
  readonly range: string;
  readonly default: string;
  /** Present value at the position that was named; nothing without one or for another model. */
  readonly present: Reading | null;
  readonly presentText: string;
  /** Options by raw value, or bits by number, that are what was asked for: jog among the functions of an input. */
  readonly carrying: readonly number[];
}

/** A fault that was looked up. */
export interface FaultHitView {
  readonly dictionary: string;
  readonly model: string;
  readonly fault: Fault;
  /** Those that bear on it, with their names. */
  readonly parameters: readonly { readonly code: string; readonly name: string }[];
}

export interface SameMeaningView {
  /** Nothing for a meaning that is the very same. */
  readonly countsOtherwise: boolean;
  readonly hit: LookUpView;
}

/** What would come in as a model of the plant's own, before anything is kept. */
export interface OwnModelPreview {
  readonly fileName: string;
  readonly kind: 'table' | 'catalogue-table' | 'eds';
  /** Of a spreadsheet, in its order; empty for a file without sheets. */
  readonly sheets: readonly { readonly name: string; readonly hidden: boolean; readonly rows: number }[];
  /** The sheet that was read. */
  readonly sheet: string | null;
  /** Line of the row that names the columns, and the first lines of the file among which it can be chosen. */
  readonly headLine: number;
  readonly firstLines: readonly { readonly line: number; readonly text: string }[];
  readonly columns: readonly string[];
  /** The first rows of the file, cell by cell in the order of the columns. */
  readonly sample: readonly (readonly string[])[];
  readonly assignment: Readonly<Record<string, ColumnUse>>;
  readonly decimalMark: DecimalMark;
  /** Words in the column of the access that somebody has to explain. */
  readonly accessAsked: readonly { readonly text: string; readonly rows: number }[];
  readonly maker: string;
  readonly name: string;
  readonly about: string;
  readonly firmwareFrom: string;
  readonly firmwareTo: string;
  readonly dictionary: string;
  readonly rows: number;
  readonly parameters: readonly OwnParameterView[];
  readonly findings: readonly ListFindingView[];
  /** Findings that are not among those told. */
  readonly moreFindings: number;
  readonly acceptable: boolean;
}

/** A finding in a list, with the cell as the file has it where it can be mended on the spot. */
export interface ListFindingView extends FindingView {
  readonly cell: string | null;
}

/** How a line of the file was understood. */
export interface OwnParameterView {
  readonly line: number;
  readonly code: string;
  readonly name: string;
  readonly menu: string;
  readonly range: string;
  readonly default: string;
  readonly unit: string;
  readonly options: string;
  readonly access: string;
  /** Something of it has to be mended first. */
  readonly stopped: boolean;
}

/** `file` is that of the model. */
export interface DraftFinding extends FindingView {
  readonly file: string;
}

/** The files of a model, as they are kept. */
export interface ModelTexts {
  readonly model: string;
  readonly parameters: string;
  readonly terminals: string | null;
  readonly faults: string | null;
}

/** A model of the plant's own that is being completed. */
export interface ModelDraftListing {
  readonly id: string;
  readonly title: string;
  readonly changedBy: string;
  readonly changedAt: string;
  /** The dictionary that it was kept as the last time; nothing where it was not yet. */
  readonly keptAs: string | null;
}

export interface ModelDraftView extends ModelDraftListing {
  readonly files: ModelTexts;
  readonly version: number;
  /** What it would be kept as. */
  readonly dictionary: string;
  readonly findings: readonly DraftFinding[];
  /** What is not told, and what does not work without it; only where nothing is wrong. */
  readonly gaps: readonly FindingView[];
}

/** What a parameter of a draft may mean, until somebody has confirmed it. */
export interface MeaningProposalView extends MeaningProposal {
  readonly name: string;
  /** The trade's word for the meaning, and what it is. */
  readonly term: string;
  readonly is: string;
}

/** Words of registers, as they were read at one moment. */
export interface RegistersView {
  readonly at: string;
  readonly words: readonly {
    /** `227` or `input 227` */
    readonly register: string;
    /** Nothing where the unit refuses it. */
    readonly word: number | null;
  }[];
}

export interface RegisterSearchView {
  readonly at: string;
  readonly read: number;
  readonly refused: number;
  readonly guesses: readonly RegisterGuess[];
}

/** Every parameter of a dictionary as a unit holds it: the test of a dictionary that is new. */
export interface ReadAllView {
  readonly at: string;
  readonly answered: number;
  readonly refused: number;
  readonly outside: number;
  readonly withoutRegister: number;
  /** What the unit says of itself, each fact in words. */
  readonly identity: readonly { readonly fact: string; readonly text: string; readonly right: boolean }[];
  readonly rows: readonly {
    readonly code: string;
    readonly name: string;
    readonly register: string;
    readonly raw: number | null;
    /** With its unit; empty where it was refused. */
    readonly value: string;
    /** Why the parameter cannot hold it; empty where it can. */
    readonly outside: string;
  }[];
}
