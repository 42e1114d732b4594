import { useEffect, useRef } from 'react';
import { useParams } from 'react-router';
import { useComparison, useDictionary, useHistory, usePosition, useSession } from '../api/queries.ts';
import { AddressField, AddressSwitch } from '../ui/address-inputs.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { ComparisonTable } from './comparison-table.tsx';
import { queryOf, useComparisonAddress, type ComparisonAddress } from './comparison-address.ts';
import { HeadLine } from './head-line.tsx';
import { HistoryStrip } from './history-strip.tsx';
import { NO_MARKS, useMarks } from './marks.ts';
import { PutBackBar } from './put-back-bar.tsx';
import { SideChoice } from './side-choice.tsx';

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
        <Comparison tag={tag} address={address} change={change} />
      )}
    </Page>
  );
}

function Comparison({
  tag,
  address,
  change,
}: {
  tag: string;
  address: ComparisonAddress;
  change: (change: Partial<ComparisonAddress>) => void;
}) {
  const comparison = useComparison(tag, queryOf(address));
  const history = useHistory(tag);
  const dictionary = useDictionary(comparison.data?.dictionary);
  const { data: session } = useSession();
  const marks = useMarks(({ byTag }) => byTag[tag] ?? NO_MARKS);
  const toggleMark = useMarks((state) => state.toggle);
  if (comparison.error) return <ProblemNotice error={comparison.error} />;
  if (!comparison.data || !dictionary.data || !history.data) return null;
  const { a, b, rows, same, tolerated, leftOut } = comparison.data;
  // Only what the unit holds now can be put back; an old backup on side B says nothing about it.
  const mayPutBack = session?.role !== 'viewer' && address.b === 'newest';
  return (
    <section aria-label="Comparison" className="mt-4">
      <div className="space-y-1.5">
        <SideChoice
          letter="A"
          side={a}
          history={history.data}
          choose={(reference) => change({ a: reference })}
        />
        <SideChoice
          letter="B"
          side={b}
          history={history.data}
          choose={(reference) => change({ b: reference })}
        />
      </div>
      <div className="mt-3 mb-2 flex flex-wrap items-center gap-x-5 gap-y-2">
        <Filter find={address.find} change={(find) => change({ find })} />
        <AddressSwitch label="all parameters" on={address.all} set={(all) => change({ all })} />
        <AddressSwitch label="monitors and counters" on={address.noise} set={(noise) => change({ noise })} />
        <span className="text-sm text-soft">
          {address.all ? rows.length - same : rows.length} different, {same} same
          {tolerated > 0 && `, ${tolerated} within tolerance`}
          {leftOut > 0 && `, ${leftOut} left out`}
        </span>
        <span className="ml-auto text-sm text-soft max-lg:hidden">
          <kbd>↑</kbd> <kbd>↓</kbd> move, <kbd>Enter</kbd> opens,{' '}
          {mayPutBack && (
            <>
              <kbd>p</kbd> puts back,{' '}
            </>
          )}
          <kbd>/</kbd> filters
        </span>
      </div>
      <ComparisonTable
        tag={tag}
        comparison={comparison.data}
        dictionary={dictionary.data}
        find={address.find}
        marks={mayPutBack ? marks : null}
        toggleMark={(code) => toggleMark(tag, code)}
      />
      {mayPutBack && <PutBackBar tag={tag} comparison={comparison.data} />}
    </section>
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
