import type { ComparisonView } from '@drive-keep/api';
import { useEffect, useRef } from 'react';
import { AddressField, AddressSwitch } from '../ui/address-inputs.tsx';
import { FileMenu } from '../ui/file-menu.tsx';
import type { ComparisonAddress } from './comparison-address.ts';
import { ShareLink } from './share-link.tsx';

/** What of the comparison is shown, how many rows that is, and the keys. */
export function ComparisonBar({
  tag,
  comparison,
  address,
  change,
  signed,
  mayDecide,
  unfolded,
}: {
  unfolded: boolean;
  tag: string;
  comparison: ComparisonView;
  address: ComparisonAddress;
  change: (change: Partial<ComparisonAddress>) => void;
  signed: boolean;
  mayDecide: boolean;
}) {
  return (
    <div
      className={`mt-3 mb-2 flex flex-wrap items-center gap-x-5 gap-y-2 ${unfolded ? '' : 'max-md:hidden'}`}
    >
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
