// What changed between two dictionaries of one model: added, gone, and for what is in both the facts that differ.

import type { Dictionary } from './dictionary.ts';
import { findParameter } from './dictionary.ts';
import type { Bound, Code, Parameter, Untold } from './parameter.ts';

/** What can differ between two versions of one parameter; the text and the register are under `other`. */
export const CHANGED_FACTS = [
  'name',
  'menu',
  'range',
  'default',
  'resolution',
  'unit',
  'options',
  'access',
  'restart',
  'register',
  'meaning',
  'description',
] as const;
export type ChangedFact = (typeof CHANGED_FACTS)[number];

export interface VersionDifference {
  readonly added: readonly Parameter[];
  readonly gone: readonly Parameter[];
  readonly changed: readonly {
    readonly code: Code;
    readonly before: Parameter;
    readonly after: Parameter;
    readonly facts: readonly ChangedFact[];
  }[];
  readonly same: number;
}

/** In the order of the menus; what is gone in the order of the older dictionary. */
export function compareVersions(before: Dictionary, after: Dictionary): VersionDifference {
  const both = after.parameters.flatMap((parameter) => {
    const old = findParameter(before, parameter.code);
    return old
      ? [{ code: parameter.code, before: old, after: parameter, facts: changedFacts(old, parameter) }]
      : [];
  });
  const changed = both.filter(({ facts }) => facts.length > 0);
  return {
    added: after.parameters.filter(({ code }) => !findParameter(before, code)),
    gone: before.parameters.filter(({ code }) => !findParameter(after, code)),
    changed,
    same: both.length - changed.length,
  };
}

function changedFacts(before: Parameter, after: Parameter): readonly ChangedFact[] {
  const facts = { before: factsOfParameter(before), after: factsOfParameter(after) };
  return CHANGED_FACTS.filter((fact) => facts.before[fact] !== facts.after[fact]);
}

function factsOfParameter(parameter: Parameter): Readonly<Record<ChangedFact, string>> {
  const { form, register } = parameter;
  const number = form.kind === 'number' ? form : undefined;
  const told = (which: Untold): string => {
    const bound = parameter[which];
    return parameter.untold.includes(which) ? '?' : bound ? showBound(bound) : '';
  };
  return {
    name: parameter.name,
    menu: parameter.menu.join(' / '),
    // Options and bits have no range of their own: it follows from their list.
    range: number ? `${told('minimum')} ${told('maximum')}` : '',
    default: told('default'),
    resolution: number ? `${number.resolution.step} ${number.resolution.places}` : form.kind,
    unit: number?.unit ?? '',
    options: JSON.stringify(form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : []),
    access: parameter.access,
    restart: String(parameter.restart),
    register: register ? `${register.address} ${register.width} ${register.signed}` : '',
    meaning: parameter.meaning ?? '',
    description: parameter.description,
  };
}

const showBound = (bound: Bound): string => ('raw' in bound ? String(bound.raw) : `@${bound.fact}`);
