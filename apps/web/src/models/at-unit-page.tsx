// The line assistant: a draft of a model and a real unit at hand. Registers as they are, how the maker counts them by what the
// keypad shows, and every parameter as the test of the dictionary. Nothing is written to the unit.

import type { ReadAllView, RegisterSearchView, RegistersView } from '@drive-keep/api';
import {
  describeCounting,
  factsIn,
  recount,
  sectionText,
  withFact,
  withSection,
} from '@drive-keep/core/dictionary';
import type { RegisterGuess } from '@drive-keep/core/dictionary';
import { showRegister } from '@drive-keep/core/values';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useLines } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Asking, Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { DraftState } from './draft-state.tsx';
import { ReadAllTable } from './read-all-table.tsx';
import { useModelDraft, type DraftOnScreen } from './use-model-draft.ts';

interface AtUnit {
  readonly line: string;
  readonly address: number;
}

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

function RegistersPart({ at }: { at: AtUnit }) {
  const [area, setArea] = useState<'holding' | 'input'>('holding');
  const [around, setAround] = useState('100');
  const read = useMutation<RegistersView, ProblemError>({
    mutationFn: () => {
      const from = Math.max(0, Number(around) - 8);
      return post('registers/read', { ...at, area, from, count: 24 });
    },
  });
  return (
    <SheetPart name="Registers" state={read.data ? `read at ${showTime(read.data.at)}` : 'as they are'}>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          read.mutate();
        }}
      >
        <Choice
          below
          label="Area"
          value={area}
          options={[
            { id: 'holding', name: 'holding registers (function 3)' },
            { id: 'input', name: 'input registers (function 4)' },
          ]}
          onChange={({ target }) => setArea(target.value as 'holding' | 'input')}
        />
        <Field
          label="Around address"
          type="number"
          min={0}
          max={65535}
          required
          value={around}
          onChange={({ target }) => setAround(target.value)}
        />
        <Button type="submit" className="min-h-11" disabled={read.isPending || at.line === ''}>
          Read them
        </Button>
      </form>
      {read.isPending && <Asking what="the registers" />}
      {read.error && <ProblemNotice error={read.error} />}
      {read.data && <WordTable words={read.data.words} centre={around} />}
    </SheetPart>
  );
}

function WordTable({ words, centre }: { words: RegistersView['words']; centre: string }) {
  return (
    <div className="mt-3 overflow-x-auto">
      <table className="text-right font-mono text-sm">
        <thead className="border-b border-rule font-sans text-soft">
          <tr className="[&>th]:px-3 [&>th]:py-1 [&>th]:font-normal">
            <th>Address</th>
            <th>unsigned</th>
            <th>signed</th>
            <th>hex</th>
            <th>bits</th>
            <th>32 bits, high first</th>
            <th>32 bits, low first</th>
          </tr>
        </thead>
        <tbody>
          {words.map(({ register, word }, at) => {
            const next = words[at + 1]?.word ?? null;
            return (
              <tr
                key={register}
                className={`border-b border-rule [&>td]:px-3 [&>td]:py-0.5 ${register.endsWith(centre) ? 'bg-plum-wash' : ''}`}
              >
                <td className="text-soft">{register}</td>
                {word === null ? (
                  <td colSpan={6} className="text-left font-sans text-soft">
                    refused
                  </td>
                ) : (
                  <>
                    <td>{word}</td>
                    <td>{word > 0x7fff ? `−${0x1_0000 - word}` : word}</td>
                    <td>{word.toString(16).toUpperCase().padStart(4, '0')}</td>
                    <td>{(word.toString(2).padStart(16, '0').match(/.{4}/g) ?? []).join(' ')}</td>
                    <td>{next === null ? '–' : word * 0x1_0000 + next}</td>
                    <td>{next === null ? '–' : next * 0x1_0000 + word}</td>
                  </>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

const EMPTY = { number: '', text: '' };

function KeypadPart({ at, data }: { at: AtUnit; data: DraftOnScreen }) {
  const [rows, setRows] = useState([EMPTY, EMPTY, EMPTY]);
  const filled = rows.filter(({ number, text }) => number.trim() !== '' && text.trim() !== '');
  const search = useMutation<RegisterSearchView, ProblemError>({
    mutationFn: () =>
      post('registers/search', {
        ...at,
        shown: filled.map(({ number, text }) => ({ number: Number(number), text })),
      }),
  });
  const type = (place: number, more: Partial<typeof EMPTY>) =>
    setRows(rows.map((row, each) => (each === place ? { ...row, ...more } : row)));
  return (
    <SheetPart
      name="How it counts"
      state={search.data ? `${search.data.guesses.length} ways fit` : 'by the keypad'}
    >
      <p className="mb-2 text-sm text-soft">
        Type a few register numbers as the manual prints them, and what the keypad shows there now, without
        its unit. Values that are not 0 or 1 say most. Three are better than one.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          search.mutate();
        }}
      >
        {rows.map((row, place) => (
          <div key={place} className="mb-2 flex flex-wrap gap-3">
            <Field
              label={`Number in the manual, ${place + 1}`}
              inputMode="numeric"
              pattern="[0-9]{1,6}"
              placeholder="40101"
              value={row.number}
              onChange={({ target }) => type(place, { number: target.value })}
            />
            <Field
              label={`Keypad shows, ${place + 1}`}
              inputMode="decimal"
              placeholder="50.00"
              value={row.text}
              onChange={({ target }) => type(place, { text: target.value })}
            />
          </div>
        ))}
        <div className="flex gap-2">
          <Button type="submit" disabled={filled.length === 0 || search.isPending || at.line === ''}>
            Find out
          </Button>
          {rows.length < 8 && (
            <Button weight="quiet" onClick={() => setRows([...rows, EMPTY])}>
              One more
            </Button>
          )}
        </div>
      </form>
      {search.isPending && <Asking what="every register that these numbers could mean" />}
      {search.error && <ProblemNotice error={search.error} />}
      {search.data?.guesses.length === 0 && (
        <Notice level="look">
          No way of counting explains them: {search.data.read} registers were read, {search.data.refused}{' '}
          refused. Is it this unit, and does the keypad show these values now?
        </Notice>
      )}
      <ol>
        {search.data?.guesses.map((guess, place) => (
          <Guess
            key={JSON.stringify(guess.way)}
            guess={guess}
            of={filled.length}
            first={place === 0}
            data={data}
          />
        ))}
      </ol>
    </SheetPart>
  );
}

function Guess({
  guess: { way, explains, addresses },
  of,
  first,
  data,
}: {
  guess: RegisterGuess;
  of: number;
  first: boolean;
  data: DraftOnScreen;
}) {
  const [done, setDone] = useState('');
  const use = () => {
    const changed = recount(data.files.parameters, way.counting);
    const line = sectionText(data.files.model, 'line');
    const next = way.width === 32 ? withFact(line, ['line', 'word_order'], way.order) : line;
    data.change({
      model: withSection(data.files.model, 'line', next ?? line),
      ...(changed ? { parameters: changed.text } : {}),
    });
    const left =
      changed && changed.left.length > 0
        ? `; ${changed.left.length} it does not reach stand as they were`
        : '';
    setDone(`${changed?.changed ?? 0} registers are numbered anew${left}.`);
  };
  return (
    <li className={`mt-2 border-l-4 px-3 py-2 ${first ? 'border-plum bg-plum-wash' : 'border-rule'}`}>
      <b>
        Explains {explains.length} of {of}.
      </b>{' '}
      {describeCounting(way.counting)}{' '}
      {way.width === 16
        ? 'One register each'
        : `Two registers each, the ${way.order === 'high-first' ? 'higher' : 'lower'} word first`}
      {way.places > 0 && `, in steps of ${(10 ** -way.places).toFixed(way.places)}`}
      {way.signed && ', with a sign'}.
      <span className="block text-sm text-soft">
        Read at {addresses.map((address) => (address < 0 ? '–' : showRegister(address))).join(', ')}.
      </span>
      {done === '' ? (
        <Button className="mt-1" onClick={use}>
          Count all registers of the draft like this
        </Button>
      ) : (
        <p role="status" className="mt-1 text-sm">
          ✓ {done}
        </p>
      )}
    </li>
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
