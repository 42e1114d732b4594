// Rounds: which run when, what the last ones kept, what changed, what failed and why.

import type { RoundRunView, RoundView } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { useState } from 'react';
import { Link } from 'react-router';
import { useRounds, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { NewFindings } from './new-findings.tsx';
import { RoundForm } from './round-form.tsx';

const DAY_NAMES = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];

export function RoundsPage() {
  const { data: rounds, error } = useRounds();
  const { data: session } = useSession();
  const [editing, setEditing] = useState<string | null>(null);
  if (!rounds) return <Unanswered error={error} what="the rounds" />;
  const mayEdit = session?.role === 'engineer';
  return (
    <Page title="Rounds">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl font-semibold">Rounds</h1>
        {mayEdit && (
          <span className="ml-auto">
            <Button onClick={() => setEditing(editing === 'new' ? null : 'new')}>Make a round</Button>
          </span>
        )}
      </div>
      {editing === 'new' && <RoundForm done={() => setEditing(null)} />}
      {lastRound(rounds) && <NewFindings since={lastRound(rounds) ?? ''} />}
      {rounds.length === 0 && (
        <p className="mt-4 text-soft">No rounds yet. A round backs up many units at a set time, by itself.</p>
      )}
      {rounds.map((round) => (
        <section key={round.id} className="mt-4 border-t border-rule pt-3">
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h2 className="text-lg font-semibold">{round.name}</h2>
            <span className="text-soft">{describeRound(round)}</span>
            {mayEdit && (
              <Button weight="quiet" onClick={() => setEditing(editing === round.id ? null : round.id)}>
                Change
              </Button>
            )}
          </div>
          {editing === round.id && <RoundForm round={round} done={() => setEditing(null)} />}
          <Runs runs={round.runs} />
        </section>
      ))}
    </Page>
  );
}

/** When the last round that is over was due; its findings are those of the morning. */
function lastRound(rounds: readonly RoundView[]): string | undefined {
  const due = rounds.flatMap(({ runs }) =>
    runs.filter(({ state }) => state === 'done').map(({ dueAt }) => dueAt),
  );
  return due.sort().at(-1);
}

function describeRound(round: RoundView): string {
  const days = round.days.length === 7 ? 'every day' : round.days.map((day) => DAY_NAMES[day]).join(', ');
  const { areas, models, criticalities } = round.scope;
  const scope = [...areas, ...models, ...criticalities.map((each) => `${each} criticality`)];
  const parts = [
    `${days} at ${round.at}`,
    `${round.positions} units${scope.length === 0 ? '' : ` (${scope.join(', ')})`}`,
    round.retries === 0 ? 'no retries' : `${round.retries} retries`,
    ...(round.quiet ? [`quiet from ${round.quiet.from} to ${round.quiet.to}`] : []),
    round.enabled ? (round.next ? `next ${showTime(round.next)}` : 'never due') : 'switched off',
  ];
  return parts.join(' · ');
}

function Runs({ runs }: { runs: readonly RoundRunView[] }) {
  if (runs.length === 0) return <p className="mt-1 text-soft">It has not run yet.</p>;
  return (
    <ul className="mt-2">
      {runs.map((run) => (
        <li key={run.id} className="grid gap-x-4 border-b border-rule py-1.5 md:grid-cols-[11rem_13rem_1fr]">
          <span>
            {run.jobId ? (
              <Link to={`/jobs/${run.jobId}`} className="text-plum hover:underline">
                {showTime(run.dueAt)}
              </Link>
            ) : (
              showTime(run.dueAt)
            )}
          </span>
          <span>
            {run.state === 'done' && run.failed.length === 0 && <span aria-label="done">✓ </span>}
            {run.kept} kept
            {run.state === 'running' && ', at work'}
            {run.state === 'waiting' && ', waits to try again'}
            {run.tries > 1 && `, ${run.tries} tries`}
          </span>
          <span>
            {run.changed.length > 0 && (
              <span className="block">
                ◆ changed:{' '}
                {run.changed.map((tag) => (
                  <Link
                    key={tag}
                    to={`/positions/${tag}`}
                    className="mr-2 font-mono text-plum hover:underline"
                  >
                    {tag}
                  </Link>
                ))}
              </span>
            )}
            {run.failed.map(({ tag, text }) => (
              <span key={tag} className="block text-sm">
                <b className="text-stop">!</b>{' '}
                <Link to={`/positions/${tag}`} className="font-mono hover:underline">
                  {tag}
                </Link>{' '}
                {text.replace(`${tag} `, '')}
              </span>
            ))}
            {run.changed.length === 0 && run.failed.length === 0 && run.state === 'done' && (
              <span className="text-soft">nothing changed</span>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}
