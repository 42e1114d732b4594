// Tables of settings that machine makers give: those that are kept, and one that is brought and looked at before it is kept.

import type { ModelListing, SettingTablePreview, SettingTableView } from '@drive-keep/api';
import { TABLE_KEYS } from '@drive-keep/core/tables';
import { readTable } from '@drive-keep/core/values';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { post, type ProblemError } from '../api/client.ts';
import { readingQuery } from '../api/file-form.ts';
import { queryClient, useModels, useSession, useSettingTables } from '../api/queries.ts';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Findings } from '../ui/findings.tsx';
import { FileProblem } from '../ui/file-problem.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';

export function SettingTablesPage() {
  const { data: tables, error } = useSettingTables();
  const { data: models } = useModels();
  const { data: session } = useSession();
  if (!tables || !models) return <Unanswered error={error} what="the setting tables" />;
  return (
    <Page title="Setting tables">
      <h1 className="text-2xl font-semibold">Setting tables</h1>
      <p className="mt-1 mb-3 text-soft">
        What the maker of a machine gives: this unit, this motor, this supply, these values. The row that
        holds for a position is offered on the sheet of its replacement.
      </p>
      {session?.role === 'engineer' && <Bring models={models} />}
      <SheetPart name="Kept" state={`${tables.length}`}>
        {tables.length === 0 && <Nothing>None yet. An engineer brings one as CSV or XLSX.</Nothing>}
        {tables.map((table) => (
          <KeptTable key={table.id} table={table} />
        ))}
      </SheetPart>
    </Page>
  );
}

function KeptTable({
  table: { name, revision, dictionary, content, savedBy, savedAt, why },
}: {
  table: SettingTableView;
}) {
  const table = readTable(content);
  return (
    <details className="border-b border-rule py-1">
      <summary className="cursor-pointer py-1 max-lg:min-h-12">
        <b className="font-semibold">{name}</b>, revision {revision}{' '}
        <span className="text-soft">
          {dictionary} · {why} · {savedBy}, {showTime(savedAt)}
        </span>
      </summary>
      {table.ok && (
        <Cells
          columns={table.value.columns}
          rows={table.value.rows.map(({ cells }) => table.value.columns.map((column) => cells[column] ?? ''))}
        />
      )}
    </details>
  );
}

function Cells({ columns, rows }: { columns: readonly string[]; rows: readonly (readonly string[])[] }) {
  return (
    <div className="max-h-96 overflow-auto">
      <table className="text-left text-sm">
        <thead className="text-soft">
          <tr>
            <th className="pr-4 text-right font-normal">Line</th>
            {columns.map((column) => (
              <th key={column} className="pr-4 font-mono font-normal">
                {column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            <tr key={at + 2} className="border-t border-rule">
              <td className="pr-4 text-right text-soft">{at + 2}</td>
              {columns.map((column, place) => (
                <td key={column} className="pr-4 font-mono">
                  {row[place]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const LEAST_REASON = 3;
const FIELD = 'h-9 rounded border border-rule bg-sheet px-2 text-sm max-lg:h-12';

function formOf(file: File, fields: Readonly<Record<string, string>>): FormData {
  const form = new FormData();
  for (const [key, value] of Object.entries(fields)) form.set(key, value);
  form.set('file', file);
  return form;
}

interface Asked {
  readonly file: File;
  readonly dictionary: string;
  readonly latin: boolean;
}

function Bring({ models }: { models: readonly ModelListing[] }) {
  const [dictionary, setDictionary] = useState(models[0]?.id ?? '');
  const [file, setFile] = useState<File>();
  const chosen = useRef<HTMLInputElement>(null);
  const read = useMutation<SettingTablePreview, ProblemError, Asked>({
    mutationFn: ({ file: given, dictionary: model, latin }) =>
      post(`setting-tables/read${readingQuery({ latin })}`, formOf(given, { dictionary: model })),
  });
  const look = (given: File | undefined, model: string) => {
    if (given) read.mutate({ file: given, dictionary: model, latin: false });
  };
  const good = read.data?.findings.every(({ attention }) => attention !== 'stop') === true;
  return (
    <SheetPart name="Bring a table">
      <p className="text-sm text-soft">
        Key columns are headed {Object.keys(TABLE_KEYS).join(', ')}; value columns by a code or a meaning of
        the model, with values as its keypad shows them.
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <Choice
          label="Model"
          value={dictionary}
          options={models.map(({ id, maker, name: own, version }) => ({
            id,
            name: `${maker} ${own}, version ${version}`,
          }))}
          onChange={({ target }) => {
            setDictionary(target.value);
            look(file, target.value);
          }}
        />
        <Button onClick={() => chosen.current?.click()}>{file ? file.name : 'Choose a CSV or XLSX'}</Button>
        <input
          ref={chosen}
          type="file"
          accept=".csv,.xlsx"
          aria-label="Setting table as CSV or XLSX"
          className="sr-only"
          tabIndex={-1}
          onChange={({ target }) => {
            const [given] = target.files ?? [];
            setFile(given);
            look(given, dictionary);
            target.value = '';
          }}
        />
      </div>
      {read.error && (
        <FileProblem
          error={read.error}
          readAsLatin={() => read.variables && read.mutate({ ...read.variables, latin: true })}
        />
      )}
      {read.data && (
        <>
          <Findings findings={read.data.findings} />
          <Cells columns={read.data.columns} rows={read.data.rows} />
        </>
      )}
      {good && file && (
        <Keep
          file={file}
          latin={read.variables?.latin === true}
          dictionary={dictionary}
          done={() => setFile(undefined)}
        />
      )}
    </SheetPart>
  );
}

function Keep({ file, latin, dictionary, done }: Asked & { readonly done: () => void }) {
  const [name, setName] = useState('');
  const [why, setWhy] = useState('');
  const keep = useMutation<readonly SettingTableView[], ProblemError>({
    mutationFn: () =>
      post(
        `setting-tables${readingQuery({ latin })}`,
        formOf(file, { dictionary, name: name.trim(), why: why.trim() }),
      ),
    onSuccess: (tables) => {
      queryClient.setQueryData(['setting-tables'], tables);
      done();
    },
  });
  const ready = name.trim().length >= LEAST_REASON && why.trim().length >= LEAST_REASON;
  return (
    <form
      className="mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <input
        aria-label="Name of the table"
        placeholder="Name of the table"
        maxLength={80}
        className={`${FIELD} w-56`}
        value={name}
        onChange={({ target }) => setName(target.value)}
      />
      <input
        aria-label="Where it comes from"
        placeholder="Where it comes from"
        maxLength={300}
        className={`${FIELD} w-72`}
        value={why}
        onChange={({ target }) => setWhy(target.value)}
      />
      <Button type="submit" weight="main" disabled={keep.isPending || !ready}>
        Keep the table
      </Button>
      {keep.error && <ProblemNotice error={keep.error} />}
    </form>
  );
}
