import type { ComparisonView, HistoryView, PositionDetailView } from '@drive-keep/api';
import { SlidersHorizontal } from 'lucide-react';
import type { ComparisonAddress } from './comparison-address.ts';
import { SideChoice } from './side-choice.tsx';

/** What is compared; on a phone the ways to choose something else are folded. */
export function ComparisonSides({
  position: { tag, unit, retiredAt },
  comparison: { a, b },
  history,
  change,
  unfolded,
  fold,
}: {
  position: PositionDetailView;
  comparison: ComparisonView;
  history: HistoryView;
  change: (change: Partial<ComparisonAddress>) => void;
  unfolded: boolean;
  fold: () => void;
}) {
  return (
    <>
      <div className="space-y-1.5">
        <SideChoice
          tag={tag}
          letter="A"
          side={a}
          history={history}
          choose={(reference) => change({ a: reference })}
          unfolded={unfolded}
        />
        <SideChoice
          tag={tag}
          letter="B"
          side={b}
          history={history}
          choose={(reference) => change({ b: reference })}
          mayRead={unit.line !== null && retiredAt === null}
          unfolded={unfolded}
        />
      </div>
      <button
        type="button"
        aria-expanded={unfolded}
        className="mt-2 inline-flex h-12 items-center gap-2 rounded border border-rule bg-sheet px-3 text-sm md:hidden"
        onClick={fold}
      >
        <SlidersHorizontal className="size-4" /> Other sides, filter, files
      </button>
    </>
  );
}
