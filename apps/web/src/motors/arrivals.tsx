// Motors that backups tell of: field by field against the library, with the three things that one can do about it.

import type { MotorArrival, MotorView } from '@drive-keep/api';
import { PLATE_FIELDS, showPlateValue } from '@drive-keep/core/motor';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { post, put, type ProblemError } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { showDate } from '../words/dates.ts';

const SAYS: Readonly<Record<MotorArrival['kind'], (name: string) => string>> = {
  'other-numbers': (name) => `is “${name}” in the register; its set has other numbers`,
  'known-numbers': (name) => `has the numbers of “${name}”, and no motor of the library`,
  new: () => 'has a motor that the library does not have',
};

export function Arrivals({
  arrivals,
  motors,
  mayChange,
}: {
  arrivals: readonly MotorArrival[];
  motors: readonly MotorView[];
  mayChange: boolean;
}) {
  const [open, setOpen] = useState<string | undefined>(arrivals[0]?.tag);
  return (
    <section className="mt-4" aria-label="From backups">
      <h2 className="font-semibold">
        From backups{' '}
        <span className="font-normal text-soft">
          {arrivals.length === 1 ? 'one motor is' : `${arrivals.length} motors are`} not what the library says
        </span>
      </h2>
      <ul className="mt-1 border-t border-rule">
        {arrivals.map((arrival) => (
          <li
            key={arrival.tag}
            data-arrival={arrival.tag}
            className="border-b border-rule bg-look-wash/60 px-2 py-1.5"
          >
            <button
              type="button"
              aria-expanded={open === arrival.tag}
              className="w-full text-left max-lg:min-h-12"
              onClick={() => setOpen(open === arrival.tag ? undefined : arrival.tag)}
            >
              <span aria-hidden="true">◆</span> <span className="font-mono font-semibold">{arrival.tag}</span>{' '}
              {SAYS[arrival.kind](arrival.against?.name ?? arrival.name)}{' '}
              <span className="text-soft">{clashLine(arrival)}</span>
            </button>
            {open === arrival.tag && <Arrival arrival={arrival} motors={motors} mayChange={mayChange} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

const clashLine = ({ fields, line }: MotorArrival): string => {
  const clashing = fields.filter(({ clashes }) => clashes).map(({ name }) => name.toLowerCase());
  return clashing.length > 0 ? clashing.join(', ') : line;
};

function Arrival({
  arrival,
  motors,
  mayChange,
}: {
  arrival: MotorArrival;
  motors: readonly MotorView[];
  mayChange: boolean;
}) {
  const known = motors.find(({ id }) => id === arrival.against?.id);
  return (
    <div className="grid gap-x-8 gap-y-3 bg-sheet px-3 py-3 lg:grid-cols-[1fr_24rem]">
      <FieldByField arrival={arrival} known={known} />
      {mayChange && <Ways arrival={arrival} known={known} />}
    </div>
  );
}

function FieldByField({ arrival, known }: { arrival: MotorArrival; known: MotorView | undefined }) {
  const show = (key: keyof typeof PLATE_FIELDS, value: number | null) =>
    value === null ? <span className="text-soft">not told</span> : showPlateValue(PLATE_FIELDS[key], value);
  return (
    <table className="text-sm">
      <thead>
        <tr className="border-b border-rule text-left text-soft">
          <th className="py-1 pr-3 font-normal">Field</th>
          <th className="pr-3 font-normal">{known ? `Library: ${known.name}` : 'Library'}</th>
          <th className="font-normal">
            Set of{' '}
            <Link to={`/positions/${arrival.tag}`} className="font-mono text-plum hover:underline">
              {arrival.tag}
            </Link>
            , {showDate(arrival.backupAt)}
          </th>
        </tr>
      </thead>
      <tbody>
        {arrival.fields.map((field) => (
          <tr
            key={field.key}
            className={`border-b border-rule ${field.clashes ? 'bg-look-wash font-semibold' : ''}`}
          >
            <td className="py-0.5 pr-3">
              {field.clashes && <span aria-label="clashes">◆ </span>}
              {field.name}
            </td>
            <td className="pr-3 font-mono">{show(field.key, field.plate)}</td>
            <td className="font-mono">{show(field.key, field.told)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Ways({ arrival, known }: { arrival: MotorArrival; known: MotorView | undefined }) {
  const { tag, fingerprint } = arrival;
  const [name, setName] = useState('');
  const act = useMutation<unknown, ProblemError, () => Promise<unknown>>({
    mutationFn: (work) => work(),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  return (
    <div className="space-y-3 text-sm">
      {arrival.kind === 'known-numbers' && known && (
        <Button
          weight="main"
          onClick={() => act.mutate(() => put(`positions/${tag}/motor`, { motor: known.id }))}
        >
          It is {known.name}
        </Button>
      )}
      <form
        className="space-y-1"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate(() => post(`motor-arrivals/${tag}`, { name: name.trim() }));
        }}
      >
        <label className="block">
          <span className="mb-1 block font-medium">It is another motor: give it a name of its own</span>
          <input
            required
            maxLength={80}
            value={name}
            onChange={({ target }) => setName(target.value)}
            placeholder={`${arrival.name.split(',')[0] ?? ''} B`}
            className="h-10 w-full rounded border border-rule bg-ground px-2 text-base"
          />
        </label>
        <Button type="submit" disabled={act.isPending || name.trim() === ''}>
          Take it into the library
        </Button>
      </form>
      <p>It is the same motor, and the set is off: compare {tag} with its baseline, or change the plate.</p>
      <Button onClick={() => act.mutate(() => post(`motor-arrivals/${tag}/leave`, { fingerprint }))}>
        Leave it as it is
      </Button>{' '}
      {known && (
        <Link to={`/motors/${known.id}`} className="text-plum hover:underline">
          Change the plate
        </Link>
      )}
      {act.error && <ProblemNotice error={act.error} />}
    </div>
  );
}
