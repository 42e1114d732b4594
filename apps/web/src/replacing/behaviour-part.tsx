import type { DifferencePoint, ReplacementSheet } from '@drive-keep/core/replace';
import { Link } from 'react-router';
import { toAddress } from '../dry-run/events-in-address.ts';
import { SheetPart } from '../ui/page.tsx';
import { Accept } from './accept.tsx';
import { Button } from '../ui/button.tsx';
import { lineOf } from './line-of.ts';
import { openText } from './open-text.ts';
import { useSpeaking } from './saying.tsx';

export function BehaviourPart({ tag, sheet }: { tag: string; sheet: ReplacementSheet }) {
  const { summary, same, differences } = sheet.behaviour;
  const { open } = sheet;
  return (
    <SheetPart name="Same behaviour" state={same ? 'proved' : openText(open.behaviour)}>
      <p>{summary}</p>
      <ol className="mt-2 text-sm">
        {differences.map(({ id, text, events, accepted, mend }) => (
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
            <Mend mend={mend} sheet={sheet} text={text} />
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

/** Settings of the successor that would make both do the same. */
function Mend({
  mend,
  sheet,
  text,
}: {
  mend: DifferencePoint['mend'];
  sheet: ReplacementSheet;
  text: string;
}) {
  const { may, say } = useSpeaking();
  const [first] = mend;
  if (!first) return null;
  const line = lineOf(sheet, first.code)?.id ?? `new ${first.code}`;
  const values = Object.fromEntries(mend.map(({ code, raw }) => [code, raw]));
  return (
    <p>
      Mended by {mend.map(({ code, name, value }) => `${code} ${name}: ${value}`).join('; ')}.{' '}
      {may && (
        <Button
          weight="quiet"
          className="min-h-7"
          onClick={() =>
            say('setting', line, { kind: 'own', values, reason: `mends: ${text}`.slice(0, 900) })
          }
        >
          Do that
        </Button>
      )}
    </p>
  );
}
