import type { PlantFindingsView } from '@drive-keep/api';
import { Link } from 'react-router';
import { usePlantFindings } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { showTime } from '../words/dates.ts';

/** What the checks found since the round before the last one, whoever or whatever changed it. */
export function NewFindings({ since }: { since: string }) {
  const { data, error } = usePlantFindings(since);
  if (!data) return <Unanswered error={error} what="the findings" />;
  const { findings, open, positions, checked, waiting, unknown } = data;
  return (
    <section aria-label="Findings of the checks" className="mt-3">
      <h2 className="text-lg font-semibold">
        {headOf(data)}{' '}
        <span className="text-base font-normal text-soft">since the round of {showTime(since)}</span>
      </h2>
      <ul>
        {findings.map(({ tag, identity, text, attention }) => (
          <li
            key={`${tag} ${identity}`}
            className={`mt-1 border-l-4 px-3 py-1 ${attention === 'stop' ? 'border-stop bg-stop-wash' : 'border-look bg-look-wash'}`}
          >
            <Link to={`/positions/${tag}/checks`} className="mr-2 font-mono text-plum hover:underline">
              {tag}
            </Link>
            {text}
          </li>
        ))}
      </ul>
      {data.fresh > findings.length && (
        <p className="mt-1">The first {findings.length} stand here; the register has them all.</p>
      )}
      <p className="mt-1 text-sm text-soft">
        {open} open in all, at {positions} of {checked} checked positions
        {waiting > 0 && `; ${waiting} wait for their check`}
        {unknown > 0 && `; of ${unknown} nothing is known`}.{' '}
        <Link to="/?findings=open" className="text-plum underline">
          Show them in the register
        </Link>
      </p>
    </section>
  );
}

/** Nothing is said to be new before everything was looked at. */
function headOf({ fresh, checked, waiting }: PlantFindingsView): string {
  if (fresh > 0) return `${fresh} new ${fresh === 1 ? 'finding' : 'findings'}`;
  if (checked === 0) return 'Nothing is checked yet';
  return waiting > 0 ? 'No new finding so far' : 'No new finding';
}
