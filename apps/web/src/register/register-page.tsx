import { Unanswered } from '../ui/answer.tsx';
import { STATE_KINDS, STATE_NAMES, type RegisterPage as Part } from '@drive-keep/api';
import { useRegisterPages, useSession } from '../api/queries.ts';
import { SlidersHorizontal } from 'lucide-react';
import { useState } from 'react';
import { Page } from '../ui/page.tsx';
import { useSelection } from './selection.ts';
import { FirstSteps } from '../plant/first-steps.tsx';
import { BackupBar } from './backup-bar.tsx';
import { PositionTable } from './position-table.tsx';
import { PositionTiles } from './position-tiles.tsx';
import { useRegisterAddress, type RegisterAddress } from './register-address.ts';
import { RegisterFilters } from './register-filters.tsx';
import { RegisterMenu } from './register-menu.tsx';

export function RegisterPage() {
  const address = useRegisterAddress();
  const pages = useRegisterPages(address.query);
  const { data: session } = useSession();
  // On a phone the positions come first; with some chosen, what to do with them is there.
  const [unfolded, setUnfolded] = useState(false);
  const chosen = useSelection(({ tags }) => tags.size);
  const [first] = pages.data?.pages ?? [];
  if (!first) return <Unanswered error={pages.error} what="the register" />;
  const positions = pages.data?.pages.flatMap((part) => part.positions) ?? [];
  const more = () => {
    if (pages.hasNextPage && !pages.isFetchingNextPage) void pages.fetchNextPage();
  };
  const mayChoose = session?.role !== 'viewer' && address.value('state') !== 'retired';
  const asTable = address.value('as') === 'table';
  const List = asTable ? PositionTable : PositionTiles;
  return (
    <Page title="Register">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <h1 className="text-2xl font-semibold max-md:sr-only">Register</h1>
        <StateChips first={first} address={address} />
        <button
          type="button"
          aria-expanded={unfolded}
          className="inline-flex h-12 items-center gap-2 rounded border border-rule bg-sheet px-3 text-sm md:hidden"
          onClick={() => setUnfolded(!unfolded)}
        >
          <SlidersHorizontal className="size-4" /> {mayChoose ? 'Filter, back up' : 'Filter'}
          {address.filtered && <b className="text-plum">on</b>}
        </button>
        <RegisterMenu session={session} />
      </div>
      <FirstSteps role={session?.role ?? 'viewer'} />
      <div
        className={`mt-2 flex flex-wrap items-center gap-x-4 gap-y-2 ${unfolded || chosen > 0 ? '' : 'max-md:hidden'}`}
      >
        {mayChoose && <BackupBar part={first} query={address.query} filtered={address.filtered} />}
        <RegisterFilters address={address} asTable={asTable} />
      </div>
      {first.all === 0 && first.total === 0 && (
        <p className="mt-6">
          No positions yet. They are added one by one, from a plant list, or by finding units on a line:{' '}
          <b>Change the register</b>, at the top right.
        </p>
      )}
      {first.all > 0 && first.total === 0 && (
        <p className="mt-6">
          No position is like this.{' '}
          <button
            type="button"
            className="text-plum underline"
            onClick={() =>
              address.change({ area: '', model: '', criticality: '', state: '', findings: '', find: '' })
            }
          >
            Show all {first.all}
          </button>
        </p>
      )}
      {first.total > 0 && (
        <List positions={positions} total={first.total} more={more} mayChoose={mayChoose} address={address} />
      )}
    </Page>
  );
}

/** How many positions are in which state; a press shows those alone. */
function StateChips({ first, address }: { first: Part; address: RegisterAddress }) {
  const only = address.value('state');
  const kinds = STATE_KINDS.filter((kind) => first.counts[kind]);
  const shown = kinds
    .filter((kind) => kind !== 'retired')
    .reduce((sum, kind) => sum + (first.counts[kind] ?? 0), 0);
  const chip = (active: boolean) =>
    `shrink-0 rounded-full border px-3 py-0.5 text-sm max-lg:py-2.5 ${active ? 'border-plum bg-plum-wash font-semibold' : 'border-rule bg-sheet'}`;
  return (
    <div
      role="group"
      aria-label="Show only"
      className="flex flex-wrap gap-1.5 max-md:w-full max-md:flex-nowrap max-md:overflow-x-auto"
    >
      <button
        type="button"
        aria-pressed={only === ''}
        className={chip(only === '')}
        onClick={() => address.change({ state: '' })}
      >
        {shown} positions
      </button>
      {(first.withFindings > 0 || address.value('findings')) && (
        <button
          type="button"
          aria-pressed={address.value('findings') !== ''}
          className={chip(address.value('findings') !== '')}
          onClick={() => address.change({ findings: address.value('findings') ? '' : 'open' })}
        >
          {first.withFindings} with findings
        </button>
      )}
      {kinds.map((kind) => (
        <button
          key={kind}
          type="button"
          aria-pressed={only === kind}
          className={chip(only === kind)}
          onClick={() => address.change({ state: only === kind ? '' : kind })}
        >
          {first.counts[kind]} {STATE_NAMES[kind]}
        </button>
      ))}
    </div>
  );
}
