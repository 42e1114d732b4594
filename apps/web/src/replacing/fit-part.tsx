import { FIT_STATES, FIT_SUBJECTS, type ReplacementSheet } from '@drive-keep/core/replace';
import type { ReactNode } from 'react';
import { Choice } from '../ui/choice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { Accept } from './accept.tsx';
import { openText } from './open-text.ts';

export function FitPart({
  sheet: { ratings, rating, fit, open },
  fixed,
  choose,
  children,
}: {
  sheet: ReplacementSheet;
  /** The unit is there already. */
  fixed: boolean;
  choose: (rating: string) => void;
  /** What else there is to choose. */
  children?: ReactNode;
}) {
  const state = ratings.find(({ id }) => id === rating)?.state ?? 'ask';
  return (
    <SheetPart name="Successor" state={open.fit > 0 ? openText(open.fit) : FIT_STATES[state].text}>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        {children}
        <Choice
          label="Rating"
          disabled={fixed}
          value={rating}
          options={ratings.map((each) => ({
            id: each.id,
            name: `${FIT_STATES[each.state].shape} ${each.id}, ${each.name}`,
          }))}
          onChange={({ target }) => choose(target.value)}
        />
      </div>
      <table className="mt-3 w-full text-left text-sm">
        <thead className="border-b border-rule text-soft">
          <tr>
            <th className="py-1 pr-4 font-normal">What</th>
            <th className="py-1 pr-4 font-normal">Old unit, or what it needs</th>
            <th className="py-1 pr-4 font-normal">Successor</th>
            <th className="w-2/5 py-1 font-normal">Fits</th>
          </tr>
        </thead>
        <tbody>
          {fit.map((item) => (
            <FitRow key={item.id} item={item} />
          ))}
        </tbody>
      </table>
    </SheetPart>
  );
}

function FitRow({ item }: { item: ReplacementSheet['fit'][number] }) {
  const { id, what, needs, gives, state, accepted } = item;
  const waits = (state === 'bad' || state === 'ask') && accepted === null;
  return (
    <tr className={`border-b border-rule align-top ${waits ? 'bg-look-wash' : ''}`}>
      <td className="py-1 pr-4 pl-1">{FIT_SUBJECTS[what]}</td>
      <td className="py-1 pr-4">{needs}</td>
      <td className="py-1 pr-4">{gives}</td>
      <td className="py-1 pr-1">
        <span aria-hidden="true">{FIT_STATES[state].shape}</span> {FIT_STATES[state].text}
        {(state === 'bad' || state === 'ask') && <Accept part="point" line={id} label={FIT_SUBJECTS[what]} />}
      </td>
    </tr>
  );
}
