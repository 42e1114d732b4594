// An installation that is new says what comes next. Each step is one click; all of it is gone when all is done.

import type { FirstStep, Role } from '@drive-keep/api';
import { Link } from 'react-router';
import { useFirstSteps } from '../api/queries.ts';

interface Way {
  readonly name: string;
  readonly why: string;
  readonly to: string;
  readonly role: Role;
}

const WAYS: Readonly<Record<FirstStep['id'], Way>> = {
  name: { name: 'Name the plant', why: 'its mains, and how its people work', to: '/plant', role: 'engineer' },
  people: {
    name: 'Add people',
    why: 'each with a name of their own in the logbook',
    to: '/people',
    role: 'engineer',
  },
  line: { name: 'Add a line', why: 'the gateway to the drives', to: '/lines?add=yes', role: 'engineer' },
  model: {
    name: 'Bring a model',
    why: 'the maker’s list of your drive becomes its dictionary',
    to: '/models/new',
    role: 'engineer',
  },
  units: {
    name: 'Find units',
    why: 'whoever answers on the line is taken into the register',
    to: '/register/find-units',
    role: 'engineer',
  },
  backup: { name: 'Back up', why: 'the first set is kept, with who and when', to: '/', role: 'technician' },
  baseline: {
    name: 'Sign a baseline',
    why: 'what the drive should hold: on the page of its position',
    to: '/?state=unsigned',
    role: 'engineer',
  },
  round: { name: 'Make a round', why: 'backups every night by themselves', to: '/rounds', role: 'engineer' },
};

const RANKS: readonly Role[] = ['viewer', 'technician', 'engineer'];

export function FirstSteps({ role }: { role: Role }) {
  const { data: steps = [] } = useFirstSteps();
  if (steps.length === 0) return null;
  const next = steps.find(({ done }) => !done)?.id;
  return (
    <section aria-label="First steps" className="mt-4 rounded border border-rule bg-sheet p-4">
      <h2 className="font-semibold">First steps</h2>
      <ol className="mt-2 grid gap-x-6 gap-y-1 md:grid-cols-2">
        {steps.map(({ id, done }) => {
          const { name, why, to, role: least } = WAYS[id];
          const may = RANKS.indexOf(role) >= RANKS.indexOf(least);
          return (
            <li
              key={id}
              className={`flex items-baseline gap-2 rounded px-2 py-1.5 ${id === next ? 'bg-plum-wash' : ''}`}
            >
              <span aria-label={done ? 'done' : 'open'} className="w-4">
                {done ? '✓' : '○'}
              </span>
              <span>
                {done || !may ? (
                  <b className={done ? 'font-normal text-soft' : ''}>{name}</b>
                ) : (
                  <Link to={to} className="font-semibold text-plum underline">
                    {name}
                  </Link>
                )}{' '}
                <span className="text-sm text-soft">
                  {why}
                  {!may && !done && '; an engineer does it'}
                </span>
              </span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
