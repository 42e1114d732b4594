// What changed between two firmware versions of a model: added, gone, and before and after for the rest.

import { showRegister } from '@drive-keep/core/values';
import type { DictionaryChanges } from '@drive-keep/api';
import type { ChangedFact, Dictionary, Facts, Parameter, Untold } from '@drive-keep/core/dictionary';
import { Unanswered } from '../ui/answer.tsx';
import { rawOfBound, type Bound } from '@drive-keep/core/dictionary';
import { formatResolution, showRaw } from '@drive-keep/core/values';
import { Link, useParams, useSearchParams } from 'react-router';
import { useDictionary, useDictionaryChanges } from '../api/queries.ts';
import { Page, SheetPart } from '../ui/page.tsx';

export function ChangesPage() {
  const { id = '' } = useParams();
  const [params] = useSearchParams();
  const since = params.get('since') ?? '';
  const { data: changes, error } = useDictionaryChanges(id, since);
  const { data: before } = useDictionary(since);
  const { data: after } = useDictionary(id);
  if (!changes || !before || !after)
    return <Unanswered error={error} what="the changes between these versions" />;
  return (
    <Page title={`${after.name}, what changed`}>
      <h1 className="text-2xl font-semibold">
        {after.maker}{' '}
        <Link to={`/models/${id}`} className="text-plum underline">
          {after.name}
        </Link>
        : firmware {before.firmware.from} to {before.firmware.to} against {after.firmware.from} to{' '}
        {after.firmware.to}
      </h1>
      <p className="mb-3 text-soft">
        {changes.added.length} added, {changes.gone.length} gone, {changes.changed.length} changed,{' '}
        {changes.same} the same. Sets that were kept under the older version stay with it.
      </p>
      <Parameters name="Added" shape="+" parameters={changes.added} dictionary={after} />
      <Parameters name="Gone" shape="−" parameters={changes.gone} dictionary={before} />
      <SheetPart name="Changed" state={`◆ ${changes.changed.length}`}>
        {changes.changed.length === 0 && <p className="text-soft">Nothing that both have was changed.</p>}
        {changes.changed.map((change) => (
          <Changed key={change.code} change={change} before={before} after={after} />
        ))}
      </SheetPart>
    </Page>
  );
}

function Parameters({
  name,
  shape,
  parameters,
  dictionary,
}: {
  name: string;
  shape: string;
  parameters: readonly Parameter[];
  dictionary: Dictionary;
}) {
  return (
    <SheetPart name={name} state={`${shape} ${parameters.length}`}>
      {parameters.length === 0 && <p className="text-soft">None.</p>}
      {parameters.map((parameter) => (
        <div
          key={parameter.code}
          className="grid gap-x-4 border-b border-rule py-1 md:grid-cols-[5rem_16rem_1fr]"
        >
          <Link
            to={`/models/${dictionary.id}?find=${encodeURIComponent(parameter.code)}`}
            className="font-mono font-semibold text-plum hover:underline"
          >
            {parameter.code}
          </Link>
          <span>{parameter.name}</span>
          <span className="text-sm text-soft">{parameter.description}</span>
        </div>
      ))}
    </SheetPart>
  );
}

function Changed({
  change,
  before,
  after,
}: {
  change: DictionaryChanges['changed'][number];
  before: Dictionary;
  after: Dictionary;
}) {
  return (
    <div className="grid gap-x-4 border-b border-rule py-1 md:grid-cols-[5rem_16rem_1fr]">
      <span className="font-mono font-semibold">{change.code}</span>
      <span>{change.after.name}</span>
      <dl className="grid grid-cols-[6rem_1fr] text-sm">
        {change.facts.map((fact) => (
          <div key={fact} className="contents">
            <dt className="text-soft">{fact}</dt>
            <dd>
              {told(fact, change.before, firstFacts(before))} →{' '}
              <b>{told(fact, change.after, firstFacts(after))}</b>
            </dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

const firstFacts = ({ ratings, regions }: Dictionary): Facts => ({
  ...ratings[0]?.facts,
  ...regions[0]?.facts,
});

function told(fact: ChangedFact, parameter: Parameter, facts: Facts): string {
  const { form, register } = parameter;
  const show = (bound: Bound | null): string => {
    const raw = bound ? rawOfBound(parameter, bound, facts) : undefined;
    return raw === undefined ? 'none' : showRaw(form, raw);
  };
  const told = (which: Untold) => (parameter.untold.includes(which) ? 'not told' : show(parameter[which]));
  const texts: Readonly<Record<ChangedFact, () => string>> = {
    name: () => parameter.name,
    menu: () => parameter.menu.join(' › '),
    range: () => `${told('minimum')} to ${told('maximum')}`,
    default: () => told('default'),
    resolution: () => (form.kind === 'number' ? formatResolution(form.resolution) : form.kind),
    unit: () => (form.kind === 'number' ? form.unit || 'none' : 'none'),
    options: () =>
      (form.kind === 'option' ? form.options : form.kind === 'bits' ? form.bits : [])
        .map(({ text }) => text)
        .join(', '),
    access: () => parameter.access.replace('-', ', only when '),
    restart: () => (parameter.restart ? 'after a restart' : 'at once'),
    register: () => (register ? `${showRegister(register.address)}, ${register.width} bits` : 'none'),
    meaning: () => parameter.meaning ?? 'none',
    description: () => parameter.description,
  };
  return texts[fact]();
}
