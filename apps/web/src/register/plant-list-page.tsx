// A plant list from a spreadsheet: what it would do, row by row, before anything is done.

import type { PlantListPreview, PlantListRowView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { fileForm, readingQuery, type Reading } from '../api/file-form.ts';
import { queryClient } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { FileProblem } from '../ui/file-problem.tsx';
import { Findings } from '../ui/findings.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';

/** Rows drawn at once: those that need a look come first. */
const MOST_SHOWN = 300;

const ORDER: readonly PlantListRowView['does'][] = ['stopped', 'change', 'add', 'nothing'];
const DOES: Readonly<Record<PlantListRowView['does'], string>> = {
  stopped: 'stopped',
  change: 'changes',
  add: 'is added',
  nothing: 'stays as it is',
};

export function PlantListPage() {
  const [file, setFile] = useState<File>();
  const navigate = useNavigate();
  const [reading, setReading] = useState<Reading>({});
  const preview = useMutation<PlantListPreview, ProblemError, { chosen: File; as: Reading }>({
    mutationFn: ({ chosen, as }) => post(`plant-list/preview${readingQuery(as)}`, fileForm(chosen)),
  });
  const keep = useMutation<PlantListPreview, ProblemError, string>({
    mutationFn: (hash) => post(`plant-list${readingQuery(reading)}`, fileForm(file, hash)),
    onSuccess: async () => {
      await queryClient.invalidateQueries();
      void navigate('/');
    },
  });
  const choose = (chosen: File | undefined, as: Reading) => {
    setFile(chosen);
    setReading(as);
    keep.reset();
    if (chosen) preview.mutate({ chosen, as });
  };
  const counts = countsOf(preview.data?.rows ?? []);
  return (
    <Page title="Take in a plant list">
      <h1 className="text-2xl font-semibold">Take in a plant list</h1>
      <p className="mt-1 mb-4 text-soft">
        One position a row. Nothing is changed until you say so; positions that the list does not name stay as
        they are.
      </p>
      <SheetPart name="File" state={file ? 'chosen' : 'open'}>
        <input
          type="file"
          aria-label="Plant list"
          accept=".csv,.txt,.xlsx"
          onChange={(event) => choose(event.target.files?.[0], {})}
          className="block w-full rounded border border-rule bg-sheet p-2 file:mr-3 file:rounded file:border-0 file:bg-plum-wash file:px-3 file:py-2"
        />
        <p className="mt-1 text-sm text-soft">
          CSV or XLSX with the columns tag, duty, area, machine, model, rating, serial, firmware; and, where
          there is something to say, criticality, motor, region, line, address. The easiest way to begin is to{' '}
          <a href="/api/plant-list?format=xlsx" download className="text-plum underline">
            save the present list
          </a>{' '}
          and change it.
        </p>
      </SheetPart>
      {preview.isPending && <p className="py-2 text-soft">Looking at every row …</p>}
      {preview.error && (
        <FileProblem error={preview.error} readAsLatin={() => choose(file, { latin: true })} />
      )}
      {preview.data && (
        <>
          <SheetPart name="What it would do" state={`${preview.data.rows.length} rows`}>
            <p className="mb-2">
              <b>{counts.add}</b> added, <b>{counts.change}</b> changed, {counts.nothing} as they are
              {counts.stopped > 0 && (
                <b className="text-stop">, {counts.stopped} stopped: mend these in the file first</b>
              )}
              .
            </p>
            <Findings findings={preview.data.notes} />
            <Rows rows={preview.data.rows} />
          </SheetPart>
          <SheetPart name="Take in" state={preview.data.acceptable ? 'ready' : 'not possible'}>
            <Button
              weight="main"
              disabled={!preview.data.acceptable || keep.isPending}
              onClick={() => keep.mutate(preview.data.hash)}
            >
              Add {counts.add} and change {counts.change}
            </Button>
            {keep.error && <ProblemNotice error={keep.error} />}
          </SheetPart>
        </>
      )}
    </Page>
  );
}

function Rows({ rows }: { rows: readonly PlantListRowView[] }) {
  const sorted = [...rows].sort((a, b) => ORDER.indexOf(a.does) - ORDER.indexOf(b.does) || a.line - b.line);
  return (
    <>
      <ul>
        {sorted.slice(0, MOST_SHOWN).map((row) => (
          <li
            key={row.line}
            className={`grid grid-cols-[4rem_8rem_1fr] gap-x-3 border-b border-rule py-1 ${row.does === 'stopped' ? 'bg-stop-wash px-2' : ''}`}
          >
            <span className="text-sm text-soft">line {row.line}</span>
            <span className="font-mono">{row.tag || '–'}</span>
            <span>
              {row.duty} <span className="text-soft">{DOES[row.does]}</span>
              {row.changes.length > 0 && <span className="text-soft">: {row.changes.join('; ')}</span>}
              {row.findings.map(({ text }) => (
                <span key={text} className="block font-semibold">
                  {text}
                </span>
              ))}
            </span>
          </li>
        ))}
      </ul>
      {rows.length > MOST_SHOWN && (
        <p className="mt-1 text-sm text-soft">and {rows.length - MOST_SHOWN} more rows</p>
      )}
    </>
  );
}

function countsOf(rows: readonly PlantListRowView[]): Readonly<Record<PlantListRowView['does'], number>> {
  const counts = { stopped: 0, change: 0, add: 0, nothing: 0 };
  for (const { does } of rows) counts[does] += 1;
  return counts;
}
