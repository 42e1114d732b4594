// A model of the plant's own: the maker's list or EDS, what it is called, which column is what, how it was understood,
// and what is wrong with it. One sheet; every change is understood anew, and nothing is kept until the end.

import type { ModelDraftView, OwnModelPreview } from '@drive-keep/api';
import { useMutation, type UseMutationResult } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { readingQuery } from '../api/file-form.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { FileProblem } from '../ui/file-problem.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { ListColumns } from './list-columns.tsx';
import { ListFindings } from './list-findings.tsx';
import { formOf, namesOf, type ListWish } from './list-wish.ts';
import { UnderstoodRows } from './understood-rows.tsx';

export function OwnModelPage() {
  const [file, setFile] = useState<File>();
  const [wish, setWish] = useState<ListWish>({});
  const [latin, setLatin] = useState(false);
  const navigate = useNavigate();
  const { data: session } = useSession();
  const { seen, error, ask } = usePreview();
  const keep = useMutation<{ id: string }, ProblemError>({
    mutationFn: () => post(`models${readingQuery({ latin })}`, formOf(file, wish)),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: ['dictionaries'] });
      void navigate(`/models/${id}`);
    },
  });
  const begin = useMutation<ModelDraftView, ProblemError, { chosen: File | undefined; next: ListWish }>({
    mutationFn: ({ chosen, next }) => post(`model-drafts${readingQuery({ latin })}`, formOf(chosen, next)),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: ['model-drafts'] });
      void navigate(`/models/drafts/${id}`);
    },
  });
  const understand = (chosen: File | undefined, next: ListWish, as = latin) => {
    setFile(chosen);
    setWish(next);
    setLatin(as);
    keep.reset();
    begin.reset();
    // The files of a whole model need no columns: they are completed as they are.
    if (chosen?.name.toLowerCase().endsWith('.zip')) begin.mutate({ chosen, next: {} });
    else if (chosen) ask(chosen, next, as);
  };
  return (
    <Page title="Bring a model">
      <h1 className="text-2xl font-semibold">Bring a model of your own</h1>
      <p className="mt-1 mb-4 text-soft">
        A maker’s parameter list or an EDS becomes a dictionary of this plant. Nothing is kept until you say
        so.
      </p>
      <FilePart chosen={file !== undefined} choose={(fresh) => understand(fresh, namesOf(wish), false)} />
      {error && <FileProblem error={error} readAsLatin={() => understand(file, wish, true)} />}
      {(keep.error ?? begin.error) && <ProblemNotice error={(keep.error ?? begin.error) as ProblemError} />}
      {seen && (
        <>
          <Names seen={seen} wish={wish} change={(more) => understand(file, { ...wish, ...more })} />
          {seen.kind === 'table' && (
            <ListColumns
              seen={{ ...seen, assignment: wish.assignment ?? seen.assignment }}
              change={(more) => understand(file, { ...wish, ...more })}
            />
          )}
          <UnderstoodRows seen={seen} />
          <ListFindings seen={seen} wish={wish} change={(more) => understand(file, { ...wish, ...more })} />
          <KeepPart
            seen={seen}
            file={file}
            wish={wish}
            begin={begin}
            keep={keep}
            engineer={session?.role === 'engineer'}
          />
        </>
      )}
      <p className="mt-2 text-sm text-soft">
        The shipped models are listed under{' '}
        <Link to="/models" className="text-plum underline">
          Models
        </Link>
        .
      </p>
    </Page>
  );
}

function FilePart({ chosen, choose }: { chosen: boolean; choose: (file: File | undefined) => void }) {
  return (
    <SheetPart name="File" state={chosen ? 'chosen' : 'open'}>
      <input
        type="file"
        aria-label="File with a parameter list"
        accept=".csv,.xlsx,.json,.eds,.dcf,.txt,.zip"
        onChange={(event) => choose(event.target.files?.[0])}
        className="block w-full rounded border border-rule bg-sheet p-2 file:mr-3 file:rounded file:border-0 file:bg-plum-wash file:px-3 file:py-2"
      />
      <p className="mt-1 text-sm text-soft">
        CSV, XLSX or JSON with one parameter a line, in whatever columns the maker has; an EDS (CiA 306); or
        the ZIP of a model. Up to 5 MB.
      </p>
    </SheetPart>
  );
}

type Begin = UseMutationResult<ModelDraftView, ProblemError, { chosen: File | undefined; next: ListWish }>;

function KeepPart({
  seen,
  file,
  wish,
  begin,
  keep,
  engineer,
}: {
  seen: OwnModelPreview;
  file: File | undefined;
  wish: ListWish;
  begin: Begin;
  keep: UseMutationResult<{ id: string }, ProblemError, void>;
  engineer: boolean;
}) {
  return (
    <SheetPart name="Keep" state={seen.acceptable ? 'ready' : 'not possible yet'}>
      <p className="mb-2">
        A list tells parameters alone. Ratings, the line, the keypad, terminals and procedures are completed
        section by section, now or later; a draft can be tried at a unit before it is kept.
      </p>
      <Button
        weight="main"
        className="mr-3"
        disabled={begin.isPending || seen.rows === 0 || !engineer}
        onClick={() => begin.mutate({ chosen: file, next: wish })}
      >
        Complete it first
      </Button>
      <Button disabled={!seen.acceptable || keep.isPending || !engineer} onClick={() => keep.mutate()}>
        Keep as {seen.dictionary}, as it is
      </Button>
      {!engineer && <p className="mt-1 text-sm text-soft">It takes an engineer.</p>}
    </SheetPart>
  );
}

/** While somebody types, the file is not sent at every letter. */
const TYPING_MS = 250;

interface Asked {
  readonly file: File;
  readonly wish: ListWish;
  readonly latin: boolean;
  readonly number: number;
}

/** Asks the server how it understands a file; answers that come late for a newer question are passed over. */
function usePreview() {
  // What was seen last stays on the screen while the next is on its way: fields must not vanish under the fingers.
  const [seen, setSeen] = useState<OwnModelPreview>();
  const asked = useRef(0);
  const preview = useMutation<OwnModelPreview, ProblemError, Asked>({
    mutationFn: ({ file, wish, latin }) =>
      post(`models/preview${readingQuery({ latin })}`, formOf(file, wish)),
    onSuccess: (answer, { number }) => number === asked.current && setSeen(answer),
  });
  const ask = (file: File, wish: ListWish, latin: boolean) => {
    asked.current += 1;
    const number = asked.current;
    const send = () => number === asked.current && preview.mutate({ file, wish, latin, number });
    setTimeout(send, TYPING_MS);
  };
  return { seen, error: preview.error, ask };
}

function Names({
  seen,
  wish,
  change,
}: {
  seen: OwnModelPreview;
  wish: ListWish;
  change: (more: ListWish) => void;
}) {
  const field = (key: 'maker' | 'name' | 'about' | 'firmwareFrom' | 'firmwareTo', label: string) => (
    <Field
      key={`${key} ${seen.fileName}`}
      label={label}
      defaultValue={wish[key] ?? seen[key]}
      onChange={({ target }) => change({ [key]: target.value })}
    />
  );
  return (
    <SheetPart name="Names" state={seen.maker && seen.name ? 'given' : 'open'}>
      <div className="grid gap-3 md:grid-cols-4">
        {field('maker', 'Maker')}
        {field('name', 'Model')}
        {field('firmwareFrom', 'Firmware from')}
        {field('firmwareTo', 'Firmware to')}
        <div className="md:col-span-4">{field('about', 'What it is, in a sentence')}</div>
      </div>
    </SheetPart>
  );
}
