import type { ReactNode } from 'react';
import { NavLink } from 'react-router';

const WAYS = [
  { to: '/compare', name: 'Peers' },
  { to: '/compare/two', name: 'Two drives' },
  { to: '/compare/behaviour', name: 'Behaviour' },
] as const;

/** The ways to compare drives with each other; a drive with itself is compared on its own page. */
export function CompareHead({ children }: { children: ReactNode }) {
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
      <h1 className="text-2xl font-semibold">Compare</h1>
      <nav aria-label="Ways to compare" className="flex gap-1">
        {WAYS.map(({ to, name }) => (
          <NavLink
            key={to}
            to={to}
            end
            className={({ isActive }) =>
              `rounded-full border px-3 py-0.5 text-sm max-lg:py-2.5 ${isActive ? 'border-plum bg-plum-wash font-semibold' : 'border-rule bg-sheet'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      {children}
    </div>
  );
}
