import type { ReplacementSheet } from '@drive-keep/core/replace';
import { Link } from 'react-router';
import { toAddress } from '../dry-run/events-in-address.ts';
import { SheetPart } from '../ui/page.tsx';
import { Accept } from './accept.tsx';
import { openText } from './open-text.ts';

export function BehaviourPart({
  tag,
  sheet: {
    behaviour: { summary, same, differences },
    open,
  },
}: {
  tag: string;
  sheet: ReplacementSheet;
}) {
  return (
    <SheetPart name="Same behaviour" state={same ? 'proved' : openText(open.behaviour)}>
      <p>{summary}</p>
      <ol className="mt-2 text-sm">
        {differences.map(({ id, text, events, accepted }) => (
          <li
            key={id}
            className={`border-b border-rule px-1 py-1 ${accepted === null ? 'bg-look-wash' : ''}`}
          >
            {text}{' '}
            <Link
              to={`/positions/${tag}/dry-run?do=${encodeURIComponent(toAddress(events))}`}
              className="text-plum underline"
            >
              What the old unit does
            </Link>
            <Accept
              part="point"
              line={id}
              label={text}
              ask="Why it may differ, or that the successor cannot do it"
            />
          </li>
        ))}
      </ol>
      {differences.length > 0 && (
        <p className="mt-2 text-sm text-soft">
          A difference goes away by another terminal above, an answer, or a value of your own beside a
          setting.
        </p>
      )}
    </SheetPart>
  );
}
