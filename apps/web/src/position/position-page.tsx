import type { ComparisonView, DifferenceOrigin, PositionDetailView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import {
  useComparison,
  useDictionary,
  useHistory,
  useProofList,
  useTraces,
  useOrigins,
  usePosition,
  useSession,
} from '../api/queries.ts';
import { AcrossComparison } from '../compare/across-comparison.tsx';
import { useBehaviourDifference } from '../dry-run/use-behaviour-difference.ts';
import { WhatTheyDo } from '../dry-run/what-they-do.tsx';
import { Page } from '../ui/page.tsx';
import { ComparisonBar } from './comparison-bar.tsx';
import { ComparisonSides } from './comparison-sides.tsx';
import { ComparisonTable } from './comparison-table.tsx';
import { queryOf, useComparisonAddress, type ComparisonAddress } from './comparison-address.ts';
import { HeadLine } from './head-line.tsx';
import { HistoryStrip } from './history-strip.tsx';
import { DecisionBar } from './decision-bar.tsx';
import { DraftNotice, FirstBaseline } from './draft-notice.tsx';
import { LiveComparison } from './live-comparison.tsx';
import { ThreeWays } from './three-ways.tsx';
import { WaitingLine } from './waiting-line.tsx';
import { showTime } from '../words/dates.ts';
import { useDeciding, type Deciding } from './use-deciding.ts';

export function PositionPage() {
  const { tag = '' } = useParams();
  const position = usePosition(tag);
  const history = useHistory(tag);
  const traces = useTraces(tag);
  const proofs = useProofList(tag);
  // A position without a signed baseline is compared with the defaults first.
  const signed = position.data === undefined || position.data.baselineRevision !== null;
  const [address, change] = useComparisonAddress(signed ? 'baseline' : 'default');
  const imported = history.data?.backups.findLast(({ how }) => how === 'imported');
  if (!position.data) return <Unanswered error={position.error} what="this position" />;
  return (
    <Page title={tag}>
      <HeadLine position={position.data} />
      <WaitingLine tag={tag} />
      <div className="mt-3">
        {history.data && (
          <HistoryStrip
            history={history.data}
            traces={traces.data ?? []}
            proofs={proofs.data?.runs ?? []}
            handles={address}
            move={(handles) => change(handles)}
          />
        )}
      </div>
      {position.data.newestBackup === null && address.b === 'newest' ? (
        <div className="mt-4">
          <Nothing>Nothing to compare yet: no set has been read from this unit.</Nothing>
          {imported && (
            <button
              type="button"
              className="text-plum underline max-lg:min-h-12"
              onClick={() => change({ b: `backup:${imported.id}` })}
            >
              Compare the file imported on {showTime(imported.takenAt)}
            </button>
          )}
        </div>
      ) : (
        <Comparison position={position.data} address={address} change={change} />
      )}
    </Page>
  );
}

const OTHER_MODELS = 'urn:drive-keep:different-models';

function Comparison({
  position,
  address,
  change,
}: {
  position: PositionDetailView;
  address: ComparisonAddress;
  change: (change: Partial<ComparisonAddress>) => void;
}) {
  const { tag } = position;
  const live = address.b === 'live';
  const comparison = useComparison(tag, queryOf(live ? { ...address, b: 'newest' } : address));
  const history = useHistory(tag);
  const dictionary = useDictionary(comparison.data?.dictionary);
  const { data: session } = useSession();
  const deciding = useDeciding(tag);
  const [unfolded, setUnfolded] = useState(false);
  const { data: known } = useOrigins(tag);
  const origins = useMemo(() => new Map((known ?? []).map((origin) => [origin.code, origin])), [known]);
  if (comparison.error?.problem.type === OTHER_MODELS && !live)
    return (
      <section aria-label="Comparison" className="mt-4">
        {deciding.draft && <DraftNotice tag={tag} draft={deciding.draft} />}
        <p className="mt-3 border-l-4 border-plum px-3 py-1 text-sm">
          Another model sat here then: the two sets are compared by what their parameters mean, in plain
          values.
        </p>
        <AcrossComparison a={{ tag, set: address.a }} b={{ tag, set: address.b }} />
      </section>
    );
  if (!comparison.data || !dictionary.data || !history.data)
    return <Unanswered error={comparison.error} what="this position" />;
  if (live) {
    const { a, find } = address;
    return <LiveComparison tag={tag} a={a} find={find} history={history.data} choose={change} />;
  }
  // Decisions are about what the unit holds now against what it should hold; other points in time say nothing of it.
  const aboutNow = address.a === 'baseline' && address.b === 'newest';
  const mayDecide = session?.role !== 'viewer' && aboutNow && position.retiredAt === null;
  const signed = history.data.baselines.length > 0;
  // Side A is "before", unless it is the baseline itself, which is there anyway: then the last backup that differed.
  const isBefore = address.a !== 'default' && !address.a.startsWith('baseline');
  const before = isBefore ? null : history.data.lastThatDiffered;
  return (
    <section aria-label="Comparison" className="mt-4">
      {deciding.draft && <DraftNotice tag={tag} draft={deciding.draft} />}
      {history.data.baselines.length === 0 && !deciding.draft && session?.role !== 'viewer' && (
        <FirstBaseline tag={tag} />
      )}
      <ComparisonSides
        position={position}
        comparison={comparison.data}
        history={history.data}
        change={change}
        unfolded={unfolded}
        fold={() => setUnfolded(!unfolded)}
      />
      <ComparisonBar
        unfolded={unfolded}
        tag={tag}
        comparison={comparison.data}
        address={address}
        change={change}
        signed={signed}
        mayDecide={mayDecide && !address.three}
      />
      {address.three && signed ? (
        <ThreeWays tag={tag} before={before ? `backup:${before}` : address.a} now={address.b} />
      ) : (
        <ExplainedTable
          tag={tag}
          address={address}
          comparison={comparison.data}
          dictionary={dictionary.data}
          deciding={mayDecide && !address.three ? deciding : null}
          origins={aboutNow ? origins : undefined}
        />
      )}
    </section>
  );
}

/** The rows with what they do: each alone, and all of them together above. */
function ExplainedTable({
  tag,
  address,
  comparison,
  dictionary,
  deciding,
  origins,
}: {
  tag: string;
  address: ComparisonAddress;
  comparison: ComparisonView;
  dictionary: Dictionary;
  deciding: Deciding | null;
  origins: ReadonlyMap<string, DifferenceOrigin> | undefined;
}) {
  const { a, b } = comparison;
  const key = `${a.hash} ${b.hash}`;
  const { data, failed } = useBehaviourDifference(tag, address.a, address.b, comparison.dictionary, key);
  return (
    <>
      {a.hash !== b.hash && <WhatTheyDo tag={tag} set={address.b} difference={data} failed={failed} />}
      <ComparisonTable
        tag={tag}
        comparison={comparison}
        dictionary={dictionary}
        find={address.find}
        does={data?.byCode}
        deciding={deciding}
        {...(origins ? { origins } : {})}
      />
      {deciding && <DecisionBar tag={tag} deciding={deciding} does={data?.byCode} />}
    </>
  );
}
