import type { AreaView, PositionView } from '@drive-keep/api';
import { Link, useSearchParams } from 'react-router';
import { useRegister, useSession } from '../api/queries.ts';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { BackupBar } from './backup-bar.tsx';
import { PositionTile } from './position-tile.tsx';
import { stateOf, STATE_NAMES, type PositionState } from './position-state.ts';

type Kind = PositionState['kind'];

export function RegisterPage() {
  const { data: register, error } = useRegister();
  const { data: session } = useSession();
  const [params, setParams] = useSearchParams();
  const only = params.get('only') as Kind | null;
  if (error) return <ProblemNotice error={error} />;
  if (!register) return null;
  const all = register.areas.flatMap((area) => area.machines.flatMap((machine) => machine.positions));
  const shown = (position: PositionView) => only === null || stateOf(position).kind === only;
  const mayChoose = session?.role !== 'viewer';
  return (
    <Page title="Register">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl font-semibold">Register</h1>
        <StateFilter positions={all} only={only} choose={(kind) => setParams(kind ? { only: kind } : {})} />
      </div>
      <div className="flex flex-wrap items-end gap-x-6">
        {mayChoose && <BackupBar shown={all.filter(shown)} />}
        {session?.role === 'engineer' && (
          <Link to="/positions/new" className="ml-auto py-2 text-sm text-plum hover:underline">
            Add a position
          </Link>
        )}
      </div>
      {all.length === 0 && (
        <p className="mt-6">No positions yet. They come with the plant list of an engineer.</p>
      )}
      {register.areas.map((area) => (
        <AreaRow key={area.name} area={area} shown={shown} mayChoose={mayChoose} />
      ))}
    </Page>
  );
}

/** One area in one flow of tiles; the name of a machine stands above its first. */
function AreaRow({
  area,
  shown,
  mayChoose,
}: {
  area: AreaView;
  shown: (position: PositionView) => boolean;
  mayChoose: boolean;
}) {
  const machines = area.machines
    .map(({ name, positions }) => ({ name, positions: positions.filter(shown) }))
    .filter(({ positions }) => positions.length > 0);
  if (machines.length === 0) return null;
  return (
    <section className="mt-2 grid gap-x-3 border-t border-rule pt-1 md:grid-cols-[6.5rem_1fr]">
      <h2 className="pt-4 font-semibold">{area.name}</h2>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(8.2rem,1fr))] gap-x-2 gap-y-1">
        {machines.flatMap(({ name, positions }) =>
          positions.map((position, at) => (
            <div key={position.tag}>
              <div className="h-4 truncate text-xs text-soft">{at === 0 ? name : ''}</div>
              <PositionTile position={position} mayChoose={mayChoose} />
            </div>
          )),
        )}
      </div>
    </section>
  );
}

/** How many positions are in which state; a press shows those alone. */
function StateFilter({
  positions,
  only,
  choose,
}: {
  positions: readonly PositionView[];
  only: Kind | null;
  choose: (kind: Kind | null) => void;
}) {
  const counts = new Map<Kind, number>();
  for (const position of positions) {
    const { kind } = stateOf(position);
    counts.set(kind, (counts.get(kind) ?? 0) + 1);
  }
  const kinds = (Object.keys(STATE_NAMES) as Kind[]).filter((kind) => counts.has(kind));
  const chip = (active: boolean) =>
    `rounded-full border px-3 py-0.5 text-sm max-lg:py-2.5 ${active ? 'border-plum bg-plum-wash font-semibold' : 'border-rule bg-sheet'}`;
  return (
    <div role="group" aria-label="Show only" className="flex flex-wrap gap-1.5">
      <button
        type="button"
        aria-pressed={only === null}
        className={chip(only === null)}
        onClick={() => choose(null)}
      >
        {positions.length} positions
      </button>
      {kinds.map((kind) => (
        <button
          key={kind}
          type="button"
          aria-pressed={only === kind}
          className={chip(only === kind)}
          onClick={() => choose(only === kind ? null : kind)}
        >
          {counts.get(kind)} {STATE_NAMES[kind]}
        </button>
      ))}
    </div>
  );
}
