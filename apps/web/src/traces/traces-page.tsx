// Traces of a position: what was recorded, and the sheet that begins the next.

import type { PositionDetailView, TraceListing, TraceView } from '@drive-keep/api';
import { watchableOf, type LiveMeaning } from '@drive-keep/core/live';
import { MOST_SIGNALS } from '@drive-keep/core/signals';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useDictionary, usePosition, useSession, useTraces } from '../api/queries.ts';
import { LIVE_NAMES, liveName } from '../live/live-words.ts';
import { HeadLine } from '../position/head-line.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';

const LENGTHS = [
  { id: '30', name: '30 s' },
  { id: '60', name: '1 min' },
  { id: '180', name: '3 min' },
  { id: '600', name: '10 min' },
];
/** What a ramp is judged by; a loop's signals come before them where one works. */
const USUAL: readonly LiveMeaning[] = ['frequency', 'setpoint', 'current', 'busVoltage'];

export function TracesPage() {
  const { tag = '' } = useParams();
  const { data: position, error } = usePosition(tag);
  const { data: traces, error: notListed } = useTraces(tag);
  const { data: session } = useSession();
  if (!position) return <Unanswered error={error} what="this position" />;
  const mayWork = session?.role !== 'viewer' && position.retiredAt === null;
  return (
    <Page title={`Traces of ${tag}`}>
      <HeadLine position={position} />
      <p className="mt-2 text-sm">
        <Link to={`/positions/${tag}`} className="text-plum underline">
          Back to the comparison
        </Link>
      </p>
      {mayWork && position.unit.line && <Begin position={position} />}
      {mayWork && <Bring tag={tag} />}
      <SheetPart name="Kept" state={traces ? `${traces.length}` : ''}>
        {traces ? <Kept traces={traces} /> : <Unanswered error={notListed} what="its traces" />}
      </SheetPart>
    </Page>
  );
}

function Kept({ traces }: { traces: readonly TraceListing[] }) {
  if (traces.length === 0)
    return (
      <Nothing>
        No trace yet. The first one that is recorded stands here, with its picture and figures.
      </Nothing>
    );
  return (
    <ul className="border-t border-rule">
      {traces.map(({ id, title, state, beganAt, beganBy, signals, samples, endedWhy }) => (
        <li key={id} className="grid gap-x-4 border-b border-rule py-1.5 md:grid-cols-[10.5rem_1fr_1fr]">
          <span>{showTime(beganAt)}</span>
          <span>
            <Link to={`/traces/${id}`} className="font-semibold text-plum hover:underline">
              {title}
            </Link>
            {state === 'recording' && ' · being recorded'}
            <span className="block text-sm text-soft">
              {beganBy}. {endedWhy}
            </span>
          </span>
          <span className="text-sm text-soft">
            {signals.map(({ meaning }) => liveName(meaning)).join(', ')}; {samples} samples
          </span>
        </li>
      ))}
    </ul>
  );
}

function Begin({ position: { tag, unit } }: { position: PositionDetailView }) {
  const { data: dictionary, error } = useDictionary(unit.dictionary);
  const [title, setTitle] = useState('');
  const [seconds, setSeconds] = useState('60');
  const [chosen, setChosen] = useState<readonly string[]>();
  const navigate = useNavigate();
  const begin = useMutation<TraceView, ProblemError, readonly string[]>({
    mutationFn: (signals) =>
      post(`positions/${tag}/traces`, {
        title: title.trim() || 'Without a title',
        signals,
        seconds: Number(seconds),
      }),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: [`positions/${tag}/traces`] });
      void navigate(`/traces/${id}`);
    },
  });
  if (!dictionary) return <Unanswered error={error} what="its model" />;
  const known = watchableOf(dictionary).signals.map(({ meaning }) => meaning);
  const signals = chosen ?? USUAL.filter((each) => known.includes(each));
  const turn = (meaning: string) =>
    setChosen(signals.includes(meaning) ? signals.filter((each) => each !== meaning) : [...signals, meaning]);
  const bad = signals.length === 0 || signals.length > MOST_SIGNALS;
  return (
    <SheetPart name="Record" state="">
      <p className="text-sm text-soft">
        Drive Keep reads and writes nothing: whoever stands at the machine starts and stops it. Up to{' '}
        {MOST_SIGNALS} signals, as fast as the line lets it, twenty times a second at the most.
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <label className="grid text-sm">
          What for
          <input
            value={title}
            maxLength={120}
            placeholder="Ramps after the new gear"
            onChange={({ target }) => setTitle(target.value)}
            className="min-h-9 w-80 max-w-full rounded border border-rule bg-sheet px-2 text-base max-lg:min-h-12"
          />
        </label>
        <Choice
          label="At most"
          value={seconds}
          options={LENGTHS}
          onChange={({ target }) => setSeconds(target.value)}
        />
      </div>
      <fieldset className="mt-2">
        <legend className="text-sm">Signals</legend>
        <div className="flex flex-wrap gap-x-5 gap-y-1">
          {known.map((meaning) => (
            <label key={meaning} className="flex items-center gap-1.5 max-lg:min-h-12">
              <input type="checkbox" checked={signals.includes(meaning)} onChange={() => turn(meaning)} />
              {LIVE_NAMES[meaning]}
            </label>
          ))}
        </div>
      </fieldset>
      {signals.length > MOST_SIGNALS && (
        <p className="mt-1">
          At most {MOST_SIGNALS} signals: take {signals.length - MOST_SIGNALS} away.
        </p>
      )}
      <div className="mt-2">
        <Button weight="main" disabled={bad || begin.isPending} onClick={() => begin.mutate(signals)}>
          {begin.isPending ? 'The unit is asked …' : 'Record'}
        </Button>
      </div>
      {begin.error && <ProblemNotice error={begin.error} />}
    </SheetPart>
  );
}

function Bring({ tag }: { tag: string }) {
  const navigate = useNavigate();
  const bring = useMutation<TraceView, ProblemError, File>({
    mutationFn: (file) => {
      const form = new FormData();
      form.set('file', file);
      return post(`positions/${tag}/traces/file`, form);
    },
    onSuccess: ({ id }) => navigate(`/traces/${id}`),
  });
  return (
    <SheetPart name="Bring a file" state="">
      <label className="block text-sm text-soft">
        A CSV or XLSX with a column “time s” and a column for each signal, such as “frequency Hz”: as it is
        saved here.
        <input
          type="file"
          accept=".csv,.xlsx"
          disabled={bring.isPending}
          onChange={({ target }) => target.files?.[0] && bring.mutate(target.files[0])}
          className="mt-1 block text-base text-ink"
        />
      </label>
      {bring.error && <ProblemNotice error={bring.error} />}
    </SheetPart>
  );
}
