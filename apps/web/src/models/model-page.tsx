// A model, for looking things up without a drive: its parameters, terminals, faults and ratings, and how it works.

import type { Dictionary } from '@drive-keep/core/dictionary';
import { Unanswered } from '../ui/answer.tsx';
import { useParams, useSearchParams } from 'react-router';
import { useDictionary } from '../api/queries.ts';
import { Choice } from '../ui/choice.tsx';
import { AddressField } from '../ui/address-inputs.tsx';
import { Page } from '../ui/page.tsx';
import { FaultList } from './fault-list.tsx';
import { ModelWays } from './model-ways.tsx';
import { HowItWorks, Ratings } from './model-facts.tsx';
import { matches, ParameterList, type Sorting } from './parameter-list.tsx';
import { TerminalCharts } from './terminal-chart.tsx';

type Part = 'parameters' | 'terminals' | 'faults' | 'ratings' | 'ways';
type Change = (key: string, value: string) => void;

export function ModelPage() {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: dictionary, error } = useDictionary(id);
  if (!dictionary) return <Unanswered error={error} what="this model" />;
  const change: Change = (key, value) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (value === '') next.delete(key);
        else next.set(key, value);
        return next;
      },
      { replace: true },
    );
  const part = (params.get('part') ?? 'parameters') as Part;
  return (
    <Page title={dictionary.name}>
      <h1 className="text-2xl font-semibold">
        {dictionary.maker} {dictionary.name}
      </h1>
      <p className="text-soft">
        {dictionary.about} Firmware {dictionary.firmware.from} to {dictionary.firmware.to}, dictionary version{' '}
        {dictionary.version}.
      </p>
      <ModelWays dictionary={dictionary} />
      <PartChoice dictionary={dictionary} part={part} change={change} />
      <ModelPart dictionary={dictionary} part={part} params={params} change={change} />
    </Page>
  );
}

function PartChoice({ dictionary, part, change }: { dictionary: Dictionary; part: Part; change: Change }) {
  const parts: readonly { key: Part; name: string }[] = [
    { key: 'parameters', name: `${dictionary.parameters.length} parameters` },
    ...(dictionary.terminals ? [{ key: 'terminals' as const, name: 'Terminals' }] : []),
    ...(dictionary.faults.length > 0
      ? [{ key: 'faults' as const, name: `${dictionary.faults.length} faults` }]
      : []),
    {
      key: 'ratings',
      name: dictionary.ratings.length === 1 ? 'Rating' : `${dictionary.ratings.length} ratings`,
    },
    { key: 'ways', name: 'How it works' },
  ];
  return (
    <div role="group" aria-label="Part of the model" className="mt-3 flex flex-wrap gap-1.5">
      {parts.map(({ key, name }) => (
        <button
          key={key}
          type="button"
          aria-pressed={key === part}
          onClick={() => change('part', key === 'parameters' ? '' : key)}
          className={`rounded-full border px-3 py-0.5 max-lg:py-2.5 ${key === part ? 'border-plum bg-plum-wash font-semibold' : 'border-rule bg-sheet'}`}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

function ModelPart({
  dictionary,
  part,
  params,
  change,
}: {
  dictionary: Dictionary;
  part: Part;
  params: URLSearchParams;
  change: Change;
}) {
  const rating = dictionary.ratings.find(({ id }) => id === params.get('rating')) ?? dictionary.ratings[0];
  const region = dictionary.regions.find(({ id }) => id === params.get('region')) ?? dictionary.regions[0];
  const facts = { ...rating?.facts, ...region?.facts };
  if (part === 'terminals' && dictionary.terminals)
    return <TerminalCharts chart={dictionary.terminals} dictionary={dictionary} facts={facts} />;
  if (part === 'faults')
    return (
      <FaultList
        dictionary={dictionary}
        find={params.get('find') ?? ''}
        change={(text) => change('find', text)}
      />
    );
  if (part === 'ratings') return <Ratings dictionary={dictionary} />;
  if (part === 'ways') return <HowItWorks dictionary={dictionary} />;
  const find = params.get('find') ?? '';
  const sorting: Sorting = params.get('by') === 'purpose' ? 'purpose' : 'menu';
  const shown = dictionary.parameters.filter((parameter) => matches(parameter, find));
  return (
    <>
      <div className="sticky top-0 mt-2 flex flex-wrap items-center gap-3 bg-ground py-2">
        <AddressField
          value={find}
          change={(text) => change('find', text)}
          aria-label="Find a parameter"
          placeholder="Code, name, option or word"
          className="w-72"
        />
        {dictionary.ratings.length > 1 && (
          <Choice
            label="Rating"
            value={rating?.id}
            options={dictionary.ratings}
            onChange={({ target }) => change('rating', target.value)}
          />
        )}
        {dictionary.regions.length > 1 && (
          <Choice
            label="Region"
            value={region?.id}
            options={dictionary.regions}
            onChange={({ target }) => change('region', target.value)}
          />
        )}
        <Choice
          label="Sorted"
          value={sorting}
          options={[
            { id: 'menu', name: 'as on the keypad' },
            { id: 'purpose', name: 'by what they are for' },
          ]}
          onChange={({ target }) => change('by', target.value === 'menu' ? '' : target.value)}
        />
        <span className="text-sm text-soft">{shown.length} shown</span>
      </div>
      <ParameterList dictionary={dictionary} shown={shown} facts={facts} sorting={sorting} />
    </>
  );
}
