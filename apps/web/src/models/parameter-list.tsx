// Parameters as a readable list, so that the manual stays shut: by menu, as the keypad has them, or by what they are for.

import {
  defaultOf,
  PURPOSES,
  rawOfBound,
  type Bound,
  type Dictionary,
  type Effect,
  type Facts,
  type Parameter,
  type Untold,
} from '@drive-keep/core/dictionary';
import { showRaw } from '@drive-keep/core/values';
import { Link } from 'react-router';
import { PURPOSE_NAMES } from '@drive-keep/api';
import { showEffect } from '../words/effects.ts';

export type Sorting = 'menu' | 'purpose';

export function ParameterList({
  dictionary,
  shown,
  facts,
  sorting,
}: {
  dictionary: Dictionary;
  shown: readonly Parameter[];
  facts: Facts;
  sorting: Sorting;
}) {
  if (shown.length === 0)
    return <p className="mt-4 text-soft">No parameter of {dictionary.name} has that in it.</p>;
  return (
    <>
      {groups(shown, sorting).map(({ name, parameters }) => (
        <section key={name} className="mt-3">
          <h2 className="border-b border-rule font-semibold">
            {name} <span className="font-normal text-soft">{parameters.length}</span>
          </h2>
          {parameters.map((parameter) => (
            <ParameterEntry
              key={parameter.code}
              dictionary={dictionary}
              parameter={parameter}
              facts={facts}
              effects={dictionary.effects.filter(({ when }) => when === parameter.code)}
            />
          ))}
        </section>
      ))}
    </>
  );
}

function groups(
  shown: readonly Parameter[],
  sorting: Sorting,
): readonly { readonly name: string; readonly parameters: readonly Parameter[] }[] {
  if (sorting === 'purpose') {
    return PURPOSES.map((purpose) => ({
      name: PURPOSE_NAMES[purpose],
      parameters: shown.filter((each) => each.purpose === purpose),
    })).filter(({ parameters }) => parameters.length > 0);
  }
  const menus = [...new Set(shown.map(({ menu }) => menu.join(' › ')))];
  return menus.map((name) => ({
    name,
    parameters: shown.filter(({ menu }) => menu.join(' › ') === name),
  }));
}

const ACCESS_NOTES = { write: '', 'write-stopped': 'only when stopped', read: 'read only' } as const;

function ParameterEntry({
  dictionary,
  parameter,
  facts,
  effects,
}: {
  dictionary: Dictionary;
  parameter: Parameter;
  facts: Facts;
  effects: readonly Effect[];
}) {
  const { form } = parameter;
  const show = (bound: Bound | null) => {
    const raw = bound && rawOfBound(parameter, bound, facts);
    return raw === undefined || raw === null ? '–' : showRaw(form, raw);
  };
  const told = (which: Untold) => (parameter.untold.includes(which) ? 'not told' : show(parameter[which]));
  const notes = [ACCESS_NOTES[parameter.access], parameter.restart ? 'after a restart' : ''].filter(
    (note) => note !== '',
  );
  return (
    <article className="grid gap-x-4 border-b border-rule py-1.5 md:grid-cols-[5.5rem_14rem_1fr_15rem]">
      <span className="font-mono font-semibold">{parameter.code}</span>
      <span>
        {parameter.name}
        {parameter.otherNames.length > 0 && (
          <span className="block text-sm text-soft">{parameter.otherNames.join(', ')}</span>
        )}
      </span>
      <span className="text-sm">
        {parameter.description}
        <Choices parameter={parameter} usual={defaultOf(parameter, facts)} />
        {effects.map((effect) => (
          <span key={effect.kind + effect.why} className="mt-1 block border-l-4 border-look pl-2">
            {effect.why} {showEffect(effect)}
          </span>
        ))}
        <Link
          to={`/look-up?find=${encodeURIComponent(parameter.code)}&in=${dictionary.id}`}
          className="ml-1 text-plum underline"
          aria-label={`What other models call ${parameter.code}`}
        >
          elsewhere
        </Link>
      </span>
      <span className="font-mono text-sm">
        {form.kind === 'number' && (
          <span className="block text-soft">
            {told('minimum')} to {told('maximum')}
          </span>
        )}
        {(parameter.default ?? parameter.untold.includes('default')) && (
          <span className="block">default {told('default')}</span>
        )}
        {notes.length > 0 && <span className="block font-sans text-soft">{notes.join(', ')}</span>}
      </span>
    </article>
  );
}

function Choices({ parameter: { form }, usual }: { parameter: Parameter; usual: number | undefined }) {
  if (form.kind === 'number') return null;
  const choices =
    form.kind === 'option'
      ? form.options.map(({ raw, text }) => ({ key: raw, text: `${raw} ${text}`, usual: raw === usual }))
      : form.bits.map(({ bit, text }) => ({ key: bit, text: `bit ${bit} ${text}`, usual: false }));
  return (
    <span className="block text-soft">
      {choices.map(({ key, text, usual: isUsual }, at) => (
        <span key={key} className={isUsual ? 'font-semibold text-ink' : ''}>
          {at > 0 && <span className="font-normal text-soft"> · </span>}
          {text}
        </span>
      ))}
    </span>
  );
}

export function matches(parameter: Parameter, find: string): boolean {
  const { form } = parameter;
  const choices = form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : [];
  const { code, name, otherNames, description, meaning } = parameter;
  const texts = [code, name, ...otherNames, description, meaning ?? '', ...choices.map(({ text }) => text)];
  const text = texts.join(' ').toLowerCase();
  return find
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
