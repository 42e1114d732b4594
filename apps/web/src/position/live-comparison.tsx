// The unit as it is now against a kept set: rows come in as they are read. Nothing is kept and nothing decided; the
// reading stops when one leaves.

import type {
  ComparedSide,
  ComparisonRowView,
  ComparisonView,
  HistoryView,
  LiveEvent,
} from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { useEffect, useState } from 'react';
import { useComparison, useDictionary } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Notice } from '../ui/notice.tsx';
import { showTime } from '../words/dates.ts';
import { ComparisonTable } from './comparison-table.tsx';
import { SideChoice } from './side-choice.tsx';

interface Progress {
  readonly rows: readonly ComparisonRowView[];
  readonly done: number;
  readonly total: number;
  readonly end: Extract<LiveEvent, { kind: 'end' }> | null;
}

const UNIT_ITSELF: ComparedSide = {
  reference: 'live',
  lastingReference: 'live',
  title: 'The unit itself, now',
  at: null,
  hash: '',
};
const START: Progress = { rows: [], done: 0, total: 0, end: null };
const LOST = 'The reading broke off: Drive Keep does not answer, or this unit cannot be read. Read it again.';

function useLiveReading(tag: string, a: string, run: number): Progress {
  const reading = `${tag} ${a} ${run}`;
  const [kept, setKept] = useState({ of: reading, ...START });
  useEffect(() => {
    // What came of the reading before is none of this one's.
    const setProgress = (next: (before: Progress) => Progress) =>
      setKept((before) => ({ ...next(before.of === reading ? before : START), of: reading }));
    const events = new EventSource(`/api/positions/${tag}/live?a=${encodeURIComponent(a)}`);
    const end = (event: Progress['end']) => {
      events.close();
      setProgress((before) => ({ ...before, end: event }));
    };
    events.addEventListener('live', ({ data }: MessageEvent<string>) => {
      const event = JSON.parse(data) as LiveEvent;
      if (event.kind === 'end') return end(event);
      const { done, total } = event;
      setProgress((before) => ({ ...before, done, total, rows: [...before.rows, ...event.rows] }));
    });
    events.addEventListener('error', () =>
      end({ kind: 'end', ok: false, text: LOST, at: new Date().toISOString() }),
    );
    return () => events.close();
  }, [tag, a, reading]);
  return kept.of === reading ? kept : START;
}

export function LiveComparison({
  tag,
  a,
  find,
  history,
  choose,
}: {
  tag: string;
  a: string;
  find: string;
  history: HistoryView;
  choose: (sides: { a?: string; b?: string }) => void;
}) {
  const [run, setRun] = useState(0);
  const { rows, done, total, end } = useLiveReading(tag, a, run);
  // What side A is called; the newest backup stands in for the unit until it has been read.
  const kept = useComparison(tag, new URLSearchParams({ a, b: 'newest' }).toString());
  const dictionary = useDictionary(kept.data?.dictionary);
  if (!kept.data || !dictionary.data) return <Unanswered error={kept.error} what="the set to compare with" />;
  const comparison: ComparisonView = { ...kept.data, rows };
  const state = end
    ? end.ok
      ? `read at ${showTime(end.at)}`
      : 'not read to the end'
    : total === 0
      ? 'waits for the line'
      : `${done} of ${total} requests`;
  return (
    <section aria-label="Comparison" className="mt-4">
      <div className="space-y-1.5">
        <SideChoice
          tag={tag}
          letter="A"
          side={kept.data.a}
          history={history}
          choose={(reference) => choose({ a: reference })}
        />
        <SideChoice
          tag={tag}
          letter="B"
          side={UNIT_ITSELF}
          history={history}
          choose={(reference) => choose({ b: reference })}
        />
      </div>
      <div className="mt-3 mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        {!end && (
          <progress value={done} max={Math.max(1, total)} aria-label="Read so far" className="h-2 w-40" />
        )}
        <span role="status" className="text-sm">
          {state}, {rows.length === 1 ? '1 difference' : `${rows.length} differences`}
          {!end && ' so far'}
        </span>
        {end && <Button onClick={() => setRun(run + 1)}>Read it again</Button>}
        <span className="text-sm text-soft">Nothing of this is kept; a backup keeps it.</span>
      </div>
      {end && !end.ok && <Notice level="stop">{end.text}</Notice>}
      {(rows.length > 0 || end?.ok) && (
        <ComparisonTable
          tag={tag}
          comparison={comparison}
          dictionary={dictionary.data}
          find={find}
          deciding={null}
        />
      )}
    </section>
  );
}
