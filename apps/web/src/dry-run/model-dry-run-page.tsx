// Dry run of a model of which no drive stands anywhere: its defaults or a set file, and a wiring file. Nothing is kept.

import type { DryRunSetView, DryRunView, DryRunWiringView } from '@drive-keep/api';
import type { Dictionary, Outfit } from '@drive-keep/core/dictionary';
import { defaultSet } from '@drive-keep/core/sets';
import { useMutation } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { fileForm, readingQuery } from '../api/file-form.ts';
import { useDictionary, useSession, useVocabulary } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Choice } from '../ui/choice.tsx';
import { Findings } from '../ui/findings.tsx';
import { FileProblem } from '../ui/file-problem.tsx';
import { Notice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { changed } from './changed-address.ts';
import { Run } from './run.tsx';

export function ModelDryRunPage() {
  const { id = '' } = useParams();
  const { data: dictionary, error } = useDictionary(id);
  return (
    <Page title="Dry run of a model">
      <h1 className="text-2xl font-semibold">
        Dry run of{' '}
        <Link to={`/models/${id}`} className="text-plum hover:underline">
          {dictionary ? `${dictionary.maker} ${dictionary.name}` : id}
        </Link>
      </h1>
      {dictionary ? <Chosen dictionary={dictionary} /> : <Unanswered error={error} what="this model" />}
    </Page>
  );
}

function Chosen({ dictionary }: { dictionary: Dictionary }) {
  const [params, setParams] = useSearchParams();
  const { ratings, regions } = dictionary;
  const rating = ratings.find(({ id }) => id === params.get('rating')) ?? ratings[0];
  const region = regions.find(({ id }) => id === params.get('region')) ?? regions[0];
  const choose = (key: string) => (value: string) =>
    setParams((before) => changed(before, key, value), { replace: true });
  if (!rating || !region)
    return <p className="mt-4">This model tells no rating: nothing can be worked out.</p>;
  return (
    <>
      <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Choice
          label="Rating"
          value={rating.id}
          options={ratings}
          onChange={({ target }) => choose('rating')(target.value)}
        />
        <Choice
          label="Region"
          value={region.id}
          options={regions}
          onChange={({ target }) => choose('region')(target.value)}
        />
      </div>
      <OfFiles
        key={`${rating.id} ${region.id}`}
        dictionary={dictionary}
        outfit={{ rating: rating.id, region: region.id }}
      />
    </>
  );
}

interface Taken {
  readonly file: File;
  readonly latin?: boolean;
}

function OfFiles({ dictionary, outfit: { rating, region } }: { dictionary: Dictionary; outfit: Outfit }) {
  const { data: session } = useSession();
  const { data: vocabulary, error } = useVocabulary();
  const path = `dictionaries/${dictionary.id}/dry-run`;
  const set = useMutation<DryRunSetView, ProblemError, Taken>({
    mutationFn: ({ file, latin = false }) => {
      const form = fileForm(file);
      form.set('rating', rating);
      form.set('region', region);
      return post(`${path}/set${readingQuery({ latin })}`, form);
    },
  });
  const wiring = useMutation<DryRunWiringView, ProblemError, Taken>({
    mutationFn: ({ file, latin = false }) => post(`${path}/wiring${readingQuery({ latin })}`, fileForm(file)),
  });
  const input = useMemo(() => {
    if (!vocabulary) return undefined;
    const rows = wiring.data?.rows ?? [];
    const view: DryRunView = {
      ...{ tag: '', duty: '', at: null, reference: '', dictionary: dictionary.id, rating, region },
      title: set.data ? set.data.title : 'Defaults of the model',
      readings: set.data
        ? set.data.readings
        : [...(defaultSet(dictionary, { rating, region })?.readings ?? [])],
      ...{ wiring: rows, wiringRevision: rows.length > 0 ? 1 : 0 },
    };
    return { view, dictionary, vocabulary };
  }, [dictionary, rating, region, set.data, vocabulary, wiring.data]);
  // What was not understood is not put in the place of what was meant.
  const understood =
    ![set, wiring].some(({ isPending, isError }) => isPending || isError) &&
    set.data?.acceptable !== false &&
    wiring.data?.rows.length !== 0;
  return (
    <>
      {session && session.role !== 'viewer' && (
        <div className="mt-3 flex flex-wrap gap-x-6 gap-y-2 print:hidden">
          <FileField
            label="File with a parameter set"
            accept=".json,.csv,.txt,.xlsx,.dcf"
            take={(file) => set.mutate({ file })}
          />
          <FileField
            label="File with a wiring"
            accept=".csv,.txt,.xlsx"
            take={(file) => wiring.mutate({ file })}
          />
        </div>
      )}
      <p className="mt-2 text-soft">Set: {input?.view.title}. Nothing is kept of the files.</p>
      {[set, wiring].map(
        ({ error: refused, variables, mutate }, at) =>
          refused && (
            <FileProblem
              key={at}
              error={refused}
              readAsLatin={() => variables && mutate({ ...variables, latin: true })}
            />
          ),
      )}
      {set.data?.acceptable === false && (
        <Notice level="stop">
          This set cannot be used. What is wrong has to be mended in the file first.
        </Notice>
      )}
      {wiring.data?.rows.length === 0 && (
        <Notice level="stop">No wiring is understood in this file. Choose one as Drive Keep saves it.</Notice>
      )}
      {[set.data, wiring.data].map((read, at) => read && <Findings key={at} findings={read.findings} />)}
      {!input && <Unanswered error={error} what="the words of the models" />}
      {input && understood && (
        <Run
          key={set.submittedAt}
          input={input}
          parameterTo={(code) => `/models/${dictionary.id}?find=${encodeURIComponent(code)}`}
          noWiring="Without a file with a wiring only keys, supply and faults can be tried. A position gives its wiring as CSV or XLSX."
        />
      )}
    </>
  );
}

function FileField({ label, accept, take }: { label: string; accept: string; take: (file: File) => void }) {
  return (
    <label className="block">
      <span className="text-sm text-soft">{label}</span>
      <input
        type="file"
        accept={accept}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file) take(file);
        }}
        className="block rounded border border-rule bg-sheet p-1.5 file:mr-3 file:rounded file:border-0 file:bg-plum-wash file:px-3 file:py-1.5 max-lg:min-h-12"
      />
    </label>
  );
}
