// A unit as it is now: what it does, its values by what they are on whatever model, its terminals with what hangs on them, and
// its faults. Nothing is kept and nothing is written; the reading stops when one leaves.

import { useParams } from 'react-router';
import { Link } from 'react-router';
import { identificationOf, watchableOf } from '@drive-keep/core/live';
import { useMemo } from 'react';
import { useDictionary, usePosition } from '../api/queries.ts';
import { HeadLine } from '../position/head-line.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Notice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { LiveFaults } from './live-faults.tsx';
import { LiveState } from './live-state.tsx';
import { LiveTerminals } from './live-terminals.tsx';
import { LiveValues } from './live-values.tsx';
import { useNow } from './use-now.ts';

export function LivePage() {
  const { tag = '' } = useParams();
  const { data: position, error } = usePosition(tag);
  const { data: dictionary, error: notKnown } = useDictionary(position?.unit.dictionary);
  if (!position) return <Unanswered error={error} what="this position" />;
  return (
    <Page title={`${tag} live`}>
      <HeadLine position={position} />
      <p className="mt-2 text-sm">
        <Link to={`/positions/${tag}`} className="text-plum underline">
          Back to the comparison
        </Link>{' '}
        {position.unit.line && dictionary && identificationOf(dictionary) && (
          <Link to={`/positions/${tag}/identify`} className="ml-4 text-plum underline">
            Identification of the motor
          </Link>
        )}
      </p>
      {!position.unit.line ? (
        <Nothing>{tag} has no line: what it shows is read at its keypad.</Nothing>
      ) : dictionary ? (
        <Watched tag={tag} dictionary={dictionary} />
      ) : (
        <Unanswered error={notKnown} what="its model" />
      )}
    </Page>
  );
}

function Watched({
  tag,
  dictionary,
}: {
  tag: string;
  dictionary: NonNullable<ReturnType<typeof useDictionary>['data']>;
}) {
  const now = useNow(tag);
  const watchable = useMemo(() => watchableOf(dictionary), [dictionary]);
  const { sample, last, silent, expected } = now;
  return (
    <>
      {sample === null && (
        <div className="mt-3" role="status">
          <Notice level="look">
            {silent ?? 'The unit is being asked …'}
            {last !== null && ` Last seen ${showTime(new Date(last).toISOString())}.`} What it shows now is
            not known.
          </Notice>
        </div>
      )}
      <LiveState sample={sample} expected={expected} watchable={watchable} dictionary={dictionary} />
      <div className="mt-4 grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.35fr)]">
        <LiveValues sample={sample} watchable={watchable} />
        <LiveTerminals
          sample={sample}
          expected={sample ? expected : null}
          watchable={watchable}
          dictionary={dictionary}
        />
      </div>
      <LiveFaults sample={sample} watchable={watchable} dictionary={dictionary} />
    </>
  );
}
