import { Link } from 'react-router';
import { useChecks } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { SheetPart } from '../ui/page.tsx';
import { Against } from './against.tsx';

/** What the checks find in a set that is planned, drafted or imported, against what the unit was last seen to hold. */
export function SetFindings({ tag, set, name }: { tag: string; set: string; name: string }) {
  const { data: view, error } = useChecks(tag, set);
  return (
    <SheetPart name={name} state={view?.against ? change(view.against) : ''}>
      {view ? (
        <>
          {view.against && <Against against={view.against} />}
          <Link
            to={`/positions/${tag}/checks?set=${encodeURIComponent(set)}`}
            className="text-sm text-plum underline"
          >
            {view.findings.length === 0
              ? `${view.looked} checks found nothing; ${view.untold.length} could not be told`
              : `All ${view.findings.length} findings of this set`}
          </Link>
        </>
      ) : (
        <Unanswered error={error} what="the checks of it" />
      )}
    </SheetPart>
  );
}

const change = ({ fewer, more }: { fewer: readonly unknown[]; more: readonly unknown[] }): string =>
  `${fewer.length} fewer, ${more.length} new`;
