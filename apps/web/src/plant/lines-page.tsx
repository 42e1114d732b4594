// The lines of the plant: where their gateways are, how they are spoken to, whether they answer.

import type { LineView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useLines, useSession } from '../api/queries.ts';
import { Nothing, Stale, Unanswered } from '../ui/answer.tsx';
import { AskOnce } from '../ui/ask-once.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { LineForm } from './line-form.tsx';
import { LineTrialText, useTrial } from './line-trial.tsx';

export function LinesPage() {
  const { data: lines, error } = useLines();
  const { data: session } = useSession();
  const [params, setParams] = useSearchParams();
  if (!lines || !session) return <Unanswered error={error} what="the lines" />;
  const engineer = session.role === 'engineer';
  const adding = engineer && params.get('add') === 'yes';
  const inUse = lines.filter(({ retiredAt }) => retiredAt === null);
  const retired = lines.filter(({ retiredAt }) => retiredAt !== null);
  return (
    <Page title="Lines">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="text-2xl font-semibold">Lines</h1>
        {engineer && !adding && (
          <Button weight="main" className="ml-auto" onClick={() => setParams({ add: 'yes' })}>
            Add a line
          </Button>
        )}
      </div>
      <p className="mt-1 mb-3 text-soft">
        A line leads through a gateway to the units behind it, one request at a time. Units with a keypad
        alone need none.
      </p>
      <Stale error={error} />
      {adding && <LineForm done={() => setParams({})} />}
      {inUse.length === 0 && !adding && (
        <Nothing>
          There is no line yet. {engineer ? 'Add one' : 'An engineer adds one'}: it takes the address of the
          gateway, and it can be tried before it is kept.
        </Nothing>
      )}
      <ul>
        {inUse.map((line) => (
          <LineRow key={line.id} line={line} role={session.role} />
        ))}
      </ul>
      {retired.length > 0 && (
        <details className="mt-4">
          <summary className="text-soft">{retired.length} retired</summary>
          <ul>
            {retired.map((line) => (
              <LineRow key={line.id} line={line} role={session.role} />
            ))}
          </ul>
        </details>
      )}
    </Page>
  );
}

function LineRow({ line, role }: { line: LineView; role: string }) {
  const [changing, setChanging] = useState(false);
  const trial = useTrial();
  const retire = useMutation<LineView, ProblemError>({
    mutationFn: () => post(`lines/${line.id}/retire`, { version: line.version }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['lines'] }),
  });
  const gone = line.retiredAt !== null;
  return (
    <li data-line={line.name} className="border-t border-rule py-3">
      <div className="grid items-center gap-x-6 gap-y-2 lg:grid-cols-[12rem_1fr_auto]">
        <h2 className="text-lg font-semibold">{line.name}</h2>
        <p>
          <span className="font-mono">
            {line.host}:{line.port}
          </span>
          , {line.framing === 'tcp' ? 'Modbus TCP' : 'RTU frames over TCP'}
          <span className="block text-sm text-soft">
            {gone ? 'Retired' : unitsOn(line.units)}; waits {line.timeoutMs} ms, {again(line.retries)}, pause{' '}
            {line.pauseMs} ms, at most {line.largestRead} registers at once
          </span>
        </p>
        <div className="flex flex-wrap gap-2">
          {!gone && role !== 'viewer' && (
            <>
              <Button disabled={trial.isPending} onClick={() => trial.mutate(line)}>
                {trial.isPending ? 'Trying …' : 'Try it'}
              </Button>
              <Link
                to={`/register/find-units?line=${encodeURIComponent(line.name)}`}
                className="inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
              >
                Find units
              </Link>
            </>
          )}
          {role === 'engineer' && (
            <Button onClick={() => setChanging(!changing)}>{gone ? 'Use it again' : 'Change'}</Button>
          )}
          {role === 'engineer' && !gone && line.units === 0 && (
            <AskOnce
              what="Retire"
              weight="plain"
              question={`Retire ${line.name}?`}
              note="No unit can be put on it any more. Its name stays where units were on it, and it can be used again."
              yes="Retire it"
              disabled={retire.isPending}
              confirm={() => retire.mutate()}
            />
          )}
        </div>
      </div>
      <LineTrialText trial={trial} />
      {retire.error && <ProblemNotice error={retire.error} />}
      {changing && <LineForm line={line} done={() => setChanging(false)} />}
    </li>
  );
}

const unitsOn = (units: number): string =>
  units === 0 ? 'No unit is on it' : units === 1 ? '1 unit is on it' : `${units} units are on it`;

function again(retries: number): string {
  if (retries === 0) return 'asks once';
  return retries === 1 ? 'asks once more' : `asks ${retries} times more`;
}
