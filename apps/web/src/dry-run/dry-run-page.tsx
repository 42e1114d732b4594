// Dry run: what the drive does with its contacts, keys, signals and supply, by one of its sets and its wiring. Nothing is
// asked of the unit, and nothing moves.

import type { DryRunView } from '@drive-keep/api';
import { useMemo } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { useDecisions, useDictionary, useDryRunView, useHistory, useVocabulary } from '../api/queries.ts';
import { CalculatorWays } from '../calculate/calculator-ways.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Choice } from '../ui/choice.tsx';
import { Page } from '../ui/page.tsx';
import { showAge, showDate, showTime } from '../words/dates.ts';
import { changed } from './changed-address.ts';
import { ReadNow } from './read-now.tsx';
import { Run } from './run.tsx';

export function DryRunPage() {
  const { tag = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const reference = params.get('set') ?? 'newest';
  const { data: view, error } = useDryRunView(tag, reference);
  const { data: dictionary, error: dictionaryError } = useDictionary(view?.dictionary);
  const { data: vocabulary, error: vocabularyError } = useVocabulary();
  const input = useMemo(
    () => (view && dictionary && vocabulary ? { view, dictionary, vocabulary } : undefined),
    [view, dictionary, vocabulary],
  );
  const choose = (set: string) => setParams((before) => changed(before, 'set', set), { replace: true });
  return (
    <Page title={`Dry run of ${tag}`}>
      <h1 className="text-2xl font-semibold">
        Dry run of{' '}
        <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
          {tag}
        </Link>{' '}
        <span className="text-lg font-normal">{view?.duty}</span>
      </h1>
      <SetChoice tag={tag} reference={reference} view={view} choose={choose} />
      {input ? (
        <Run
          key={`${tag} ${reference}`}
          input={input}
          parameterTo={(code) => `/positions/${tag}/parameters/${encodeURIComponent(code)}`}
          noWiring={<NoWiring tag={tag} />}
        />
      ) : (
        <Unanswered error={error ?? dictionaryError ?? vocabularyError} what={`the dry run of ${tag}`} />
      )}
    </Page>
  );
}

function SetChoice({
  tag,
  reference,
  view,
  choose,
}: {
  tag: string;
  reference: string;
  view: DryRunView | undefined;
  choose: (set: string) => void;
}) {
  const { data: history } = useHistory(tag);
  const { data: decisions } = useDecisions(tag);
  const options = [
    { id: 'newest', name: 'newest backup' },
    ...(history?.baselines ?? []).map(({ revision, signedAt }) => ({
      id: `baseline:${revision}`,
      name: `baseline, revision ${revision}, ${showDate(signedAt)}`,
    })),
    ...(decisions?.draft ? [{ id: 'draft', name: 'baseline that waits for its signature' }] : []),
    { id: 'default', name: 'defaults of the model' },
  ];
  const known = options.some(({ id }) => id === reference)
    ? []
    : [{ id: reference, name: view?.title ?? reference }];
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-2">
      <Choice
        label="Set"
        value={reference}
        options={[...known, ...options]}
        onChange={({ target }) => choose(target.value)}
      />
      {view && (
        <span className="text-soft">
          {view.title}
          {view.at !== null && `, ${showTime(view.at)} (${showAge(view.at)})`}
        </span>
      )}
      <ReadNow tag={tag} begin={() => choose('newest')} />
      <CalculatorWays tag={tag} set={reference} />
    </div>
  );
}

function NoWiring({ tag }: { tag: string }) {
  return (
    <>
      No wiring was kept yet: only keys, supply and faults can be tried.{' '}
      <Link to={`/positions/${tag}/wiring`} className="text-plum underline">
        Type its wiring
      </Link>{' '}
      first.
    </>
  );
}
