// Faults that were looked up: a line each, opened for its causes and what to check.

import type { FaultHitView } from '@drive-keep/api';
import { useState } from 'react';
import { Link } from 'react-router';
import { FaultFacts } from '../models/fault-facts.tsx';

/** So that a common word leaves the parameters in sight. */
const FIRST = 4;

export function FaultHits({ hits }: { hits: readonly FaultHitView[] }) {
  const [open, setOpen] = useState<readonly string[]>([]);
  const [all, setAll] = useState(false);
  if (hits.length === 0) return null;
  const shown = all ? hits : hits.slice(0, FIRST);
  const turn = (key: string) =>
    setOpen((before) => (before.includes(key) ? before.filter((each) => each !== key) : [...before, key]));
  return (
    <section aria-labelledby="faults-found" className="mt-4">
      <h2 id="faults-found" className="font-semibold">
        Faults
      </h2>
      <ul className="border-t border-rule">
        {shown.map((hit) => {
          const key = `${hit.dictionary} ${hit.fault.number}`;
          const isOpen = open.includes(key);
          return (
            <li key={key} className="border-b border-rule py-1.5">
              <div className="grid gap-x-4 md:grid-cols-[8rem_5.5rem_14rem_1fr]">
                <Link to={`/models/${hit.dictionary}?part=faults`} className="hover:underline">
                  {hit.model}
                </Link>
                <button
                  type="button"
                  aria-expanded={isOpen}
                  onClick={() => turn(key)}
                  className="self-start text-left font-mono font-semibold text-plum hover:underline max-lg:min-h-12"
                >
                  {hit.fault.shown}
                </button>
                <span>{hit.fault.name}</span>
                {isOpen ? <FaultFacts {...hit} /> : <span className="text-sm">{hit.fault.meaning}</span>}
              </div>
            </li>
          );
        })}
      </ul>
      {hits.length > shown.length && (
        <button type="button" onClick={() => setAll(true)} className="mt-1 text-sm text-plum underline">
          {hits.length - shown.length} more faults
        </button>
      )}
      <h2 className="mt-4 font-semibold">Parameters</h2>
    </section>
  );
}
