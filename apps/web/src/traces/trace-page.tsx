// A trace: its picture, what was reckoned from it, and its files; another one of the same position can lie on top.

import type { TraceListing, TraceView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useSession, useTrace, useTraces } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { FiguresPart } from './figures-part.tsx';
import { TracePicture } from './trace-picture.tsx';
import { useFigures } from './use-figures.ts';
import { useSamples } from './use-samples.ts';

export function TracePage() {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: view, error } = useTrace(id);
  const other = params.get('with') ?? '';
  const { data: otherView } = useTrace(other);
  const { trace, fault } = useSamples(view);
  const below = useSamples(otherView);
  const settings = view?.state === 'kept' ? view.settings : undefined;
  const input = useMemo(() => (trace && settings ? { trace, settings } : undefined), [trace, settings]);
  const { figures, failed } = useFigures(input);
  const layers = useMemo(
    () => [
      ...(trace ? [{ name: '', trace, shift: 0 }] : []),
      ...(below.trace && otherView ? [{ name: otherView.title, trace: below.trace, shift: 0 }] : []),
      ...(figures?.predicted
        ? [{ name: 'as its settings predict', trace: figures.predicted, shift: 0, reckoned: true }]
        : []),
    ],
    [trace, below.trace, otherView, figures],
  );
  if (!view) return <Unanswered error={error} what="this trace" />;
  const choose = (chosen: string) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (chosen === '') next.delete('with');
        else next.set('with', chosen);
        return next;
      },
      { replace: true },
    );
  return (
    <Page title={`Trace of ${view.tag}`}>
      <h1 className="text-2xl font-semibold">{view.title}</h1>
      <p className="mt-1 text-soft">
        <Link to={`/positions/${view.tag}/traces`} className="font-mono text-plum hover:underline">
          {view.tag}
        </Link>{' '}
        {view.duty}. {toldOf(view)}
      </p>
      {view.state === 'recording' && <Going view={view} />}
      {view.endedWhy !== '' && view.state === 'kept' && <p className="mt-1">{view.endedWhy}</p>}
      {fault && (
        <div className="mt-2">
          <Notice level="look">{fault}</Notice>
        </div>
      )}
      <div className="my-3 flex flex-wrap items-end gap-3">
        <OnTop tag={view.tag} id={id} chosen={other} choose={choose} />
        {view.state === 'kept' && (
          <>
            <FileLink id={id} format="csv" name="Save as CSV" />
            <FileLink id={id} format="xlsx" name="Save as XLSX" />
          </>
        )}
      </div>
      {!trace && !fault && <p className="text-soft">Its samples are being asked for …</p>}
      {trace && trace.times.length === 0 && <p className="text-soft">Nothing has come in yet.</p>}
      {trace && trace.times.length > 0 && (
        <TracePicture title={`${view.tag} ${view.title}`} layers={layers} markers={view.markers} />
      )}
      {failed && <Notice level="look">Its figures could not be worked out. Load the page again.</Notice>}
      {figures && <FiguresPart figures={figures} settings={view.settings} />}
    </Page>
  );
}

function toldOf({ beganAt, beganBy, serial, samples, endedAt }: TraceView): string {
  const seconds = endedAt === null ? null : (Date.parse(endedAt) - Date.parse(beganAt)) / 1000;
  const rate = seconds !== null && seconds > 0 ? `, ${(samples / seconds).toFixed(1)} a second` : '';
  const from = serial === null ? '' : `, serial number ${serial}`;
  return `${showTime(beganAt)}, ${beganBy}${from}. ${samples} samples${rate}.`;
}

function Going({ view: { id, seconds, beganAt } }: { view: TraceView }) {
  const { data: session } = useSession();
  const stop = useMutation<TraceView, ProblemError>({
    mutationFn: () => post(`traces/${id}/stop`),
    onSettled: () => queryClient.invalidateQueries({ queryKey: [`traces/${id}`] }),
  });
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3" role="status">
      <span>
        Being recorded since {showTime(beganAt)}; it ends by itself after {seconds} s.
      </span>
      {session?.role !== 'viewer' && (
        <Button onClick={() => stop.mutate()} disabled={stop.isPending}>
          End it now
        </Button>
      )}
      {stop.error && <ProblemNotice error={stop.error} />}
    </div>
  );
}

function OnTop({
  tag,
  id,
  chosen,
  choose,
}: {
  tag: string;
  id: string;
  chosen: string;
  choose: (id: string) => void;
}) {
  const { data: traces } = useTraces(tag);
  const others = (traces ?? []).filter((each) => each.id !== id && each.state === 'kept');
  if (others.length === 0) return null;
  const named = ({ id: own, title, beganAt }: TraceListing) => ({
    id: own,
    name: `${title}, ${showTime(beganAt)}`,
  });
  return (
    <Choice
      label="On top of it"
      value={chosen}
      options={[{ id: '', name: 'nothing' }, ...others.map(named)]}
      onChange={({ target }) => choose(target.value)}
    />
  );
}

const FileLink = ({ id, format, name }: { id: string; format: string; name: string }) => (
  <a
    href={`/api/traces/${id}/file?format=${format}`}
    download
    className="inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
  >
    {name}
  </a>
);
