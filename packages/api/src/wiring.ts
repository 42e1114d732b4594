import type { FindingView } from './findings.ts';

/** A revision of a wiring: in force from when it was kept until the next one. */
export interface WiringMark {
  readonly revision: number;
  readonly savedAt: string;
  readonly savedBy: string;
  readonly why: string;
}

/** A photograph of a wiring; its picture is asked for by its id. */
export interface WiringPhotoView {
  readonly id: string;
  /** The wiring that was in force when it was added; 0 where none was kept. */
  readonly revision: number;
  readonly caption: string;
  /** In pixels. */
  readonly width: number;
  readonly height: number;
  readonly addedAt: string;
  readonly addedBy: string;
}

/** The field wiring of a position: its table row by row, and what was found of it. */
export interface WiringView {
  readonly tag: string;
  /** The model of the unit that is there now, against whose chart it is checked. */
  readonly dictionary: string;
  /** The model for which the revision was made; nothing where there is none. */
  readonly madeFor: string | null;
  /** 0 where none was kept. */
  readonly revision: number;
  /** Cells in the order of the columns row, name, colour, from, to, facts, what. */
  readonly rows: readonly (readonly string[])[];
  readonly findings: readonly FindingView[];
  /** The newest first. */
  readonly revisions: readonly WiringMark[];
  /** Devices of the same machine in the wirings of its other positions. */
  readonly elsewhere: readonly {
    readonly tag: string;
    readonly name: string;
    readonly kind: string;
    readonly facts: string;
    readonly what: string;
  }[];
}
