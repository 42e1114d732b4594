// How a maker counts its registers, found by what the keypad shows: the ways that explain it, and the one that is taken over.

import type { RegisterSearchView } from '@drive-keep/api';
import {
  describeCounting,
  recount,
  sectionText,
  withFact,
  withSection,
  type RegisterGuess,
} from '@drive-keep/core/dictionary';
import { showRegister } from '@drive-keep/core/values';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { post, type ProblemError } from '../api/client.ts';
import { Field } from '../session/field.tsx';
import { Asking } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import type { AtUnit } from './registers-part.tsx';
import type { DraftOnScreen } from './use-model-draft.ts';

const EMPTY = { number: '', text: '' };

export function KeypadPart({ at, data }: { at: AtUnit; data: DraftOnScreen }) {
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
