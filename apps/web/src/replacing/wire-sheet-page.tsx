// What hands do at the cabinet, in the order in which one works: what must be dead first. Each line is ticked off by name; it
// goes on without a network, and prints.

import { PHASE_NAMES, PHASES, type Task } from '@drive-keep/core/replace';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useSession } from '../api/queries.ts';
import { Asking, Unanswered } from '../ui/answer.tsx';
import { BroughtProgress } from '../ui/brought-progress.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { useWireSheet, type WireSheetState } from './use-wire-sheet.ts';
import { useWireSheets, type OwnTick, type OwnWireSheet } from './wire-sheet-store.ts';

export function WireSheetPage() {
  const { id = '' } = useParams();
  const state = useWireSheet(id);
  const { own } = state;
  if (!own) return <Unanswered error={state.error} what="this wire sheet" />;
  const done = own.tasks.filter((task) => isDone(own, task)).length;
  return (
    <Page title={`Wires ${own.tag}`}>
      <div className="mx-auto max-w-3xl">
        <h1 className="text-xl font-semibold">
          Wire sheet{' '}
          <Link to={`/replacements/${id}`} className="font-mono text-plum hover:underline">
            {own.tag}
          </Link>
        </h1>
        <p className="text-soft">
          {own.duty} · {own.from} by {own.to === '' ? 'its successor' : own.to}
        </p>
        <BroughtProgress
          done={done}
          total={own.tasks.length}
          label="Ticked so far"
          network={state.network}
          kept={keptText(state)}
        />
        {state.error && <ProblemNotice error={state.error} />}
        {own.state !== 'open' && (
          <div className="mt-3">
            <Notice level="plain">This replacement has ended: the sheet is only shown.</Notice>
          </div>
        )}
        {own.tasks.length === 0 && <Asking what="the lines of this sheet" />}
        <Phases id={id} own={own} />
      </div>
    </Page>
  );
}

const isDone = ({ ticks }: OwnWireSheet, { id }: Task): boolean => (ticks[id]?.note ?? null) !== null;

function keptText({ waiting, network }: WireSheetState): string {
  if (network === 'away')
    return `No network: ${waiting} ticks on this device only. Go on; they are sent when it is back.`;
  return waiting > 0 ? `${waiting} being sent` : 'All ticks are on the server.';
}

function Phases({ id, own }: { id: string; own: OwnWireSheet }) {
  const { data: session } = useSession();
  // Without a network the session may not be known: the server decides when the ticks come.
  const may = own.state === 'open' && session?.role !== 'viewer';
  const dead = own.tasks.filter(({ phase }) => phase === 'before').every((task) => isDone(own, task));
  return PHASES.map((phase) => {
    const tasks = own.tasks.filter((task) => task.phase === phase);
    if (tasks.length === 0) return null;
    const left = tasks.filter((task) => !isDone(own, task)).length;
    return (
      <section key={phase} className="mt-5">
        <h2 className="border-b-2 border-rule pb-1 font-semibold">
          {PHASE_NAMES[phase]}{' '}
          <span className="font-normal text-soft">
            {left === 0 ? 'all done' : `${left} of ${tasks.length} left`}
          </span>
        </h2>
        {phase === 'off' && !dead && <NotDead />}
        <ul>
          {tasks.map((task) => (
            <TaskRow key={task.id} id={id} tag={own.tag} task={task} tick={own.ticks[task.id]} may={may} />
          ))}
        </ul>
      </section>
    );
  });
}

const NotDead = () => (
  <p className="mt-2 border-l-4 border-stop bg-stop-wash px-3 py-1 print:hidden">
    Not everything above is done: no hand goes in before it is proved dead.
  </p>
);

interface TaskRowProps {
  readonly id: string;
  readonly tag: string;
  readonly task: Task;
  readonly tick: OwnTick | undefined;
  readonly may: boolean;
}

function TaskRow({ id, tag, task, tick, may }: TaskRowProps) {
  const set = useWireSheets((state) => state.tick);
  const [noting, setNoting] = useState(false);
  const done = (tick?.note ?? null) !== null;
  const say = (note: string | null) => set(id, task.id, note, new Date().toISOString());
  return (
    <li data-task={task.id} className="break-inside-avoid border-b border-rule py-2">
      <div className="flex items-start gap-3">
        <span aria-hidden="true" className="hidden pt-1 text-xl print:inline">
          {done ? '☑' : '☐'}
        </span>
        <span className="min-w-0 flex-1">
          <span className={`block text-lg ${done ? 'text-soft' : ''}`}>{task.text}</span>
          {task.detail !== '' && <span className="block text-sm text-soft">{task.detail}</span>}
          {tick && <TickTold tick={tick} />}
          {task.id === 'before photo' && (
            <Link
              to={`/positions/${tag}/wiring`}
              className="mr-4 inline-block min-h-8 text-sm text-plum underline max-lg:min-h-12 max-lg:pt-3 print:hidden"
            >
              Keep the photograph with the wiring
            </Link>
          )}
          {may && (
            <button
              type="button"
              aria-expanded={noting}
              aria-label={`Note for ${task.text}`}
              className="min-h-8 text-sm text-plum underline max-lg:min-h-12 print:hidden"
              onClick={() => setNoting(!noting)}
            >
              {task.named ? 'Note what was measured or found' : 'Note'}
            </button>
          )}
        </span>
        {may && (
          <Button
            weight={done ? 'main' : 'plain'}
            aria-pressed={done}
            aria-label={`${task.text}: done`}
            className="min-h-14 min-w-20 shrink-0 justify-center text-base print:hidden"
            onClick={() => say(done ? null : '')}
          >
            {done ? '✓ done' : 'Done'}
          </Button>
        )}
      </div>
      {noting && (
        <input
          autoFocus
          aria-label={`What there is to say about ${task.text}`}
          placeholder="Measured, found, by whom"
          defaultValue={tick?.note ?? ''}
          maxLength={500}
          className="mt-2 h-12 w-full rounded border border-rule bg-sheet px-3"
          onBlur={({ target }) => {
            setNoting(false);
            if (target.value.trim() !== '' && target.value !== tick?.note) say(target.value.trim());
          }}
        />
      )}
    </li>
  );
}

function TickTold({ tick: { note, by, at, sent, other } }: { tick: OwnTick }) {
  return (
    <span className="block text-sm">
      {note !== null && note !== '' && <b className="font-medium">{note} </b>}
      {note !== null && (
        <span className="text-soft">{sent ? `${by ?? ''}, ${showTime(at)}` : 'on this device only'}</span>
      )}
      {other && <span className="ml-1 bg-look-wash px-1">before that {other}</span>}
    </span>
  );
}
