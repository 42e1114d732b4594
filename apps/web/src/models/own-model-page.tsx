// A model of the plant's own: the maker's list or EDS, what it is called, which column is what, how it was understood,
// and what is wrong with it. One sheet; every change is understood anew, and nothing is kept until the end.

import type { ModelDraftView, OwnModelPreview } from '@drive-keep/api';
import { COLUMN_USES, type ColumnUse } from '@drive-keep/core/formats';
import { useMutation, type UseMutationResult } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Findings } from '../ui/findings.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';

interface Wish {
  readonly maker?: string;
  readonly name?: string;
  readonly about?: string;
  readonly firmwareFrom?: string;
  readonly firmwareTo?: string;
  readonly decimalMark?: 'point' | 'comma';
  readonly assignment?: Readonly<Record<string, ColumnUse>>;
}

export function OwnModelPage() {
  const [file, setFile] = useState<File>();
  const [wish, setWish] = useState<Wish>({});
  const navigate = useNavigate();
  const { data: session } = useSession();
  const { seen, error, ask } = usePreview();
  const keep = useMutation<{ id: string }, ProblemError>({
    mutationFn: () => post('models', formOf(file, wish)),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: ['dictionaries'] });
      void navigate(`/models/${id}`);
    },
  });
  const begin = useMutation<ModelDraftView, ProblemError, { chosen: File | undefined; next: Wish }>({
    mutationFn: ({ chosen, next }) => post('model-drafts', formOf(chosen, next)),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: ['model-drafts'] });
      void navigate(`/models/drafts/${id}`);
    },
  });
  const understand = (chosen: File | undefined, next: Wish) => {
    setFile(chosen);
    setWish(next);
    keep.reset();
    begin.reset();
    // The files of a whole model need no columns: they are completed as they are.
    if (chosen?.name.toLowerCase().endsWith('.zip')) begin.mutate({ chosen, next: {} });
    else if (chosen) ask(chosen, next);
  };
  return (
    <Page title="Bring a model">
      <h1 className="text-2xl font-semibold">Bring a model of your own</h1>
      <p className="mt-1 mb-4 text-soft">
        A maker’s parameter list or an EDS becomes a dictionary of this plant. Nothing is kept until you say
        so.
      </p>
      <FilePart chosen={file !== undefined} choose={(fresh) => understand(fresh, withoutColumns(wish))} />
      {error && <ProblemNotice error={error} />}
      {(keep.error ?? begin.error) && <ProblemNotice error={(keep.error ?? begin.error) as ProblemError} />}
      {seen && (
        <>
          <Names seen={seen} wish={wish} change={(more) => understand(file, { ...wish, ...more })} />
          {seen.kind === 'table' && (
            <Columns
              seen={{ ...seen, assignment: wish.assignment ?? seen.assignment }}
              change={(more) => understand(file, { ...wish, ...more })}
            />
          )}
          <Understood seen={seen} />
          <SheetPart name="Findings" state={seen.acceptable ? 'none that stops' : 'to be mended'}>
            {seen.findings.length === 0 && <p className="text-soft">Nothing is wrong with it.</p>}
            <Findings findings={seen.findings} />
          </SheetPart>
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

type Begin = UseMutationResult<ModelDraftView, ProblemError, { chosen: File | undefined; next: Wish }>;

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
  wish: Wish;
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

/** Asks the server how it understands a file; answers that come late for a newer question are passed over. */
function usePreview() {
  // What was seen last stays on the screen while the next is on its way: fields must not vanish under the fingers.
  const [seen, setSeen] = useState<OwnModelPreview>();
  const asked = useRef(0);
  const preview = useMutation<OwnModelPreview, ProblemError, { file: File; wish: Wish; number: number }>({
    mutationFn: (given) => post('models/preview', formOf(given.file, given.wish)),
    onSuccess: (answer, { number }) => number === asked.current && setSeen(answer),
  });
  const ask = (file: File, wish: Wish) => {
    asked.current += 1;
    const number = asked.current;
    const send = () => number === asked.current && preview.mutate({ file, wish, number });
    setTimeout(send, TYPING_MS);
  };
  return { seen, error: preview.error, ask };
}

/** Another file has other columns: what was said about the old ones means nothing for it. */
function withoutColumns(wish: Wish): Wish {
  const names: (keyof Wish)[] = ['maker', 'name', 'about', 'firmwareFrom', 'firmwareTo'];
  return Object.fromEntries(names.flatMap((name) => (wish[name] === undefined ? [] : [[name, wish[name]]])));
}

function Names({ seen, wish, change }: { seen: OwnModelPreview; wish: Wish; change: (more: Wish) => void }) {
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

const USE_NAMES: Readonly<Record<ColumnUse, string>> = {
  code: 'code',
  name: 'name',
  description: 'what it does',
  other_names: 'other names',
  menu: 'menu',
  unit: 'unit',
  resolution: 'resolution',
  range: 'range (minimum to maximum)',
  minimum: 'minimum value',
  maximum: 'maximum value',
  default: 'default',
  options: 'options (0 = off; 1 = on)',
  bits: 'bits (0 = fan; 1 = pump)',
  access: 'access',
  meaning: 'meaning',
  register: 'register',
};

function Columns({ seen, change }: { seen: OwnModelPreview; change: (more: Wish) => void }) {
  const assign = (column: string, use: string) => {
    const others = Object.entries(seen.assignment).filter(([name, each]) => name !== column && each !== use);
    change({ assignment: Object.fromEntries(use === '' ? others : [...others, [column, use as ColumnUse]]) });
  };
  return (
    <SheetPart name="Columns" state={`${Object.keys(seen.assignment).length} of ${seen.columns.length} used`}>
      <div className="overflow-x-auto">
        <table className="w-full text-left text-sm">
          <thead className="text-soft">
            <tr className="[&>th]:pr-3 [&>th]:font-normal">
              <th>Column of the file</th>
              <th>holds</th>
              <th>First lines</th>
            </tr>
          </thead>
          <tbody>
            {seen.columns.map((column, at) =>
              column === '' ? null : (
                <tr key={column} className="border-b border-rule align-baseline [&>td]:py-1 [&>td]:pr-3">
                  <td className="font-semibold">{column}</td>
                  <td>
                    <select
                      aria-label={`Use of the column ${column}`}
                      value={seen.assignment[column] ?? ''}
                      onChange={(event) => assign(column, event.target.value)}
                      className={`h-9 rounded border px-2 max-lg:h-12 ${seen.assignment[column] ? 'border-plum bg-plum-wash' : 'border-rule bg-sheet'}`}
                    >
                      <option value="">– not used –</option>
                      {COLUMN_USES.map((use) => (
                        <option key={use} value={use}>
                          {USE_NAMES[use]}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="text-soft">
                    {seen.sample.map((row, line) => (
                      <span key={line} className="mr-3 inline-block max-w-60 truncate align-bottom font-mono">
                        {row[at] || '–'}
                      </span>
                    ))}
                  </td>
                </tr>
              ),
            )}
          </tbody>
        </table>
      </div>
      <div className="mt-2">
        <Choice
          label="Decimals are written with a"
          value={seen.decimalMark}
          onChange={({ target }) => change({ decimalMark: target.value as 'point' | 'comma' })}
          options={[
            { id: 'point', name: 'point (0.5)' },
            { id: 'comma', name: 'comma (0,5)' },
          ]}
        />
      </div>
    </SheetPart>
  );
}

function Understood({ seen }: { seen: OwnModelPreview }) {
  return (
    <SheetPart name="Understood as" state={`${seen.rows} parameters`}>
      {seen.parameters.length > 0 && (
        <div
          className="max-h-72 overflow-auto rounded border border-rule"
          role="region"
          tabIndex={0}
          aria-label="How it was understood"
        >
          <table className="w-full text-left text-sm">
            <thead className="sticky top-0 bg-sheet text-soft">
              <tr className="[&>th]:px-2 [&>th]:font-normal">
                <th>Line</th>
                <th>Code</th>
                <th>Name</th>
                <th>Range</th>
                <th>Default</th>
                <th>Unit or options</th>
                <th>Access</th>
              </tr>
            </thead>
            <tbody>
              {seen.parameters.map((each) => (
                <tr key={each.line} className="border-t border-rule align-baseline [&>td]:px-2 [&>td]:py-0.5">
                  <td className="text-soft">{each.line}</td>
                  <td className="font-mono font-semibold">{each.code}</td>
                  <td>{each.name}</td>
                  <td className="font-mono">{each.range}</td>
                  <td className="font-mono">{each.default || '–'}</td>
                  <td>{each.options || each.unit}</td>
                  <td>{each.access}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {seen.rows > seen.parameters.length && (
        <p className="text-sm text-soft">The first {seen.parameters.length} are shown.</p>
      )}
    </SheetPart>
  );
}

function formOf(file: File | undefined, { assignment, ...texts }: Wish): FormData {
  const form = new FormData();
  for (const [key, value] of Object.entries(texts)) if (value !== undefined) form.set(key, value);
  if (assignment) form.set('assignment', JSON.stringify(assignment));
  if (file) form.set('file', file);
  return form;
}
