// A user's own model on its way in: whatever the file was, it becomes the two files of the catalogue's format, which
// come in through the same reader as the shipped ones. Findings are told at the place of the user's file.

import { stringify } from 'yaml';
import {
  PARAMETER_COLUMNS,
  readModel,
  type DeviceNumbers,
  type Dictionary,
  type ModelFiles,
} from '../dictionary/index.ts';
import type { Finding } from '../findings/index.ts';
import { writeTable } from '../values/index.ts';

/** What no parameter table says. */
export interface OwnModelFacts {
  readonly maker: string;
  readonly name: string;
  readonly about: string;
  readonly firmwareFrom: string;
  readonly firmwareTo: string;
  readonly version: number;
  /** Of an EDS that tells them. */
  readonly device?: DeviceNumbers;
}

export type ParameterCells = Readonly<Partial<Record<(typeof PARAMETER_COLUMNS)[number], string>>>;

/** One parameter with the line of the user's file that it comes from. */
export interface OwnParameter {
  readonly line: number;
  readonly cells: ParameterCells;
}

export interface OwnModel {
  readonly files: ModelFiles;
  readonly dictionary: Dictionary | null;
  readonly findings: readonly Finding[];
}

/** The name of a model in addresses: `Mill & Sons` `X-5` is `mill-sons-x-5`. */
export const modelSlug = (maker: string, name: string): string =>
  `${maker} ${name}`
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');

/**
 * Puts the files together and checks them. `headings` tells which heading of the user's file stands behind a column of
 * the catalogue's format.
 */
export function makeOwnModel(
  facts: OwnModelFacts,
  parameters: readonly OwnParameter[],
  headings: ReadonlyMap<string, string>,
): OwnModel {
  const files: ModelFiles = {
    model: modelYaml(facts),
    parameters: parametersCsv(parameters),
    terminals: null,
  };
  const read = readModel(files);
  if (read.ok) return { files, dictionary: read.value, findings: [] };
  return {
    files,
    dictionary: null,
    findings: read.fault.map((finding) => atUsersPlace(finding, parameters, headings)),
  };
}

function modelYaml(facts: OwnModelFacts): string {
  return stringify({
    model: modelSlug(facts.maker, facts.name),
    version: facts.version,
    maker: facts.maker,
    name: facts.name,
    about: facts.about === '' ? 'A model of the plant’s own.' : facts.about,
    firmware: { from: facts.firmwareFrom, to: facts.firmwareTo },
    ...deviceYaml(facts.device),
    ratings: [{ id: 'any', number: 0, name: 'any rating', facts: {} }],
    regions: [{ id: 'any', name: 'any region', facts: {} }],
  });
}

function deviceYaml(device: DeviceNumbers | undefined): object {
  const told = Object.entries(device ?? {}).filter(([, number]) => number !== null);
  return told.length === 0
    ? {}
    : { device: Object.fromEntries(told.map(([key, number]) => [`${key}_number`, number as number])) };
}

const DEFAULTS: ParameterCells = { menu: 'All', access: 'write', restart: 'no', keeping: 'setting' };

function parametersCsv(parameters: readonly OwnParameter[]): string {
  return writeTable(
    PARAMETER_COLUMNS,
    parameters.map(({ cells }) =>
      PARAMETER_COLUMNS.map((column) => cells[column] || (DEFAULTS[column] ?? '')),
    ),
  );
}

/** The table was written with one parameter a line: its line numbers lead back to the user's. */
function atUsersPlace(
  { file, ...found }: Finding,
  parameters: readonly OwnParameter[],
  headings: ReadonlyMap<string, string>,
): Finding {
  if (file !== 'parameters.csv') return { ...found, line: 1, column: '' };
  const usersLine = (line = 1) => parameters[line - 2]?.line ?? 1;
  const column = String(found.column);
  const place = { line: usersLine(found.line), column: headings.get(column) ?? column };
  const { facts } = found;
  return {
    ...found,
    ...place,
    facts:
      'first' in facts && typeof facts.first === 'number'
        ? { ...facts, first: usersLine(facts.first) }
        : facts,
  } as Finding;
}
