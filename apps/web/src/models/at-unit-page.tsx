// The line assistant: a draft of a model and a real unit at hand. Registers as they are, how the maker counts them by what the
// keypad shows, and every parameter as the test of the dictionary. Nothing is written to the unit.

import type { ReadAllView } from '@drive-keep/api';
import { factsIn, sectionText } from '@drive-keep/core/dictionary';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useLines } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Asking, Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { DraftState } from './draft-state.tsx';
import { KeypadPart } from './keypad-part.tsx';
import { ReadAllTable } from './read-all-table.tsx';
import { RegistersPart, type AtUnit } from './registers-part.tsx';
import { useModelDraft, type DraftOnScreen } from './use-model-draft.ts';

export function AtUnitPage() {
  const { id = '' } = useParams();
  const { data, error } = useModelDraft(id);
  const { data: lines, error: noLines } = useLines();
  const [params, setParams] = useSearchParams();
  if (!data || !lines) return <Unanswered error={error ?? noLines} what="this model and the lines" />;
  const inUse = lines.filter(({ retiredAt }) => retiredAt === null).map(({ name }) => ({ id: name, name }));
  const at = {
    line: params.get('line') ?? inUse[0]?.name ?? '',
    address: Number(params.get('address') ?? 1),
  };
  const change = (key: string, value: string) =>
    setParams(
      (before) => new URLSearchParams([...[...before].filter(([each]) => each !== key), [key, value]]),
      {
        replace: true,
      },
    );
  return (
    <Page title={`${data.draft.title} at a unit`}>
      <h1 className="text-2xl font-semibold">
        <Link to={`/models/drafts/${id}`} className="text-plum hover:underline">
          {data.draft.title}
        </Link>{' '}
        at a unit
      </h1>
      <p className="mt-1 mb-2 text-soft">
        Registers are read and compared with the keypad. Nothing is written.
      </p>
      <DraftState draft={data} />
      <SheetPart name="Unit" state={at.line === '' ? 'open' : 'chosen'}>
        {inUse.length === 0 ? (
          <Nothing>
            There is no line yet.{' '}
            <Link to="/lines?add=yes" className="text-plum underline">
              Add a line
            </Link>
          </Nothing>
        ) : (
          <div className="flex flex-wrap gap-3">
            <Choice
              below
              label="Line"
              value={at.line}
              options={inUse}
              onChange={({ target }) => change('line', target.value)}
            />
            <Field
              label="Address on the line"
              type="number"
              min={0}
              max={247}
              value={at.address}
              onChange={({ target }) => change('address', target.value)}
            />
          </div>
        )}
      </SheetPart>
      <RegistersPart at={at} />
      <KeypadPart at={at} data={data} />
      <ReadAllPart at={at} data={data} />
    </Page>
  );
}

function ReadAllPart({ at, data }: { at: AtUnit; data: DraftOnScreen }) {
  const [outfit, setOutfit] = useState({ rating: '', region: '' });
  const { ratings, regions } = outfits(data.files.model);
  const chosen = {
    rating: outfit.rating || (ratings[0]?.id ?? ''),
    region: outfit.region || (regions[0]?.id ?? ''),
  };
  const read = useMutation<ReadAllView, ProblemError>({
    mutationFn: () => post(`model-drafts/${data.draft.id}/read-all`, { ...at, ...chosen }),
  });
  return (
    <SheetPart name="Read all" state={read.data ? `read at ${showTime(read.data.at)}` : 'the test of it'}>
      <div className="flex flex-wrap items-end gap-3">
        {ratings.length > 1 && (
          <Choice
            below
            label="Rating"
            value={chosen.rating}
            options={ratings}
            onChange={({ target }) => setOutfit({ ...outfit, rating: target.value })}
          />
        )}
        {regions.length > 1 && (
          <Choice
            below
            label="Region"
            value={chosen.region}
            options={regions}
            onChange={({ target }) => setOutfit({ ...outfit, region: target.value })}
          />
        )}
        <Button
          weight="main"
          className="min-h-11"
          disabled={read.isPending || at.line === '' || data.state !== 'kept'}
          onClick={() => read.mutate()}
        >
          Read all parameters
        </Button>
      </div>
      {read.isPending && <Asking what="every parameter" />}
      {read.error && (
        <div className="mt-2">
          <ProblemNotice error={read.error} />
        </div>
      )}
      {read.data && <ReadAllTable read={read.data} />}
    </SheetPart>
  );
}

/** Ratings and regions that the text names, by their ids. */
function outfits(model: string) {
  const named = (section: 'ratings' | 'regions') => {
    const facts = factsIn(sectionText(model, section)) as
      Partial<Record<typeof section, readonly { readonly id?: unknown }[]>> | undefined;
    return (facts?.[section] ?? []).map(({ id }) => ({ id: String(id), name: String(id) }));
  };
  return { ratings: named('ratings'), regions: named('regions') };
}
