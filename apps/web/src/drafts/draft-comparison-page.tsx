// A draft beside anything else, by what the parameters mean: defaults, another draft, or any set of a position.

import { Link, useParams, useSearchParams } from 'react-router';
import { useDraft, useDraftComparison, useDrafts } from '../api/queries.ts';
import { AcrossTable } from '../compare/across-comparison.tsx';
import { changed } from '../dry-run/changed-address.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Choice } from '../ui/choice.tsx';
import { Page } from '../ui/page.tsx';
import { PositionField } from '../ui/position-field.tsx';

export function DraftComparisonPage() {
  const { id = '' } = useParams();
  const { data: view, error } = useDraft(id);
  const { data: drafts } = useDrafts();
  const [params, setParams] = useSearchParams();
  const other = params.get('with') ?? (view?.from ? `draft:${view.from.id}` : 'delivered');
  const { data, error: refused } = useDraftComparison(id, other);
  const choose = (value: string) => setParams((before) => changed(before, 'with', value), { replace: true });
  if (!view) return <Unanswered error={error} what="this draft" />;
  const [tag = '', reference = 'newest'] = /^(delivered|draft:|revision:)/.test(other)
    ? []
    : other.split(/:(.*)/s);
  return (
    <Page title={`Compare ${view.name}`}>
      <h1 className="text-2xl font-semibold">
        Compare{' '}
        <Link to={`/drafts/${id}`} className="text-plum hover:underline">
          {view.name}
        </Link>
      </h1>
      <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice
          label="with"
          value={tag === '' ? other : 'position'}
          options={[
            { id: 'delivered', name: 'the defaults' },
            ...view.revisions.map((each) => ({
              id: `revision:${each.id}`,
              name: `its revision ${each.revision}`,
            })),
            ...(drafts ?? [])
              .filter((each) => each.id !== id)
              .map((each) => ({ id: `draft:${each.id}`, name: `draft: ${each.name}` })),
            ...(tag === '' ? [] : [{ id: 'position', name: `position ${tag}` }]),
          ]}
          onChange={({ target }) => choose(target.value)}
        />
        <PositionField
          label="or the position"
          tag={tag}
          choose={(next) => choose(next === '' ? 'delivered' : `${next}:newest`)}
        />
        {tag !== '' && (
          <Choice
            label="its"
            value={reference}
            options={[
              { id: 'newest', name: 'newest backup' },
              { id: 'baseline', name: 'baseline' },
              { id: 'default', name: 'defaults' },
            ]}
            onChange={({ target }) => choose(`${tag}:${target.value}`)}
          />
        )}
      </div>
      {data ? <AcrossTable data={data} /> : <Unanswered error={refused} what="both sets" />}
    </Page>
  );
}
