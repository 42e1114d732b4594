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
      <div className="flex flex-wrap items-baseline gap-x-3 text-2xl font-semibold">
        <Link to="/drafts" className="text-plum hover:underline">
          Starting point
        </Link>
        <h1>{point?.name ?? id}</h1>
      </div>
      {point ? (
        <Text key={point.id} point={point} points={points} />
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
  // Somebody else may keep a revision meanwhile: what is typed here stays with the one that it began with.
  const [base, setBase] = useState(point);
  const [text, setText] = useState(point.text);
  const isChanged = text !== base.text;
  const take = (other: StartingPointView) => {
    setBase(other);
    setText(other.text);
  };
  if (!isChanged && base.revision !== point.revision) take(point);
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
          {!isChanged && <Reading may={may} />}
          {isChanged && base.revision !== point.revision && (
            <p className="mb-2 text-sm">
              {point.revisions[0]?.savedBy} has kept revision {point.revision} meanwhile.{' '}
              <Button className="min-h-7! py-0" onClick={() => take(point)}>
                Take theirs
              </Button>
            </p>
          )}
          {read?.ok && isChanged && (
            <p>The file is understood: {read.value.table.length} lines in its table.</p>
          )}
          {isChanged && (
            <Keep
              text={text}
              id={read?.ok ? read.value.id : undefined}
              seen={
                read?.ok && read.value.id !== base.id
                  ? (points.find(({ id }) => id === read.value.id)?.revision ?? 0)
                  : base.revision
              }
              back={() => take(point)}
              kept={take}
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

function Reading({ may }: { may: boolean }) {
  return (
    <ul className="list-disc space-y-1 pl-5 text-sm text-soft">
      <li>
        <b className="font-medium text-ink">asks</b> are questions of the sheet, with the value that is usual.
      </li>
      <li>
        <b className="font-medium text-ink">devices</b> are what hangs at the drive, and what each does there;
        the terminals are found for each model.
      </li>
      <li>
        <b className="font-medium text-ink">sets</b> is what a drive has to be told, in meanings of the{' '}
        <Link to="/look-up" className="text-plum underline">
          look-up
        </Link>
        .
      </li>
      <li>
        <b className="font-medium text-ink">table</b> is what the contacts must do; every sheet is held
        against it.
      </li>
      {may && <li>Changed here it is kept for the plant; under another id it is one more.</li>}
    </ul>
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
  kept: take,
}: {
  text: string;
  id: string | undefined;
  seen: number;
  back: () => void;
  kept: (point: StartingPointView) => void;
}) {
  const navigate = useNavigate();
  const [why, setWhy] = useState('');
  const keep = useMutation<StartingPointView, ProblemError>({
    mutationFn: () => put(`starting-points/${id ?? ''}`, { text, why: why.trim(), seen }),
    onSuccess: async (kept) => {
      await queryClient.invalidateQueries({ queryKey: ['starting-points'] });
      take(kept);
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
