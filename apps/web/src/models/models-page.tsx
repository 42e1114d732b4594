// All models whose parameters are known, the newest version of each, with its older ones and what changed since.

import type { ModelListing } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { Link } from 'react-router';
import { useModelDrafts, useModels, useSession } from '../api/queries.ts';
import { showAge } from '../words/dates.ts';
import { Page } from '../ui/page.tsx';

export function ModelsPage() {
  const { data: models, error } = useModels();
  const { data: session } = useSession();
  if (!models) return <Unanswered error={error} what="the models" />;
  const makers = [...new Set(models.map(({ maker }) => maker))];
  return (
    <Page title="Models">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl font-semibold">Models</h1>
        <Link
          to="/drafts"
          className="ml-auto inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
        >
          First settings for a unit
        </Link>
        {session?.role === 'engineer' && (
          <Link
            to="/models/new"
            className=" inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
          >
            Bring a model of your own
          </Link>
        )}
      </div>
      <Drafts />
      {makers.map((maker) => (
        <section key={maker} className="mt-4 grid gap-x-4 border-t border-rule pt-2 md:grid-cols-[8rem_1fr]">
          <h2 className="pt-1 font-semibold">{maker}</h2>
          <ul>
            {newestOf(models.filter((each) => each.maker === maker)).map(({ newest, older }) => (
              <ModelLine key={newest.id} newest={newest} older={older} />
            ))}
          </ul>
        </section>
      ))}
    </Page>
  );
}

/** Models that somebody is completing. */
function Drafts() {
  const { data: drafts = [] } = useModelDrafts();
  if (drafts.length === 0) return null;
  return (
    <section className="mt-4 grid gap-x-4 border-t border-rule pt-2 md:grid-cols-[8rem_1fr]">
      <h2 className="pt-1 font-semibold">In work</h2>
      <ul>
        {drafts.map(({ id, title, changedBy, changedAt, keptAs }) => (
          <li key={id} className="border-b border-rule py-2">
            <Link to={`/models/drafts/${id}`} className="text-lg font-semibold text-plum hover:underline">
              {title}
            </Link>{' '}
            <span className="text-soft">
              changed {showAge(changedAt)} by {changedBy}
              {keptAs && `, kept as ${keptAs}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface Versions {
  readonly newest: ModelListing;
  readonly older: readonly ModelListing[];
}

/** The list comes with the newest version of a model first. */
function newestOf(models: readonly ModelListing[]): readonly Versions[] {
  const names = [...new Set(models.map(({ model }) => model))];
  return names.flatMap((name) => {
    const [newest, ...older] = models.filter(({ model }) => model === name);
    return newest ? [{ newest, older }] : [];
  });
}

function ModelLine({ newest, older }: Versions) {
  const inPlace = [newest, ...older].reduce((sum, { positions }) => sum + positions, 0);
  return (
    <li className="grid gap-x-4 border-b border-rule py-2 md:grid-cols-[7rem_1fr_20rem]">
      <Link to={`/models/${newest.id}`} className="text-lg font-semibold text-plum hover:underline">
        {newest.name}
      </Link>
      <div>
        {newest.about}
        {newest.importedBy && <span className="text-soft"> Brought by {newest.importedBy}.</span>}
        {older.map((before) => (
          <span key={before.id} className="block text-sm">
            <span className="text-soft">
              Firmware {before.firmware.from} to {before.firmware.to}:
            </span>{' '}
            <Link to={`/models/${before.id}`} className="text-plum hover:underline">
              version {before.version}
            </Link>
            {', '}
            <Link
              to={`/models/${newest.id}/changes?since=${before.id}`}
              className="text-plum hover:underline"
            >
              what changed since
            </Link>
          </span>
        ))}
      </div>
      <div className="text-sm text-soft">
        {newest.parameters} parameters
        {newest.terminals > 0 && `, ${newest.terminals} terminals`}
        <span className="block">
          Firmware {newest.firmware.from} to {newest.firmware.to},{' '}
          {inPlace === 0
            ? 'nowhere in this plant'
            : inPlace === 1
              ? 'at 1 position'
              : `at ${inPlace} positions`}
          {!newest.hasLine && ', read off at the keypad or imported'}
        </span>
      </div>
    </li>
  );
}
