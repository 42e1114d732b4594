// A model's files (model.yaml, parameters.csv and, where there are such, terminals.yaml and faults.csv) to a dictionary, or to all
// that is wrong with them.

import { finding, type Finding } from '../findings/index.ts';
import { fail, ok, type Result } from '../values/index.ts';
import {
  defaultOf,
  factsOf,
  limitsOf,
  rawOfBound,
  refusalOf,
  type Dictionary,
  type DictionaryId,
  type Facts,
} from './dictionary.ts';
import type { Effect, EffectLine } from './effect.ts';
import { readModelFacts } from './model-facts.ts';
import type { Bound, Parameter } from './parameter.ts';
import { readFaults } from './read-faults.ts';
import { readParameters, type ParameterLine } from './read-parameters.ts';
import { readTerminals } from './read-terminals.ts';

export interface ModelFiles {
  readonly model: string;
  readonly parameters: string;
  readonly terminals?: string | null;
  readonly faults?: string | null;
}

const FILE = 'parameters.csv';

/**
 * Reads and checks a model. Findings come in file order; there is a dictionary only if there are none. Cells beyond the
 * headings are refused; a file that was kept with some stays readable without them.
 */
export function readModel(
  files: ModelFiles,
  surplus: 'refused' | 'told' = 'refused',
): Result<Dictionary, readonly Finding[]> {
  const findings: Finding[] = [];
  const { lines, codes: known } = readParameters(files.parameters, findings, surplus);
  const facts = readModelFacts(files.model, known, findings);
  const terminals = files.terminals ? readTerminals(files.terminals, known, findings) : undefined;
  const faults = files.faults ? readFaults(files.faults, known, findings, surplus) : [];
  if (!facts || findings.length > 0) return fail(findings);
  const dictionary: Dictionary = {
    ...facts,
    id: `${facts.model}@${facts.version}` as DictionaryId,
    revision: 1,
    terminals: terminals ?? null,
    faults,
    effects: facts.effects.map((effect) => resolveEffect(effect, lines)),
    parameters: lines.map(({ parameter }) => parameter),
  };
  checkRegisters(lines, dictionary.line?.command?.register ?? null, findings);
  checkEffects(dictionary, facts.effects, findings);
  checkOutfits(dictionary, lines, findings);
  return findings.length > 0 ? fail(findings) : ok(dictionary);
}

/** An effect that puts back names single codes, or a menu whose settings it puts back. */
function resolveEffect({ effect, menu }: EffectLine, lines: readonly ParameterLine[]): Effect {
  if (effect.kind !== 'puts-back' || menu === null) return effect;
  const inMenu = ({ parameter }: ParameterLine) =>
    parameter.menu[0] === menu &&
    parameter.default !== null &&
    parameter.access !== 'read' &&
    parameter.code !== effect.when;
  const ofMenu = lines.filter(inMenu).map(({ parameter }) => parameter.code);
  return { ...effect, codes: [...ofMenu, ...effect.codes] };
}

/** What one parameter holds is a bound of another only where both count alike. */
function checkEffects(
  { parameters, regions }: Dictionary,
  effects: readonly EffectLine[],
  findings: Finding[],
): void {
  const form = (code: string) => JSON.stringify(formOf(parameters.find((each) => each.code === code)));
  for (const { at, effect } of effects) {
    const place = { file: 'model.yaml', ...at };
    const others = effect.kind === 'narrows' ? effect.codes : [];
    for (const text of others.filter((each) => form(each) !== form(effect.when)))
      findings.push(finding('stop', place, 'effect-other-step', { when: effect.when, text }));
    const named = effect.kind === 'chooses' ? effect.options.flatMap(({ region }) => region ?? []) : [];
    for (const text of named.filter((each) => regions.every(({ id }) => id !== each)))
      findings.push(finding('stop', place, 'effect-region-unknown', { text }));
  }
}

/** Unit and resolution of a number; something of its own for all else. */
const formOf = (parameter: Parameter | undefined): unknown =>
  parameter?.form.kind === 'number' ? [parameter.form.unit, parameter.form.resolution] : parameter?.code;

/** Nothing that is written as a setting may be what a controller runs the unit with. */
function checkRegisters(lines: readonly ParameterLine[], command: number | null, findings: Finding[]): void {
  const owner = new Map<number, number>();
  for (const { line, parameter } of lines) {
    if (!parameter.register) continue;
    const { address, width } = parameter.register;
    for (const at of width === 32 ? [address, address + 1] : [address]) {
      if (at === command && parameter.access !== 'read')
        findings.push(
          finding('stop', { file: FILE, line, column: 'register' }, 'command-register-written', {
            address: at,
          }),
        );
      const first = owner.get(at);
      if (first !== undefined)
        findings.push(
          finding('stop', { file: FILE, line, column: 'register' }, 'register-twice', { address: at, first }),
        );
      else owner.set(at, line);
    }
  }
}

/** Ranges and defaults must hold for every rating in every region, not just for the first. */
function checkOutfits(dictionary: Dictionary, lines: readonly ParameterLine[], findings: Finding[]): void {
  for (const rating of dictionary.ratings) {
    for (const region of dictionary.regions) {
      const facts = factsOf(dictionary, { rating: rating.id, region: region.id }) ?? {};
      const outfit = `${rating.id}, ${region.id}`;
      for (const { line, parameter } of lines) checkOutfit(parameter, line, facts, outfit, findings);
    }
  }
}

function checkOutfit(
  parameter: Parameter,
  line: number,
  facts: Facts,
  outfit: string,
  findings: Finding[],
): void {
  const before = findings.length;
  const at = (column: string) => ({ file: FILE, line, column });
  for (const column of ['minimum', 'maximum', 'default'] as const) {
    const bound = parameter[column];
    if (!bound || !('fact' in bound) || rawOfBound(parameter, bound, facts) !== undefined) continue;
    findings.push(finding('stop', at(column), 'fact-unknown', { fact: bound.fact, outfit }));
  }
  if (findings.length > before) return;
  const { minimum, maximum } = limitsOf(parameter, facts);
  if (minimum > maximum) {
    findings.push(finding('stop', at('minimum'), 'minimum-above-maximum', { outfit }));
    return;
  }
  const raw = defaultOf(parameter, facts);
  if (raw !== undefined && refusalOf(parameter, raw, facts)) {
    findings.push(finding('stop', at('default'), 'default-outside', { outfit }));
  }
  const fits = [parameter.minimum, parameter.maximum].every((bound) => fitsRegister(parameter, bound, facts));
  if (parameter.register && !fits) {
    const { address } = parameter.register;
    findings.push(finding('stop', at('register'), 'register-too-narrow', { address }));
  }
}

function fitsRegister(parameter: Parameter, bound: Bound, facts: Facts): boolean {
  const raw = rawOfBound(parameter, bound, facts) ?? 0;
  if (!parameter.register) return true;
  const { width, signed } = parameter.register;
  const minimum = signed ? -(2 ** (width - 1)) : 0;
  const maximum = signed ? 2 ** (width - 1) - 1 : 2 ** width - 1;
  return raw >= minimum && raw <= maximum;
}
