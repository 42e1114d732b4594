// A model's dictionary as a readable list, in the order of its menus; for looking things up without a drive.

import {
  rawOfBound,
  type Bound,
  type Dictionary,
  type Facts,
  type Parameter,
} from '@drive-keep/core/dictionary';
import { showRaw } from '@drive-keep/core/values';
import { useParams, useSearchParams } from 'react-router';
import { useDictionary } from '../api/queries.ts';
import { AddressField } from '../ui/address-inputs.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';

export function ModelPage() {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: dictionary, error } = useDictionary(id);
  if (error) return <ProblemNotice error={error} />;
  if (!dictionary) return null;
  const find = params.get('find') ?? '';
  const rating = dictionary.ratings.find((each) => each.id === params.get('rating')) ?? dictionary.ratings[0];
  const region = dictionary.regions.find((each) => each.id === params.get('region')) ?? dictionary.regions[0];
  const set = (key: string, value: string) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (value === '') next.delete(key);
        else next.set(key, value);
        return next;
      },
      { replace: true },
    );
  const shown = dictionary.parameters.filter((parameter) => matches(parameter, find));
  return (
    <Page title={dictionary.name}>
      <h1 className="text-2xl font-semibold">
        {dictionary.maker} {dictionary.name}
      </h1>
      <p className="text-soft">
        {dictionary.about} Firmware {dictionary.firmware.from} to {dictionary.firmware.to},{' '}
        {dictionary.parameters.length} parameters.
      </p>
      <div className="sticky top-0 mt-3 flex flex-wrap gap-3 bg-ground py-2">
        <AddressField
          value={find}
          change={(text) => set('find', text)}
          aria-label="Find a parameter"
          placeholder="Code, name, option or word"
          className="w-72"
        />
        <Choice
          label="Rating"
          value={rating?.id}
          options={dictionary.ratings}
          choose={(value) => set('rating', value)}
        />
        <Choice
          label="Region"
          value={region?.id}
          options={dictionary.regions}
          choose={(value) => set('region', value)}
        />
        <span className="self-center text-sm text-soft">{shown.length} shown</span>
      </div>
      <ParameterList dictionary={dictionary} shown={shown} facts={{ ...rating?.facts, ...region?.facts }} />
    </Page>
  );
}

function Choice({
  label,
  value,
  options,
  choose,
}: {
  label: string;
  value: string | undefined;
  options: readonly { readonly id: string; readonly name: string }[];
  choose: (id: string) => void;
}) {
  return (
    <label className="flex items-center gap-2 text-sm">
      {label}
      <select
        value={value}
        onChange={(event) => choose(event.target.value)}
        className="h-10 rounded border border-rule bg-sheet px-2 max-lg:h-12"
      >
        {options.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

function ParameterList({
  dictionary,
  shown,
  facts,
}: {
  dictionary: Dictionary;
  shown: readonly Parameter[];
  facts: Facts;
}) {
  const menus = [...new Set(shown.map((parameter) => parameter.menu.join(' › ')))];
  if (shown.length === 0)
    return <p className="mt-4 text-soft">No parameter of {dictionary.name} has that in it.</p>;
  return (
    <>
      {menus.map((menu) => (
        <section key={menu} className="mt-3">
          <h2 className="border-b border-rule font-semibold">{menu}</h2>
          {shown
            .filter((parameter) => parameter.menu.join(' › ') === menu)
            .map((parameter) => (
              <ParameterEntry key={parameter.code} parameter={parameter} facts={facts} />
            ))}
        </section>
      ))}
    </>
  );
}

function ParameterEntry({ parameter, facts }: { parameter: Parameter; facts: Facts }) {
  const { form } = parameter;
  const show = (bound: Bound | null) => {
    const raw = bound && rawOfBound(parameter, bound, facts);
    return raw === undefined || raw === null ? '–' : showRaw(form, raw);
  };
  return (
    <article className="grid gap-x-4 border-b border-rule py-1.5 md:grid-cols-[4rem_15rem_1fr_15rem]">
      <span className="font-mono font-semibold">{parameter.code}</span>
      <span>{parameter.name}</span>
      <span className="text-sm">
        {parameter.description}
        {form.kind !== 'number' && (
          <span className="block text-soft">
            {form.kind === 'option'
              ? form.options.map(({ raw, text }) => `${raw} ${text}`).join(' · ')
              : form.bits.map(({ bit, text }) => `bit ${bit} ${text}`).join(' · ')}
          </span>
        )}
      </span>
      <span className="font-mono text-sm">
        {form.kind === 'number' && (
          <span className="block text-soft">
            {show(parameter.least)} to {show(parameter.greatest)}
          </span>
        )}
        {parameter.default && <span>default {show(parameter.default)}</span>}
      </span>
    </article>
  );
}

function matches(parameter: Parameter, find: string): boolean {
  const { form } = parameter;
  const choices = form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : [];
  const { code, name, otherNames, description, meaning } = parameter;
  const texts = [
    code,
    name,
    ...otherNames,
    description,
    meaning ?? '',
    ...choices.map((choice) => choice.text),
  ];
  const text = texts.join(' ').toLowerCase();
  return find
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
