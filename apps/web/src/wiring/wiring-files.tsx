// The wiring as a file: out as it is kept, in as a draft that is looked at before it is kept.

import type { WiringView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useRef } from 'react';
import { post, type ProblemError } from '../api/client.ts';
import { fileForm, readingQuery } from '../api/file-form.ts';
import { Button } from '../ui/button.tsx';
import { FileMenu } from '../ui/file-menu.tsx';
import { Findings } from '../ui/findings.tsx';
import { FileProblem } from '../ui/file-problem.tsx';
import { Notice } from '../ui/notice.tsx';
import { rowOf, type WiringDraft } from './use-wiring-draft.ts';

export function WiringFiles({
  tag,
  draft,
  mayWrite,
}: {
  tag: string;
  draft: WiringDraft;
  mayWrite: boolean;
}) {
  const chosen = useRef<HTMLInputElement>(null);
  const read = useMutation<
    Pick<WiringView, 'rows' | 'findings'>,
    ProblemError,
    { file: File; latin?: boolean }
  >({
    mutationFn: ({ file, latin = false }) =>
      post(`positions/${tag}/wiring/read${readingQuery({ latin })}`, fileForm(file)),
    onSuccess: ({ rows }) => {
      if (rows.length > 0) draft.change(rows.map(rowOf));
    },
  });
  const nothing = read.data !== undefined && read.data.rows.length === 0;
  return (
    <>
      <div className="mt-2 flex flex-wrap gap-2">
        <FileMenu
          name="Files"
          label="The wiring as a file"
          files={[
            { name: 'CSV', href: `/api/positions/${tag}/wiring/file?as=csv` },
            { name: 'XLSX', href: `/api/positions/${tag}/wiring/file?as=xlsx` },
          ]}
        />
        {mayWrite && (
          <>
            <Button onClick={() => chosen.current?.click()} disabled={read.isPending}>
              {read.isPending ? 'Reading the file' : 'Take a file in'}
            </Button>
            <input
              ref={chosen}
              type="file"
              accept=".csv,.xlsx"
              aria-label="Wiring as CSV or XLSX"
              className="sr-only"
              tabIndex={-1}
              onChange={({ target }) => {
                const [file] = target.files ?? [];
                if (file) read.mutate({ file });
                target.value = '';
              }}
            />
          </>
        )}
      </div>
      {nothing && (
        <Notice level="stop">
          The file was not taken in; the wiring above is as it was.
          {read.data?.findings.length === 0 ? (
            ' It has no rows.'
          ) : (
            <Findings findings={read.data?.findings ?? []} />
          )}
        </Notice>
      )}
      {read.error && (
        <FileProblem
          error={read.error}
          readAsLatin={() => read.variables && read.mutate({ ...read.variables, latin: true })}
        />
      )}
    </>
  );
}
