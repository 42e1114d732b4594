// The file of a starting point: read by everybody, changed by an engineer, with every fault at its line while it is typed, and kept
// as a revision of the plant. Under another id it becomes a starting point of its own.

import type { StartingPointView } from '@drive-keep/api';
import { describe, type Finding } from '@drive-keep/core/findings';
import { Vocabulary } from '@drive-keep/core/meanings';
import { readStartingPoint } from '@drive-keep/core/start';
import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { put, type ProblemError } from '../api/client.ts';
import { queryClient, useSession, useStartingPoints, useVocabulary } from '../api/queries.ts';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';

export function StartingPointPage() {
  const { id = '' } = useParams();
  const { data: points, error } = useStartingPoints();
  if (!points) return <Unanswered error={error} what="the starting points" />;
  const point = points.find((each) => each.id === id);
  return (
    <Page title={point ? point.name : 'Starting point'}>
      <h1 className="text-2xl font-semibold">
        <Link to="/drafts" className="text-plum hover:underline">
          Starting point
        </Link>{' '}
        {point?.name}
      </h1>
      {point ? (
        <Text key={`${point.id} ${point.revision}`} point={point} points={points} />
      ) : (
        <Nothing>No starting point has this name.</Nothing>
      )}
    </Page>
  );
}

function Text({ point, points }: { point: StartingPointView; points: readonly StartingPointView[] }) {
  const { data: session } = useSession();
  const { data: words } = useVocabulary();
  const may = session?.role === 'engineer';
  const [text, setText] = useState(point.text);
  const read = useMemo(
    () => words && readStartingPoint(text, new Vocabulary(words.entries, words.functions)),
    [text, words],
  );
  return (
    <>
      <p className="mt-1 text-soft">
        {point.revision === 0 ? 'As the catalogue ships it.' : `Revision ${point.revision} of the plant.`}{' '}
        What a duty needs of a drive, in the words of the trade; drafts that have begun with it stay with the
        text that they began with.
      </p>
      <div className="mt-3 grid gap-4 lg:grid-cols-[minmax(0,3fr)_minmax(16rem,2fr)]">
        <textarea
          aria-label="File of the starting point"
          value={text}
          readOnly={!may}
          spellCheck={false}
          rows={32}
          onChange={({ target }) => setText(target.value)}
          className="w-full rounded border border-rule bg-sheet p-2 font-mono text-xs whitespace-pre"
        />
        <div>
          {read && !read.ok && <Faults faults={read.fault} />}
          {read?.ok && text !== point.text && (
            <p>The file is understood: {read.value.table.length} lines in its table.</p>
          )}
          {may && text !== point.text && (
            <Keep
              text={text}
              id={read?.ok ? read.value.id : undefined}
              seen={read?.ok ? (points.find(({ id }) => id === read.value.id)?.revision ?? 0) : 0}
              back={() => setText(point.text)}
            />
          )}
          <ol className="mt-3 text-sm">
            {point.revisions.map(({ revision, savedBy, savedAt, why }) => (
              <li key={revision} className="border-b border-rule py-1">
                Revision {revision}, {savedBy}, {showTime(savedAt)}: {why}
              </li>
            ))}
          </ol>
        </div>
      </div>
    </>
  );
}

function Faults({ faults }: { faults: readonly Finding[] }) {
  return (
    <section
      aria-label="Faults of the file"
      className="border-l-4 border-stop bg-stop-wash px-3 py-2 text-sm"
    >
      <b className="text-stop">
        {faults.length} {faults.length === 1 ? 'fault' : 'faults'}
      </b>
      <ul>
        {faults.map((fault, at) => (
          <li key={at}>
            <span className="tabular-nums">Line {fault.line ?? 1}:</span> {describe(fault)}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Keep({
  text,
  id,
  seen,
  back,
}: {
  text: string;
  id: string | undefined;
  seen: number;
  back: () => void;
}) {
  const navigate = useNavigate();
  const [why, setWhy] = useState('');
  const keep = useMutation<StartingPointView, ProblemError>({
    mutationFn: () => put(`starting-points/${id ?? ''}`, { text, why: why.trim(), seen }),
    onSuccess: async (kept) => {
      await queryClient.invalidateQueries({ queryKey: ['starting-points'] });
      void navigate(`/starting-points/${kept.id}`, { replace: true });
    },
  });
  return (
    <div className="mt-2">
      <div className="flex flex-wrap items-center gap-2">
        <input
          aria-label="Why it is kept"
          placeholder="why, for the record"
          value={why}
          onChange={({ target }) => setWhy(target.value)}
          className="h-9 w-56 rounded border border-rule bg-sheet px-2 text-sm max-lg:h-12"
        />
        <Button
          weight="main"
          disabled={id === undefined || why.trim().length < 3 || keep.isPending}
          onClick={() => keep.mutate()}
        >
          Keep it{id === undefined ? '' : ` as ${id}`}
        </Button>
        <Button onClick={back}>Back to what is kept</Button>
      </div>
      {keep.error && <ProblemNotice error={keep.error} />}
    </div>
  );
}
