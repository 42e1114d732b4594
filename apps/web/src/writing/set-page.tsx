// Bringing a unit to a whole set: the baseline, the defaults, an older backup or an imported file; over its line or at
// its keypad. Plans and sheets made before are below.

import type { HistoryView, KeyInSheetView, PositionDetailView, WritePlanView } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useHistory, useKeyInSheets, usePosition, useSession, useWritePlans } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { PLAN_STATES } from './carry-out.tsx';
import { targetsOf } from './set-targets.ts';

export function SetPage() {
  const { tag = '' } = useParams();
  const { data: position, error } = usePosition(tag);
  const { data: history } = useHistory(tag);
  if (!position || !history) return <Unanswered error={error} what="this position" />;
  return (
    <Page title={`Set values of ${tag}`}>
      <h1 className="text-2xl font-semibold">
        Set values of{' '}
        <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
          {tag}
        </Link>
      </h1>
      <p className="mt-1 mb-3 text-soft">
        Brings the unit to a whole set. What is written and what stands in the way is shown first. For single
        values, choose <b>put back</b> in the comparison.
      </p>
      <Towards position={position} history={history} />
      <Before tag={tag} />
    </Page>
  );
}

function Towards({ position, history }: { position: PositionDetailView; history: HistoryView }) {
  const { data: session } = useSession();
  const navigate = useNavigate();
  const targets = targetsOf(history);
  const [target, setTarget] = useState(targets[0]?.reference ?? 'default');
  const { tag, unit } = position;
  const plan = useMutation<WritePlanView, ProblemError>({
    mutationFn: () => post(`positions/${tag}/write-plans`, { target }),
    onSuccess: ({ id }) => navigate(`/write-plans/${id}`),
  });
  const sheet = useMutation<KeyInSheetView, ProblemError>({
    mutationFn: () => post(`positions/${tag}/key-in-sheets`, { target }),
    onSuccess: ({ id }) => navigate(`/key-in/${id}`),
  });
  const problem = plan.error ?? sheet.error;
  const busy = plan.isPending || sheet.isPending;
  return (
    <>
      <SheetPart name="Towards" state={`${targets.length} sets`}>
        <fieldset>
          <legend className="sr-only">Set that is wanted</legend>
          {targets.map(({ reference, name, note }) => (
            <label key={reference} className="flex min-h-10 items-center gap-3 border-b border-rule">
              <input
                type="radio"
                name="target"
                className="size-5 accent-plum"
                checked={target === reference}
                onChange={() => setTarget(reference)}
              />
              <span className="w-64 shrink-0 font-medium">{name}</span>
              <span className="text-soft">{note}</span>
            </label>
          ))}
        </fieldset>
        <p className="mt-2 text-sm text-soft">
          A file is{' '}
          <Link className="text-plum underline" to={`/positions/${tag}/import`}>
            imported
          </Link>{' '}
          first and stands here then.
        </p>
      </SheetPart>
      {session && session.role !== 'viewer' && (
        <SheetPart name="How" state={unit.line ? 'has a line' : 'keypad only'}>
          <div className="flex flex-wrap gap-3">
            {unit.line && (
              <Button weight="main" className="min-h-12" disabled={busy} onClick={() => plan.mutate()}>
                Plan the writes
              </Button>
            )}
            <Button
              weight={unit.line ? 'plain' : 'main'}
              className="min-h-12"
              disabled={busy}
              onClick={() => sheet.mutate()}
            >
              Make a key-in sheet
            </Button>
          </div>
          {problem && <ProblemNotice error={problem} />}
        </SheetPart>
      )}
    </>
  );
}

function Before({ tag }: { tag: string }) {
  const { data: plans, error: noPlans } = useWritePlans(tag);
  const { data: sheets, error: noSheets } = useKeyInSheets(tag);
  if (!plans || !sheets) return <Unanswered error={noPlans ?? noSheets} what="what was planned before" />;
  const lines = [
    ...plans.map((plan) => ({
      to: `/write-plans/${plan.id}`,
      at: plan.plannedAt,
      text: `Towards ${plan.target}`,
      state: PLAN_STATES[plan.state],
      by: plan.plannedBy,
    })),
    ...sheets.map((sheet) => ({
      to: `/key-in/${sheet.id}`,
      at: sheet.madeAt,
      text: `Key-in sheet towards ${sheet.target}`,
      state: sheet.state,
      by: sheet.madeBy,
    })),
  ].sort((a, b) => b.at.localeCompare(a.at));
  return (
    <SheetPart name="Made before" state={lines.length === 0 ? 'none' : `${lines.length}`}>
      {lines.length === 0 && (
        <p className="text-soft">Plans and key-in sheets of this position stand here.</p>
      )}
      <ul>
        {lines.map(({ to, at, text, state, by }) => (
          <li key={to} className="flex flex-wrap gap-x-4 border-b border-rule py-1.5">
            <Link to={to} className="w-40 shrink-0 text-plum hover:underline">
              {showTime(at)}
            </Link>
            <span className="min-w-0 flex-1">{text}</span>
            <span className="text-soft">
              {state} · {by}
            </span>
          </li>
        ))}
      </ul>
    </SheetPart>
  );
}
