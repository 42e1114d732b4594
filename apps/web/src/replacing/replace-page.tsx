// A whole model at once: where it still sits, what speaks for doing it soon, how far each replacement is, what is to be ordered,
// and what all of them ask, answered once.

import type { ReplaceEstimate, ReplaceListModel, ReplaceListRow, ReplacementView } from '@drive-keep/api';
import { FIT_STATES } from '@drive-keep/core/replace';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { get, post, type ProblemError } from '../api/client.ts';
import { queryClient, useReplaceEstimates, useReplaceLists, useSession } from '../api/queries.ts';
import { changed } from '../dry-run/changed-address.ts';
import { Asking, Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { FileMenu } from '../ui/file-menu.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { Way } from '../ui/way.tsx';
import { showDate } from '../words/dates.ts';
import { Common } from './common-questions.tsx';

export function ReplacePage() {
  const { data: lists, error } = useReplaceLists();
  const [params, setParams] = useSearchParams();
  if (!lists) return <Unanswered error={error} what="the models that are replaced" />;
  const listed =
    lists.find(({ model }) => model === params.get('model')) ??
    lists.find(({ rows }) => rows.length > 0) ??
    lists[0];
  const choose = (key: string, value: string) =>
    setParams((before) => changed(before, key, value), { replace: true });
  return (
    <Page title="Replace">
      <h1 className="text-2xl font-semibold">Replace</h1>
      {!listed ? (
        <Nothing>
          No model has a successor yet. A cross-reference names one: an engineer writes it at the successor of
          any position.
        </Nothing>
      ) : (
        <>
          <div className="mt-3 flex flex-wrap items-center gap-4">
            <Choice
              label="Old model"
              value={listed.model}
              options={lists.map(({ model, name, rows }) => ({
                id: model,
                name: `${name} (${rows.length})`,
              }))}
              onChange={({ target }) => setParams({ model: target.value })}
            />
            <Choice
              label="Successor"
              value={params.get('by') ?? listed.successors[0]?.dictionary ?? ''}
              options={listed.successors.map(({ dictionary, name }) => ({ id: dictionary, name }))}
              onChange={({ target }) => choose('by', target.value)}
            />
          </div>
          <OfModel
            key={listed.model}
            listed={listed}
            dictionary={params.get('by') ?? listed.successors[0]?.dictionary ?? ''}
          />
        </>
      )}
    </Page>
  );
}

function OfModel({ listed, dictionary }: { listed: ReplaceListModel; dictionary: string }) {
  const { data: session } = useSession();
  const { data: estimates, error } = useReplaceEstimates(listed.model, dictionary);
  const successor = listed.successors.find((each) => each.dictionary === dictionary);
  const may = session !== undefined && session.role !== 'viewer';
  const { rows } = listed;
  const closed = rows.filter(({ replacement }) => replacement?.state === 'closed').length;
  const open = rows.filter(({ replacement }) => replacement?.state === 'open').length;
  const told = new Map((estimates ?? []).map((each) => [each.tag, each]));
  return (
    <>
      <p className="mt-4 text-2xl font-semibold">
        {rows.length === 0
          ? 'None sits at any position.'
          : `${closed} of ${rows.length} replaced, ${open} begun, ${rows.length - closed - open} not begun.`}
      </p>
      <Progress all={rows.length} closed={closed} open={open} />
      {successor?.revision === null && (
        <Notice level="look">
          Nobody has written a cross-reference for this pair: the bridge alone carries.
        </Notice>
      )}
      {error && <ProblemNotice error={error} />}
      {!estimates && !error && rows.length > 0 && <Asking what="what the successor would make of each" />}
      <Positions rows={rows} told={told} dictionary={dictionary} may={may} />
      {estimates && <Common rows={rows} estimates={estimates} may={may} />}
      <SheetPart name="Order" state={estimates ? `${told.size} units` : ''}>
        {estimates && <Counts estimates={estimates} />}
        <p className="mt-2 flex flex-wrap gap-2">
          <FileMenu
            name="Order list"
            label="Order list as a file"
            files={(['xlsx', 'csv'] as const).map((as) => ({
              name: as.toUpperCase(),
              href: `/api/replace-lists/${listed.model}/order?dictionary=${encodeURIComponent(dictionary)}&as=${as}`,
            }))}
          />
          <Way to="/setting-tables">Setting tables</Way>
          {successor && (
            <Way to={`/cross-references/${listed.model}/${successor.model}`}>Cross-reference</Way>
          )}
        </p>
      </SheetPart>
    </>
  );
}

function Progress({ all, closed, open }: { all: number; closed: number; open: number }) {
  if (all === 0) return null;
  const share = (count: number) => `${(count / all) * 100}%`;
  return (
    <div
      role="img"
      aria-label={`${closed} of ${all} closed, ${open} begun`}
      className="my-3 flex h-3 overflow-hidden rounded bg-rule"
    >
      <span className="bg-plum" style={{ width: share(closed) }} />
      <span className="bg-look" style={{ width: share(open) }} />
    </div>
  );
}

interface PositionsProps {
  readonly rows: readonly ReplaceListRow[];
  readonly told: ReadonlyMap<string, ReplaceEstimate>;
  readonly dictionary: string;
  readonly may: boolean;
}

const RISKS = { high: '▲ high', middle: '◆ middle', low: 'low' } as const;

function Positions({ rows, told, dictionary, may }: PositionsProps) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const order = { high: 0, middle: 1, low: 2 };
  const sorted = [...rows].sort((a, b) => order[a.risk] - order[b.risk]);
  const free = rows.filter(({ replacement }) => replacement === null).map(({ tag }) => tag);
  if (rows.length === 0) return null;
  return (
    <SheetPart name="Positions" state={`${rows.length}, the riskiest first`}>
      <div className="overflow-x-auto">
        <table className="w-full text-left text-sm">
          <thead className="border-b border-rule text-soft">
            <tr>
              <th className="py-1 pr-2 font-normal">
                <span className="sr-only">Choose</span>
              </th>
              <th className="py-1 pr-4 font-normal">Position</th>
              <th className="py-1 pr-4 font-normal">Old unit</th>
              <th className="py-1 pr-4 font-normal">Risk</th>
              <th className="py-1 pr-4 font-normal">Successor</th>
              <th className="py-1 font-normal">State</th>
            </tr>
          </thead>
          <tbody>
            {sorted.map((row) => (
              <PositionRow
                key={row.tag}
                row={row}
                told={told.get(row.tag)}
                dictionary={dictionary}
                chosen={may && row.replacement === null ? chosen.has(row.tag) : null}
                choose={(on) =>
                  setChosen(
                    (before) =>
                      new Set([...before].filter((tag) => tag !== row.tag).concat(on ? [row.tag] : [])),
                  )
                }
              />
            ))}
          </tbody>
        </table>
      </div>
      {may && free.length > 0 && (
        <BeginAll
          tags={free.filter((tag) => chosen.has(tag))}
          dictionary={dictionary}
          all={() => setChosen(new Set(free))}
        />
      )}
    </SheetPart>
  );
}

function PositionRow({
  row: { tag, duty, machine, rating, serial, installedAt, risk, risks, replacement },
  told,
  dictionary,
  chosen,
  choose,
}: {
  row: ReplaceListRow;
  told: ReplaceEstimate | undefined;
  dictionary: string;
  chosen: boolean | null;
  choose: (on: boolean) => void;
}) {
  return (
    <tr className="border-b border-rule align-top">
      <td className="py-1 pr-2">
        {chosen !== null && (
          <input
            type="checkbox"
            aria-label={`Choose ${tag}`}
            className="size-5 accent-plum"
            checked={chosen}
            onChange={({ target }) => choose(target.checked)}
          />
        )}
      </td>
      <td className="py-1 pr-4">
        <Link to={`/positions/${tag}`} className="font-mono text-plum underline">
          {tag}
        </Link>{' '}
        {duty} <span className="text-soft">{machine}</span>
      </td>
      <td className="py-1 pr-4">
        {replacement?.state === 'closed' && <span className="text-soft">new: </span>}
        {rating}{' '}
        <span className="text-soft">
          serial {serial}, since {showDate(installedAt)}
        </span>
      </td>
      <td className={`py-1 pr-4 ${risk === 'high' ? 'font-medium' : ''}`}>
        {RISKS[risk]}
        <span className="block text-soft">{risks.join('; ')}</span>
      </td>
      <td className="py-1 pr-4">
        {told && (
          <>
            {told.rating}{' '}
            <span className="block text-soft">
              <span aria-hidden="true">{FIT_STATES[told.state].shape}</span> {FIT_STATES[told.state].text}
              {told.lost > 0 && `, ${told.lost} wires without a place`}
            </span>
          </>
        )}
      </td>
      <td className="py-1">
        {replacement ? (
          <Link to={`/replacements/${replacement.id}`} className="text-plum underline">
            {replacement.state === 'closed'
              ? `replaced by ${replacement.to}`
              : `begun by ${replacement.startedBy}`}
          </Link>
        ) : (
          <Link
            to={`/positions/${tag}/successor?model=${encodeURIComponent(dictionary)}`}
            className="text-plum underline"
          >
            look
          </Link>
        )}
        {told && replacement?.state !== 'closed' && (
          <span className="block text-soft">{told.open.length} asked</span>
        )}
      </td>
    </tr>
  );
}

const LEAST_REASON = 3;

/** One after the other: what was begun before one is refused stays begun, and the list says so. */
function BeginAll({
  tags,
  dictionary,
  all,
}: {
  tags: readonly string[];
  dictionary: string;
  all: () => void;
}) {
  const [why, setWhy] = useState('');
  const begin = useMutation<void, ProblemError>({
    mutationFn: async () => {
      const { regions } = await get<{ regions: readonly { id: string }[] }>(`dictionaries/${dictionary}`);
      for (const tag of tags) {
        const { unit } = await get<{ unit: { region: string } }>(`positions/${tag}`);
        const region = regions.find(({ id }) => id === unit.region)?.id ?? regions[0]?.id;
        const wanted = { dictionary, region, rating: null, source: 'newest', why: why.trim() };
        await post<ReplacementView>(`positions/${tag}/replacements`, wanted);
      }
    },
    onSettled: () => queryClient.invalidateQueries(),
  });
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        begin.mutate();
      }}
    >
      <Button onClick={all}>Choose all that are not begun</Button>
      <input
        aria-label="Why they are replaced"
        placeholder="Why they are replaced"
        maxLength={300}
        className="h-9 w-72 rounded border border-rule bg-sheet px-2 max-lg:h-12"
        value={why}
        onChange={({ target }) => setWhy(target.value)}
      />
      <Button
        type="submit"
        weight="main"
        disabled={begin.isPending || tags.length === 0 || why.trim().length < LEAST_REASON}
      >
        Begin {tags.length === 1 ? 'one replacement' : `${tags.length} replacements`}
      </Button>
      {begin.error && <ProblemNotice error={begin.error} />}
    </form>
  );
}

function Counts({ estimates }: { estimates: readonly ReplaceEstimate[] }) {
  const counts = new Map<string, number>();
  for (const { rating } of estimates) counts.set(rating, (counts.get(rating) ?? 0) + 1);
  if (counts.size === 0) return <p className="text-sm text-soft">Nothing is to be ordered.</p>;
  return (
    <ul className="text-sm">
      {[...counts].sort().map(([rating, count]) => (
        <li key={rating}>
          <b className="font-mono">{count}</b> × {rating}
        </li>
      ))}
    </ul>
  );
}
