// A draft begins: a duty, a model and a name; the rest is on the sheet. Or with a file.

import type { FindingView, SettingsDraftView, StartingPointView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { fileForm } from '../api/file-form.ts';
import { queryClient, useDictionary, useModels, useStartingPoints } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';

const DELIVERED = { id: 'delivered', name: 'Nothing but the defaults', about: 'Every setting as delivered.' };

interface Chosen {
  readonly name: string;
  readonly dictionary: string;
  readonly region: string;
  readonly tag: string | null;
}

export function Begin() {
  const [params] = useSearchParams();
  const { data: points, error } = useStartingPoints();
  const { data: models } = useModels();
  const [point, setPoint] = useState('');
  const [model, setModel] = useState('');
  const [name, setName] = useState('');
  const { data: dictionary } = useDictionary(model === '' ? undefined : model);
  const tag = params.get('for');
  const found = points?.find(({ id }) => id === point);
  const chosen: Chosen | undefined = dictionary && {
    ...{ name: name.trim(), dictionary: dictionary.id, region: dictionary.regions[0]?.id ?? '', tag },
  };
  if (!points) return <Unanswered error={error} what="the starting points" />;
  return (
    <section aria-label="Begin" className="mt-3 rounded border border-rule bg-sheet p-3">
      <h2 className="font-semibold">Begin with a duty{tag !== null && ` for ${tag}`}</h2>
      <Points points={points} point={point} choose={setPoint} />
      {found && (
        <p className="mt-2 text-sm text-soft">
          {found.about} {found.assumes.join(' ')}{' '}
          <Link to={`/starting-points/${found.id}`} className="text-plum underline">
            Its file
          </Link>
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Choice
          label="Model"
          value={model}
          options={[
            { id: '', name: 'choose …' },
            ...(models ?? []).map(({ id, maker, name: own, version }) => ({
              id,
              name: `${maker} ${own}${version > 1 ? `, version ${version}` : ''}`,
            })),
          ]}
          onChange={({ target }) => setModel(target.value)}
        />
        <label className="flex items-center gap-2 text-sm">
          Name
          <input
            value={name}
            maxLength={80}
            placeholder="Second glaze pump"
            onChange={({ target }) => setName(target.value)}
            className="h-9 w-64 rounded border border-rule bg-sheet px-2 placeholder:text-soft max-lg:h-12"
          />
        </label>
        <Beginning point={point} otherwise={found?.name ?? DELIVERED.name} chosen={chosen} />
      </div>
    </section>
  );
}

function Points({
  points,
  point,
  choose,
}: {
  points: readonly StartingPointView[];
  point: string;
  choose: (id: string) => void;
}) {
  return (
    <div
      role="radiogroup"
      aria-label="Starting point"
      className="mt-2 grid gap-1.5 sm:grid-cols-2 lg:grid-cols-4"
    >
      {[...points, DELIVERED].map(({ id, name, about }) => (
        <button
          key={id}
          type="button"
          role="radio"
          aria-checked={point === id}
          title={about}
          onClick={() => choose(id)}
          className={`min-h-9 rounded border px-2 py-1 text-left text-sm max-lg:min-h-12 ${point === id ? 'border-plum bg-plum-wash font-medium' : 'border-rule hover:border-plum'}`}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

function Beginning({
  point,
  otherwise,
  chosen,
}: {
  point: string;
  otherwise: string;
  chosen: Chosen | undefined;
}) {
  const navigate = useNavigate();
  const open = ({ id }: SettingsDraftView) => {
    void queryClient.invalidateQueries({ queryKey: ['drafts'] });
    void navigate(`/drafts/${id}`);
  };
  const begin = useMutation<SettingsDraftView, ProblemError>({
    mutationFn: () =>
      post('drafts', {
        ...{ ...chosen, name: chosen?.name === '' ? otherwise : chosen?.name, rating: null },
        begins: point === DELIVERED.id ? { kind: 'delivered' } : { kind: 'point', id: point },
      }),
    onSuccess: open,
  });
  const bring = useMutation<
    { readonly draft: SettingsDraftView; readonly findings: readonly FindingView[] },
    ProblemError,
    File
  >({
    mutationFn: (file) => {
      const { name = '', dictionary = '', region = '', tag = null } = chosen ?? {};
      const query = new URLSearchParams({ name, dictionary, region, ...(tag === null ? {} : { tag }) });
      return post(`drafts/files?${query.toString()}`, fileForm(file));
    },
    onSuccess: ({ draft }) => open(draft),
  });
  return (
    <>
      <Button
        weight="main"
        disabled={point === '' || !chosen || begin.isPending || begin.isSuccess}
        onClick={() => begin.mutate()}
      >
        Begin the draft
      </Button>
      <label className={`text-sm ${chosen ? '' : 'text-soft'}`}>
        or from a file{' '}
        <input
          type="file"
          accept=".json,.csv,.txt,.xlsx,.dcf"
          disabled={!chosen || bring.isPending}
          aria-label="Draft file, or a set as a file"
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) bring.mutate(file);
            target.value = '';
          }}
          className="max-w-60 rounded border border-rule bg-sheet p-1 file:mr-2 file:rounded file:border-0 file:bg-plum-wash file:px-2 file:py-1"
        />
      </label>
      {[begin.error, bring.error].map((refused, at) => refused && <ProblemNotice key={at} error={refused} />)}
    </>
  );
}
