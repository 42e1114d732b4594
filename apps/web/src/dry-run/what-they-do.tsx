// What the differences of a comparison do, in plain words, each with the way to see it in the dry run.

import type { Effects } from '@drive-keep/core/behaviour';
import { Link } from 'react-router';
import { toAddress } from './events-in-address.ts';

/** More is folded. */
const SHOWN = 2;

export function WhatTheyDo({
  tag,
  set,
  difference,
  failed,
}: {
  tag: string;
  /** The set that is compared, as its address. */
  set: string;
  difference: Effects | undefined;
  failed: boolean;
}) {
  if (failed)
    return (
      <p className="mt-2 text-sm text-soft">What the differences do cannot be told of these two sets.</p>
    );
  if (!difference)
    return <p className="mt-2 text-sm text-soft">What the differences do is being worked out …</p>;
  const { lines, summary } = difference;
  const item = ({ text, events }: Effects['lines'][number]) => (
    <li key={text}>
      {text}{' '}
      <Link
        to={`/positions/${tag}/dry-run?set=${encodeURIComponent(set)}&do=${encodeURIComponent(toAddress(events))}`}
        className="text-plum underline"
      >
        Show it
      </Link>
    </li>
  );
  return (
    <section aria-label="What the differences do" className="my-2 border-l-4 border-plum pl-3">
      <ul>{lines.slice(0, SHOWN).map(item)}</ul>
      {lines.length > SHOWN && (
        <details>
          <summary className="text-plum">{lines.length - SHOWN} more</summary>
          <ul>{lines.slice(SHOWN).map(item)}</ul>
        </details>
      )}
      <p className="text-sm text-soft">
        {lines.length === 0 && 'With its contacts: '}
        {summary}
      </p>
    </section>
  );
}
