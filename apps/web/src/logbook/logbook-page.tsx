import { Link, useSearchParams } from 'react-router';
import { useLogbook } from '../api/queries.ts';
import { AddressField } from '../ui/address-inputs.tsx';
import { Button } from '../ui/button.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { IntegrityCheck } from './integrity-check.tsx';

export function LogbookPage() {
  const [params, setParams] = useSearchParams();
  const { data: page, error } = useLogbook(params.toString());
  const find = params.get('find') ?? '';
  return (
    <Page title="Logbook">
      <div className="flex flex-wrap items-center gap-4">
        <h1 className="text-2xl font-semibold">Logbook</h1>
        <AddressField
          value={find}
          change={(text) => setParams(text ? { find: text } : {}, { replace: true })}
          aria-label="Find in the logbook"
          placeholder="Person, tag or word"
          className="w-64"
        />
        <span className="text-sm text-soft">Newest first. Entries are never changed.</span>
      </div>
      <IntegrityCheck />
      {!page && <Unanswered error={error} what="the logbook" />}
      <ul className="mt-3">
        {page?.entries.map((entry) => (
          <li
            key={entry.id}
            className="grid gap-x-4 border-b border-rule py-1.5 md:grid-cols-[9rem_9rem_7rem_1fr]"
          >
            <span className="text-soft">{showTime(entry.at)}</span>
            <span>{entry.person}</span>
            <span className="font-mono">
              {entry.tag && (
                <Link to={`/positions/${entry.tag}`} className="hover:underline">
                  {entry.tag}
                </Link>
              )}
            </span>
            <span>{entry.text}</span>
          </li>
        ))}
      </ul>
      {page?.entries.length === 0 && (
        <Nothing>
          {find === '' ? 'Nothing is written here yet.' : `Nothing is written here that has “${find}” in it.`}
        </Nothing>
      )}
      <div className="mt-3 flex gap-3">
        {params.has('before') && <Button onClick={() => setParams(find ? { find } : {})}>Newest</Button>}
        {page?.next && (
          <Button onClick={() => setParams({ ...(find ? { find } : {}), before: page.next ?? '' })}>
            Older entries
          </Button>
        )}
      </div>
    </Page>
  );
}
