import { Link } from 'react-router';
import { useDictionaries } from '../api/queries.ts';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';

export function ModelsPage() {
  const { data: dictionaries, error } = useDictionaries();
  if (error) return <ProblemNotice error={error} />;
  return (
    <Page title="Models">
      <h1 className="text-2xl font-semibold">Models</h1>
      <ul className="mt-4">
        {dictionaries?.map(({ id, maker, name, version }) => (
          <li key={id} className="border-b border-rule py-2">
            <Link to={`/models/${id}`} className="text-lg text-plum hover:underline">
              {maker} {name}
            </Link>{' '}
            <span className="text-soft">dictionary version {version}</span>
          </li>
        ))}
      </ul>
    </Page>
  );
}
