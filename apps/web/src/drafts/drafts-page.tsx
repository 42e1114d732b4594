// First settings that people work on: begun here from a starting point, from what another drive holds, from a file, or from
// nothing; the unit may still be in its box.

import type { DraftMark, SettingsDraftView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useDrafts, useSession } from '../api/queries.ts';
import { AddressField } from '../ui/address-inputs.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Page } from '../ui/page.tsx';
import { showAge, showTime } from '../words/dates.ts';
import { Begin } from './begin.tsx';

export function DraftsPage() {
  const { data: drafts, error } = useDrafts();
  const { data: session } = useSession();
  const [params, setParams] = useSearchParams();
  const find = params.get('find') ?? '';
  const away = params.get('away') === 'yes';
  const words = find
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  const shown = drafts?.filter(
    (draft) => (away || draft.state === 'open') && words.every((word) => textOf(draft).includes(word)),
  );
  const putAway = drafts?.filter(({ state }) => state === 'put-away').length ?? 0;
  return (
    <Page title="First settings">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <h1 className="text-2xl font-semibold">First settings</h1>
        <AddressField
          value={find}
          change={(text) => setParams(text === '' ? {} : { find: text }, { replace: true })}
          aria-label="Filter drafts"
          placeholder="Name, model, tag, person"
          className="w-56"
        />
        {putAway > 0 && (
          <label className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              checked={away}
              onChange={({ target }) => setParams(target.checked ? { away: 'yes' } : {}, { replace: true })}
            />
            {putAway} put away
          </label>
        )}
      </div>
      {session && session.role !== 'viewer' && <Begin />}
      {!shown ? (
        <Unanswered error={error} what="the drafts" />
      ) : shown.length === 0 ? (
        <Nothing>
          {drafts?.length === 0
            ? 'No draft yet. Choose a starting point above: a set is worked out for a unit that may still be in its box.'
            : 'No draft is like this.'}
        </Nothing>
      ) : (
        <List drafts={shown} may={session !== undefined && session.role !== 'viewer'} />
      )}
    </Page>
  );
}

const textOf = ({ name, model, rating, tag, owner, changedBy, begins }: DraftMark): string =>
  [name, model, rating, tag, owner, changedBy, begins].join(' ').toLowerCase();

function List({ drafts, may }: { drafts: readonly DraftMark[]; may: boolean }) {
  return (
    <table className="mt-4 w-full text-left text-sm">
      <thead className="border-b border-rule text-soft">
        <tr>
          <th className="py-1 pr-3 font-normal">Draft</th>
          <th className="pr-3 font-normal">For</th>
          <th className="pr-3 font-normal">Unit</th>
          <th className="pr-3 font-normal">Begins with</th>
          <th className="pr-3 font-normal">Last typed</th>
          <th className="pr-3 font-normal">Kept</th>
          <th aria-label="Doing" />
        </tr>
      </thead>
      <tbody>
        {drafts.map((draft) => (
          <tr key={draft.id} className="h-8 border-b border-rule">
            <td className="pr-3">
              <Link to={`/drafts/${draft.id}`} className="font-medium text-plum hover:underline">
                {draft.name}
              </Link>
              {draft.state === 'put-away' && <span className="text-soft"> put away</span>}
            </td>
            <td className="pr-3">
              {draft.tag ? (
                <span className="font-mono">{draft.tag}</span>
              ) : (
                <span className="text-soft">in its box</span>
              )}
            </td>
            <td className="pr-3">
              {draft.model} {draft.rating ?? ''}
            </td>
            <td className="pr-3">{draft.begins}</td>
            <td className="pr-3" title={showTime(draft.changedAt)}>
              {showAge(draft.changedAt)} by {draft.changedBy}
            </td>
            <td className="pr-3 tabular-nums">
              {draft.revisions === 0 ? 'not yet' : `revision ${draft.revisions}`}
            </td>
            <td className="text-right">{may && draft.state === 'open' && <PutAway draft={draft} />}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function PutAway({ draft }: { draft: DraftMark }) {
  const [asked, setAsked] = useState(false);
  const [why, setWhy] = useState('');
  const away = useMutation<SettingsDraftView, ProblemError>({
    mutationFn: () => post(`drafts/${draft.id}/put-away`, { why: why.trim() }),
    onSuccess: () => void queryClient.invalidateQueries({ queryKey: ['drafts'] }),
  });
  if (!asked)
    return (
      <Button weight="quiet" onClick={() => setAsked(true)}>
        Put away
      </Button>
    );
  return (
    <span className="flex items-center justify-end gap-2">
      <input
        aria-label={`Why ${draft.name} is put away`}
        placeholder="why"
        value={why}
        onChange={({ target }) => setWhy(target.value)}
        className="h-8 w-40 rounded border border-rule bg-sheet px-2 max-lg:h-12"
      />
      <Button disabled={why.trim().length < 3 || away.isPending} onClick={() => away.mutate()}>
        Put away
      </Button>
      {away.error && <span className="text-stop">{away.error.message}</span>}
    </span>
  );
}
