// Areas and machines: their names, and to which area a machine belongs. They come with their first position and are gone
// from sight with their last one: retiring them retires all their positions.

import type { RegisterOutline } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { patch, post, type ProblemError } from '../api/client.ts';
import { queryClient, useOutline } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';

interface Open {
  readonly area: string;
  /** Nothing while it is about the area itself. */
  readonly machine: string | null;
  readonly form: 'change' | 'retire';
}

export function PlacesPage() {
  const { data: outline, error } = useOutline();
  const [open, setOpen] = useState<Open>();
  if (!outline) return <Unanswered error={error} what="the areas and machines" />;
  const done = async () => {
    setOpen(undefined);
    await queryClient.invalidateQueries();
  };
  return (
    <Page title="Areas and machines">
      <h1 className="mb-3 text-2xl font-semibold">Areas and machines</h1>
      {outline.areas.map((area) => (
        <SheetPart
          key={area.name}
          name={area.name}
          state={
            <>
              <Button
                weight="quiet"
                className="block px-0"
                onClick={() => setOpen({ area: area.name, machine: null, form: 'change' })}
              >
                Rename
              </Button>
              <Button
                weight="quiet"
                className="block px-0"
                onClick={() => setOpen({ area: area.name, machine: null, form: 'retire' })}
              >
                Retire
              </Button>
            </>
          }
        >
          {open?.area === area.name && open.machine === null && (
            <OpenForm open={open} outline={outline} done={() => void done()} />
          )}
          <ul>
            {area.machines.map(({ name, positions }) => (
              <li key={name} className="border-b border-rule py-1">
                <span className="inline-block w-56">{name}</span>
                <span className="inline-block w-32 text-soft">
                  {positions === 1 ? '1 position' : `${positions} positions`}
                </span>
                <Button
                  weight="quiet"
                  onClick={() => setOpen({ area: area.name, machine: name, form: 'change' })}
                >
                  Rename or move
                </Button>
                <Button
                  weight="quiet"
                  onClick={() => setOpen({ area: area.name, machine: name, form: 'retire' })}
                >
                  Retire
                </Button>
                {open?.area === area.name && open.machine === name && (
                  <OpenForm open={open} outline={outline} done={() => void done()} />
                )}
              </li>
            ))}
          </ul>
        </SheetPart>
      ))}
    </Page>
  );
}

interface FormProps {
  readonly open: Open;
  readonly outline: RegisterOutline;
  readonly done: () => void;
}

const OpenForm = (props: FormProps) =>
  props.open.form === 'change' ? <PlaceForm {...props} /> : <RetireForm {...props} />;

function RetireForm({ open: { area, machine }, outline, done }: FormProps) {
  const [reason, setReason] = useState('');
  const machines = outline.areas.find(({ name }) => name === area)?.machines ?? [];
  const meant = machines.filter(({ name }) => machine === null || name === machine);
  const count = meant.reduce((sum, { positions }) => sum + positions, 0);
  const retire = useMutation<unknown, ProblemError>({
    mutationFn: () =>
      post('register/retire-place', {
        area,
        ...(machine === null ? {} : { machine }),
        reason: reason.trim(),
      }),
    onSuccess: done,
  });
  return (
    <form
      className="my-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        retire.mutate();
      }}
    >
      <p className="w-full text-sm text-soft">
        {count === 1 ? 'Its position leaves' : `Its ${count} positions leave`} the register and the rounds.
        Backups, baselines and logbook stay readable, and each position can be brought back.
      </p>
      <input
        aria-label={`Why ${machine ?? area} is retired`}
        placeholder="Reason, for the record"
        required
        maxLength={200}
        value={reason}
        onChange={({ target }) => setReason(target.value)}
        className="h-10 w-72 rounded border border-rule bg-sheet px-3"
      />
      <Button type="submit" disabled={retire.isPending || reason.trim() === ''}>
        Retire {machine ?? area}
      </Button>
      <Button weight="quiet" onClick={done}>
        Leave it
      </Button>
      {retire.error && <ProblemNotice error={retire.error} />}
    </form>
  );
}

function PlaceForm({ open: { area, machine }, outline, done }: FormProps) {
  const [name, setName] = useState(machine ?? area);
  const [within, setWithin] = useState(area);
  const path = `areas/${encodeURIComponent(area)}`;
  const change = useMutation<RegisterOutline, ProblemError>({
    mutationFn: () =>
      machine === null
        ? patch(path, { name: name.trim() })
        : patch(`${path}/machines/${encodeURIComponent(machine)}`, { area: within, name: name.trim() }),
    onSuccess: done,
  });
  return (
    <form
      className="my-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate();
      }}
    >
      <input
        aria-label={machine === null ? `New name of ${area}` : `New name of ${machine}`}
        required
        maxLength={60}
        value={name}
        onChange={({ target }) => setName(target.value)}
        className="h-10 w-56 rounded border border-rule bg-sheet px-3"
      />
      {machine !== null && (
        <select
          aria-label="Area"
          value={within}
          onChange={({ target }) => setWithin(target.value)}
          className="h-10 rounded border border-rule bg-sheet px-2"
        >
          {outline.areas.map((each) => (
            <option key={each.name}>{each.name}</option>
          ))}
        </select>
      )}
      <Button type="submit" disabled={change.isPending || name.trim() === ''}>
        Change it
      </Button>
      <Button weight="quiet" onClick={done}>
        Leave it
      </Button>
      {change.error && <ProblemNotice error={change.error} />}
    </form>
  );
}
