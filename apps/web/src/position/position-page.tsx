import type { ComparisonView, PositionDetailView } from '@drive-keep/api';
import { useEffect, useMemo, useRef } from 'react';
import { useParams } from 'react-router';
import {
  useComparison,
  useDictionary,
  useHistory,
  useOrigins,
  usePosition,
  useSession,
} from '../api/queries.ts';
import { AddressField, AddressSwitch } from '../ui/address-inputs.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { FileMenu } from '../ui/file-menu.tsx';
import { Page } from '../ui/page.tsx';
import { ShareLink } from './share-link.tsx';
import { ComparisonTable } from './comparison-table.tsx';
import { queryOf, useComparisonAddress, type ComparisonAddress } from './comparison-address.ts';
import { HeadLine } from './head-line.tsx';
import { HistoryStrip } from './history-strip.tsx';
import { DecisionBar } from './decision-bar.tsx';
import { DraftNotice, FirstBaseline } from './draft-notice.tsx';
import { LiveComparison } from './live-comparison.tsx';
import { SideChoice } from './side-choice.tsx';
import { ThreeWays } from './three-ways.tsx';
import { useDeciding } from './use-deciding.ts';

export function PositionPage() {
  const { tag = '' } = useParams();
  const position = usePosition(tag);
  const history = useHistory(tag);
  // A position without a signed baseline is compared with the defaults first.
  const signed = position.data === undefined || position.data.baselineRevision !== null;
  const [address, change] = useComparisonAddress(signed ? 'baseline' : 'default');
  if (position.error) return <ProblemNotice error={position.error} />;
  if (!position.data) return null;
  return (
    <Page title={tag}>
      <HeadLine position={position.data} />
      <div className="mt-3">
        {history.data && (
          <HistoryStrip history={history.data} handles={address} move={(handles) => change(handles)} />
        )}
      </div>
      {position.data.newestBackup === null ? (
        <p className="mt-4 text-soft">
          Nothing to compare yet: no set has been read from this unit and none imported.
        </p>
      ) : (
        <Comparison position={position.data} address={address} change={change} />
      )}
    </Page>
  );
}

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
  const { data: known } = useOrigins(tag);
  const origins = useMemo(() => new Map((known ?? []).map((origin) => [origin.code, origin])), [known]);
  if (comparison.error) return <ProblemNotice error={comparison.error} />;
  if (!comparison.data || !dictionary.data || !history.data) return null;
  if (live) {
    const { a, find } = address;
    return <LiveComparison tag={tag} a={a} find={find} history={history.data} choose={change} />;
  }
  const { a, b } = comparison.data;
  // Decisions are about what the unit holds now against what it should hold; other points in time say nothing of it.
  const aboutNow = address.a === 'baseline' && address.b === 'newest';
  const mayDecide = session?.role !== 'viewer' && aboutNow && position.retiredAt === null;
  const signed = history.data.baselines.length > 0;
  // Side A is "before", unless it is the baseline itself, which is there anyway: then the last backup that differed.
  const newest = history.data.backups.at(-1);
  const isBefore = address.a !== 'default' && !address.a.startsWith('baseline');
  const before = isBefore
    ? undefined
    : history.data.backups.findLast((backup) => newest && backup.hash !== newest.hash);
  return (
    <section aria-label="Comparison" className="mt-4">
      {deciding.draft && <DraftNotice draft={deciding.draft} />}
      {history.data.baselines.length === 0 && !deciding.draft && session?.role !== 'viewer' && (
        <FirstBaseline tag={tag} />
      )}
      <div className="space-y-1.5">
        <SideChoice
          tag={tag}
          letter="A"
          side={a}
          history={history.data}
          choose={(reference) => change({ a: reference })}
        />
        <SideChoice
          tag={tag}
          letter="B"
          side={b}
          history={history.data}
          choose={(reference) => change({ b: reference })}
          mayRead={position.unit.line !== null && position.retiredAt === null}
        />
      </div>
      <ComparisonBar
        tag={tag}
        comparison={comparison.data}
        address={address}
        change={change}
        signed={signed}
        mayDecide={mayDecide && !address.three}
      />
      {address.three && signed ? (
        <ThreeWays tag={tag} before={before ? `backup:${before.id}` : address.a} now={address.b} />
      ) : (
        <ComparisonTable
          tag={tag}
          comparison={comparison.data}
          dictionary={dictionary.data}
          find={address.find}
          deciding={mayDecide ? deciding : null}
          {...(aboutNow ? { origins } : {})}
        />
      )}
      {mayDecide && !address.three && <DecisionBar tag={tag} deciding={deciding} />}
    </section>
  );
}

/** What of the comparison is shown, how many rows that is, and the keys. */
function ComparisonBar({
  tag,
  comparison,
  address,
  change,
  signed,
  mayDecide,
}: {
  tag: string;
  comparison: ComparisonView;
  address: ComparisonAddress;
  change: (change: Partial<ComparisonAddress>) => void;
  signed: boolean;
  mayDecide: boolean;
}) {
  return (
    <div className="mt-3 mb-2 flex flex-wrap items-center gap-x-5 gap-y-2">
      <Filter find={address.find} change={(find) => change({ find })} />
      <AddressSwitch label="all parameters" on={address.all} set={(all) => change({ all })} />
      <AddressSwitch label="monitors and counters" on={address.noise} set={(noise) => change({ noise })} />
      {signed && <AddressSwitch label="three ways" on={address.three} set={(three) => change({ three })} />}
      <span className="text-sm text-soft">
        {address.all ? comparison.rows.length - comparison.same : comparison.rows.length} different,{' '}
        {comparison.same} same
        {comparison.tolerated > 0 && `, ${comparison.tolerated} within tolerance`}
        {comparison.leftOut > 0 && `, ${comparison.leftOut} left out`}
      </span>
      <FileMenu
        name="Paper"
        label="Save this comparison"
        files={(['pdf', 'csv', 'xlsx'] as const).map((format) => ({
          name: `Comparison record, ${format.toUpperCase()}`,
          href: `/api/positions/${tag}/comparison-record?${new URLSearchParams({ a: address.a, b: address.b, format }).toString()}`,
        }))}
      />
      <ShareLink comparison={comparison} />
      <span className="ml-auto text-sm text-soft max-lg:hidden">
        <kbd>↑</kbd> <kbd>↓</kbd> move, <kbd>Enter</kbd> opens,{' '}
        {mayDecide && (
          <>
            <kbd>p</kbd> puts back, <kbd>i</kbd> takes in, <kbd>t</kbd> tolerates, <kbd>l</kbd> later,{' '}
            <kbd>u</kbd> undoes,{' '}
          </>
        )}
        <kbd>/</kbd> filters
      </span>
    </div>
  );
}

function Filter({ find, change }: { find: string; change: (find: string) => void }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement && event.target.type !== 'checkbox';
      if (event.key !== '/' || typing) return;
      event.preventDefault();
      field.current?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <AddressField
      inputRef={field}
      value={find}
      change={change}
      aria-label="Filter rows"
      placeholder="Filter: code, name, change"
      className="w-64"
    />
  );
}
