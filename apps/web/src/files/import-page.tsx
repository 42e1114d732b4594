// A file for a position: what it holds and what is wrong with it, before anything is kept.

import type { ImportedBackup, ImportPreview } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { fileForm } from '../api/file-form.ts';
import { forgetPositions } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Findings } from '../ui/findings.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';

export function ImportPage() {
  const { tag = '' } = useParams();
  const [file, setFile] = useState<File>();
  const navigate = useNavigate();
  const preview = useMutation<ImportPreview, ProblemError, File>({
    mutationFn: (chosen) => post(`positions/${tag}/imports/preview`, fileForm(chosen)),
  });
  const keep = useMutation<ImportedBackup, ProblemError, string>({
    mutationFn: (hash) => post(`positions/${tag}/imports`, fileForm(file, hash)),
    onSuccess: async ({ backupId }) => {
      await forgetPositions();
      void navigate(`/positions/${tag}?b=backup:${backupId}`);
    },
  });
  const choose = (chosen: File | undefined) => {
    setFile(chosen);
    keep.reset();
    if (chosen) preview.mutate(chosen);
  };
  return (
    <Page title={`Import for ${tag}`}>
      <h1 className="text-2xl font-semibold">
        Import a set for{' '}
        <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
          {tag}
        </Link>
      </h1>
      <p className="mt-1 mb-4 text-soft">
        Nothing is kept until you say so, and nothing is written to the unit.
      </p>
      <SheetPart name="File" state={file ? 'chosen' : 'open'}>
        <input
          type="file"
          aria-label="File with a parameter set"
          accept=".json,.csv,.txt,.xlsx,.dcf"
          onChange={(event) => choose(event.target.files?.[0])}
          className="block w-full rounded border border-rule bg-sheet p-2 file:mr-3 file:rounded file:border-0 file:bg-plum-wash file:px-3 file:py-2"
        />
        <p className="mt-1 text-sm text-soft">
          JSON, CSV, XLSX or DCF, as Drive Keep saves them, or a table of your own with “code” and “value”; up
          to 5 MB.
        </p>
      </SheetPart>
      {preview.error && <ProblemNotice error={preview.error} />}
      {preview.data && (
        <>
          <FileContent preview={preview.data} />
          <SheetPart name="Keep" state={preview.data.acceptable ? 'ready' : 'not possible'}>
            <Button
              weight="main"
              disabled={!preview.data.acceptable || keep.isPending}
              onClick={() => keep.mutate(preview.data.hash)}
            >
              Keep as a set of {tag}
            </Button>
            {keep.error && <ProblemNotice error={keep.error} />}
          </SheetPart>
        </>
      )}
    </Page>
  );
}

function FileContent({ preview }: { preview: ImportPreview }) {
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
      {preview.acceptable && <p className="font-mono text-xs break-all text-soft">{preview.hash}</p>}
      {stops > 0 && (
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
