// A file for a position: what it holds, what is wrong with it and what it says otherwise than what is kept, before anything of it
// is kept.

import type { ChecksView, FileDifferences, ImportedFile, ImportPreview } from '@drive-keep/api';
import { useMutation, type UseMutationResult } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { fileForm, readingQuery, type Reading } from '../api/file-form.ts';
import { forgetPositions } from '../api/queries.ts';
import { Against as FindingsAgainst } from '../checks/against.tsx';
import { Asking } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { FileProblem } from '../ui/file-problem.tsx';
import { Findings } from '../ui/findings.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';

export function ImportPage() {
  const { tag = '' } = useParams();
  const [file, setFile] = useState<File>();
  const [reading, setReading] = useState<Reading>({});
  const navigate = useNavigate();
  const preview = useMutation<ImportPreview, ProblemError, { chosen: File; as: Reading }>({
    mutationFn: ({ chosen, as }) =>
      post(`positions/${tag}/imports/preview${readingQuery(as)}`, fileForm(chosen)),
  });
  const checks = useMutation<ChecksView, ProblemError, { chosen: File; as: Reading }>({
    mutationFn: ({ chosen, as }) =>
      post(`positions/${tag}/checks/of-file${readingQuery(as)}`, fileForm(chosen)),
  });
  const keep = useMutation<ImportedFile, ProblemError, string>({
    mutationFn: (hash) => post(`positions/${tag}/imports${readingQuery(reading)}`, fileForm(file, hash)),
    onSuccess: async ({ backupId, partId }) => {
      await forgetPositions();
      const against = preview.data?.against.some(({ reference }) => reference === 'newest')
        ? 'newest'
        : 'default';
      const kept = backupId === null ? `a=${against}&b=part:${partId ?? ''}` : `b=backup:${backupId}`;
      void navigate(`/positions/${tag}?${kept}`);
    },
  });
  const look = (chosen: File | undefined, as: Reading) => {
    setFile(chosen);
    setReading(as);
    keep.reset();
    checks.reset();
    if (chosen)
      preview.mutate(
        { chosen, as },
        { onSuccess: ({ acceptable }) => acceptable && checks.mutate({ chosen, as }) },
      );
  };
  const seen = preview.isPending ? undefined : preview.data;
  return (
    <Page title={`Import for ${tag}`}>
      <Head tag={tag} />
      <SheetPart name="File" state={file ? (reading.latin ? 'read as Latin-1' : 'chosen') : 'open'}>
        <input
          type="file"
          aria-label="File with a parameter set"
          accept=".json,.csv,.txt,.xlsx,.dcf"
          onChange={(event) => look(event.target.files?.[0], {})}
          className="block w-full rounded border border-rule bg-sheet p-2 file:mr-3 file:rounded file:border-0 file:bg-plum-wash file:px-3 file:py-2"
        />
        <p className="mt-1 text-sm text-soft">
          JSON, CSV, XLSX or DCF, as Drive Keep saves them, or a table of your own with “code” and “value”; up
          to 5 MB.
        </p>
      </SheetPart>
      {preview.isPending && <Asking what="what the file holds" />}
      {preview.error && (
        <FileProblem error={preview.error} readAsLatin={() => look(file, { ...reading, latin: true })} />
      )}
      {seen && (
        <Seen
          {...{ tag, preview: seen, keep, checks }}
          carry={
            seen.carriesFrom !== null && !reading.carry && (() => look(file, { ...reading, carry: true }))
          }
        />
      )}
    </Page>
  );
}

function Seen({
  tag,
  preview: seen,
  keep,
  checks,
  carry,
}: {
  tag: string;
  preview: ImportPreview;
  keep: UseMutationResult<ImportedFile, ProblemError, string>;
  checks: UseMutationResult<ChecksView, ProblemError, { chosen: File; as: Reading }>;
  carry: (() => void) | false;
}) {
  return (
    <>
      <FileContent preview={seen} carry={carry} />
      {seen.acceptable && <Against tag={tag} against={seen.against} />}
      {seen.acceptable && checks.data?.against && (
        <SheetPart name="What the checks find" state={`${checks.data.findings.length}`}>
          <FindingsAgainst against={checks.data.against} />
        </SheetPart>
      )}
      {checks.isPending && <Asking what="what the checks find in it" />}
      <SheetPart name="Keep" state={seen.acceptable ? 'ready' : 'not possible'}>
        <Button
          weight="main"
          disabled={!seen.acceptable || keep.isPending}
          onClick={() => keep.mutate(seen.hash)}
        >
          {seen.partial && seen.acceptable
            ? `Take in as a part, to compare and to write`
            : `Keep as a set of ${tag}`}
        </Button>
        {keep.error && <ProblemNotice error={keep.error} />}
      </SheetPart>
    </>
  );
}

const Head = ({ tag }: { tag: string }) => (
  <>
    <h1 className="text-2xl font-semibold">
      Import a set for{' '}
      <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
        {tag}
      </Link>
    </h1>
    <p className="mt-1 mb-4 text-soft">
      Nothing is kept until you say so, and nothing is written to the unit.
    </p>
  </>
);

function FileContent({ preview, carry }: { preview: ImportPreview; carry: (() => void) | false }) {
  const stops = preview.findings.filter((finding) => finding.attention === 'stop').length;
  return (
    <SheetPart name="What it holds" state={preview.kind.toUpperCase()}>
      <p>
        {preview.parameters} of {preview.expected} parameters for {preview.model} ({preview.dictionary}).{' '}
        {preview.sameAs && <b>Same content as the backup of {showTime(preview.sameAs)}.</b>}
      </p>
      {preview.likelyModels.length > 0 && (
        <p className="mt-1">
          <b>The codes are those of {preview.likelyModels.join(' or ')}.</b> Is this the right position?
        </p>
      )}
      {carry && (
        <p className="mt-1">
          The file is of {preview.carriesFrom}, another version of the same model.{' '}
          <Button className="min-h-12" onClick={carry}>
            Carry it over to {preview.dictionary}
          </Button>
        </p>
      )}
      {preview.acceptable && <p className="font-mono text-xs break-all text-soft">{preview.hash}</p>}
      {stops > 0 && !carry && (
        <div className="mt-2">
          <Notice level="stop">
            {stops === 1 ? 'One finding has' : `${stops} findings have`} to be mended in the file first.
          </Notice>
        </div>
      )}
      <Findings findings={preview.findings} />
    </SheetPart>
  );
}

/** What would be there that is not what is known of the unit. */
function Against({ tag, against }: { tag: string; against: readonly FileDifferences[] }) {
  const state =
    against.length === 0
      ? 'nothing to hold it against'
      : against.map(({ count, title }) => `${count} from ${title}`).join(', ');
  return (
    <SheetPart name="Differences" state={state}>
      {against.length === 0 && (
        <p className="text-soft">
          {tag} has no backup and no baseline of this model yet: the file is the first that is known of it.
        </p>
      )}
      {against.map(({ reference, title, at, count, first }) => (
        <details key={reference} open={count > 0 && reference === 'newest'} className="mb-2">
          <summary className="cursor-pointer py-1 max-lg:min-h-12">
            <b>
              {count === 0
                ? `The same as ${title}`
                : `${count} ${count === 1 ? 'value differs' : 'values differ'} from ${title}`}
            </b>{' '}
            <span className="text-soft">of {showTime(at)}</span>
          </summary>
          {count > 0 && <Differences rows={first} />}
          {count > first.length && (
            <p className="text-sm text-soft">The first {first.length} of them are shown.</p>
          )}
        </details>
      ))}
    </SheetPart>
  );
}

const Differences = ({ rows }: { rows: FileDifferences['first'] }) => (
  <div className="overflow-x-auto">
    <table className="w-full text-left text-sm">
      <thead className="text-soft">
        <tr className="[&>th]:pr-3 [&>th]:font-normal">
          <th>Parameter</th>
          <th className="text-right">Kept</th>
          <th className="text-right">In the file</th>
          <th>Change</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ code, name, before, after, change }) => (
          <tr key={code} className="border-t border-rule align-baseline [&>td]:py-1 [&>td]:pr-3">
            <td>
              <span className="font-mono font-semibold">{code}</span> {name}
            </td>
            <td className="text-right font-mono">{before}</td>
            <td className="text-right font-mono">{after}</td>
            <td>{change}</td>
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);
