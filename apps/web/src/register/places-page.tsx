// Areas and machines: their names, and to which area a machine belongs. They come with their first position and are gone
// from sight with their last one.

import type { RegisterOutline } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { patch, type ProblemError } from '../api/client.ts';
import { queryClient, useOutline } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';

interface Open {
  readonly area: string;
  /** Nothing while the area itself is renamed. */
  readonly machine: string | null;
}

export function PlacesPage() {
  const { data: outline, error } = useOutline();
  const [open, setOpen] = useState<Open>();
  if (error) return <ProblemNotice error={error} />;
  if (!outline) return null;
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
            <Button
              weight="quiet"
              className="px-0"
              onClick={() => setOpen({ area: area.name, machine: null })}
            >
              Rename
            </Button>
          }
        >
          {open?.area === area.name && open.machine === null && (
            <PlaceForm open={open} outline={outline} done={() => void done()} />
          )}
          <ul>
            {area.machines.map(({ name, positions }) => (
              <li key={name} className="border-b border-rule py-1">
                <span className="inline-block w-56">{name}</span>
                <span className="inline-block w-32 text-soft">
                  {positions === 1 ? '1 position' : `${positions} positions`}
                </span>
                <Button weight="quiet" onClick={() => setOpen({ area: area.name, machine: name })}>
                  Rename or move
                </Button>
                {open?.area === area.name && open.machine === name && (
                  <PlaceForm open={open} outline={outline} done={() => void done()} />
                )}
              </li>
            ))}
          </ul>
        </SheetPart>
      ))}
    </Page>
  );
}

function PlaceForm({
  open: { area, machine },
  outline,
  done,
}: {
  open: Open;
  outline: RegisterOutline;
  done: () => void;
}) {
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
