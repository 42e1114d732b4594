// All axes of a machine with the set that each of them gets, and what happens when one of them fails.

import type { AxisLoadView, AxisMachineView, AxisOnFailure } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useAxes, useHistory, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { Controller } from './controller.tsx';
import { targetsOf } from '../writing/set-targets.ts';
import { LOAD_STATES } from './load-states.ts';

const ON_FAILURE: Readonly<Record<AxisOnFailure, string>> = {
  stay: 'Stay with their new values, saved',
  back: 'Go back to the values they had before',
};

export function AxesPage() {
  const { tag = '' } = useParams();
  const { data: machine, error } = useAxes(tag);
  if (!machine) return <Unanswered error={error} what="the axes of this machine" />;
  return (
    <Page title={`All axes of ${machine.machine}`}>
      <h1 className="text-2xl font-semibold">All axes of {machine.machine}</h1>
      <p className="mt-1 mb-3 text-soft">
        The controller is held, every axis gets its own set, all are saved, the controller is started again.
        Nothing is written to an axis on this page.
      </p>
      <Controller tag={tag} machine={machine.machine} />
      <Load tag={tag} machine={machine} />
      <SheetPart name="Made before" state={machine.loads.length === 0 ? 'none' : `${machine.loads.length}`}>
        {machine.loads.length === 0 && <p className="text-soft">Loads of this machine stand here.</p>}
        <ul>
          {machine.loads.map(({ id, madeAt, madeBy, state }) => (
            <li key={id} className="border-b border-rule py-1.5">
              <Link to={`/axis-loads/${id}`} className="mr-4 text-plum hover:underline">
                {showTime(madeAt)}
              </Link>
              <span className="text-soft">
                {LOAD_STATES[state]} · {madeBy}
              </span>
            </li>
          ))}
        </ul>
      </SheetPart>
    </Page>
  );
}

function Load({ tag, machine }: { tag: string; machine: AxisMachineView }) {
  const { data: session } = useSession();
  const navigate = useNavigate();
  const [targets, setTargets] = useState<Readonly<Record<string, string>>>({});
  const [onFailure, setOnFailure] = useState<AxisOnFailure>('stay');
  const plan = useMutation<AxisLoadView, ProblemError>({
    mutationFn: () =>
      post(`positions/${tag}/axis-loads`, {
        targets: Object.entries(targets).map(([axis, target]) => ({ tag: axis, target })),
        onFailure,
      }),
    onSuccess: ({ id }) => navigate(`/axis-loads/${id}`),
  });
  return (
    <>
      <SheetPart name="Axes" state={`${machine.axes.length}`}>
        <ul>
          {machine.axes.map((axis) => (
            <li
              key={axis.tag}
              className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-2"
            >
              <Link to={`/positions/${axis.tag}`} className="w-28 font-mono text-plum hover:underline">
                {axis.tag}
              </Link>
              <span className="w-40">{axis.duty}</span>
              <span className="w-64 text-soft">
                {axis.model} {axis.rating}, serial <span className="font-mono">{axis.serial}</span>
              </span>
              <Target
                tag={axis.tag}
                chosen={targets[axis.tag] ?? 'baseline'}
                choose={(target) => setTargets({ ...targets, [axis.tag]: target })}
              />
            </li>
          ))}
        </ul>
      </SheetPart>
      <SheetPart name="If one fails" state="chosen">
        <fieldset>
          <legend className="text-sm text-soft">The axes that were written before it</legend>
          {(['stay', 'back'] as const).map((choice) => (
            <label key={choice} className="flex min-h-12 items-center gap-3">
              <input
                type="radio"
                name="on-failure"
                className="size-5 accent-plum"
                checked={onFailure === choice}
                onChange={() => setOnFailure(choice)}
              />
              {ON_FAILURE[choice]}
            </label>
          ))}
        </fieldset>
        <p className="text-sm text-soft">The machine stays held then, until somebody has settled it.</p>
      </SheetPart>
      {session && session.role !== 'viewer' && (
        <SheetPart name="Plan" state="open">
          <Button weight="main" className="min-h-12" disabled={plan.isPending} onClick={() => plan.mutate()}>
            Plan the load of {machine.axes.length} axes
          </Button>
          {plan.error && <ProblemNotice error={plan.error} />}
        </SheetPart>
      )}
    </>
  );
}

function Target({ tag, chosen, choose }: { tag: string; chosen: string; choose: (target: string) => void }) {
  const { data: history, error } = useHistory(tag);
  if (!history) return <Unanswered error={error} what={`the sets of ${tag}`} />;
  return (
    <select
      aria-label={`Set for ${tag}`}
      value={chosen}
      onChange={({ target }) => choose(target.value)}
      className="h-12 max-w-full min-w-64 flex-1 rounded border border-rule bg-sheet px-2"
    >
      {targetsOf(history).map(({ reference, name, note }) => (
        <option key={reference} value={reference}>
          {name}, {note}
        </option>
      ))}
    </select>
  );
}
