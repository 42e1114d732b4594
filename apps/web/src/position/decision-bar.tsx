// What is to be done with the chosen differences, and what has been decided so far. Nothing is written and nothing
// signed here: finishing leads to a write plan and to a draft that waits for its signature.

import type { DecisionKind, FinishedDecisions } from '@drive-keep/api';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { NONE_CHOSEN, useChosenRows } from './chosen-rows.ts';
import { DECISIONS, wantsReason } from './decision-words.ts';
import type { Deciding } from './use-deciding.ts';

const KINDS = Object.keys(DECISIONS) as DecisionKind[];

export function DecisionBar({
  tag,
  deciding,
  does = {},
}: {
  tag: string;
  deciding: Deciding;
  /** What each difference does, by code. */
  does?: Readonly<Record<string, string>> | undefined;
}) {
  const chosen = useChosenRows(({ byTag }) => byTag[tag] ?? NONE_CHOSEN);
  const choose = useChosenRows((state) => state.set);
  const [finished, setFinished] = useState<FinishedDecisions>();
  const navigate = useNavigate();
  const { open, asking, error } = deciding;
  const decide = (kind: DecisionKind) => {
    if (wantsReason(kind)) deciding.ask({ codes: [...chosen], kind });
    else deciding.decide({ codes: [...chosen], kind });
    choose(tag, []);
  };
  const finish = () =>
    deciding.finish.mutate(undefined, {
      onSuccess: (done) => {
        setFinished(done);
        if (done.writePlanId) void navigate(`/write-plans/${done.writePlanId}`);
        if (done.keyInSheetId) void navigate(`/key-in/${done.keyInSheetId}`);
      },
    });
  if (finished && !finished.writePlanId && open.length === 0 && chosen.size === 0)
    return <Done finished={finished} />;
  if (chosen.size === 0 && open.length === 0 && !asking) return null;
  return (
    <div className="sticky bottom-0 mt-4 space-y-2 border-t-2 border-plum bg-sheet px-4 py-3">
      <WhatChosenDo codes={asking?.codes ?? [...chosen]} does={does} />
      {chosen.size > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <span className="mr-2">
            <b>{chosen.size}</b> chosen: <span className="font-mono">{[...chosen].join(', ')}</span>
          </span>
          {KINDS.map((kind) => (
            <Button key={kind} onClick={() => decide(kind)}>
              {DECISIONS[kind].button} <kbd className="text-xs text-soft">{DECISIONS[kind].key}</kbd>
            </Button>
          ))}
          <Button weight="quiet" onClick={() => choose(tag, [])}>
            Choose none
          </Button>
        </div>
      )}
      {asking && (
        <ReasonForm key={`${asking.kind} ${asking.codes.join()}`} asking={asking} deciding={deciding} />
      )}
      {open.length > 0 && (
        <div className="flex flex-wrap items-center gap-3">
          <span>Decided: {summaryOf(open.map(({ kind }) => kind))}</span>
          <Button weight="main" disabled={deciding.finish.isPending} onClick={finish}>
            Finish these decisions
          </Button>
          <Button weight="quiet" onClick={() => deciding.withdraw(open.map(({ code }) => code))}>
            Take them back
          </Button>
        </div>
      )}
      {error && <ProblemNotice error={error} />}
    </div>
  );
}

/** More than these are read in their rows. */
const MOST_TOLD = 3;

/** What is decided about is seen once more beside the buttons. */
function WhatChosenDo({ codes, does }: { codes: readonly string[]; does: Readonly<Record<string, string>> }) {
  const told = codes.flatMap((code) => (does[code] === undefined ? [] : [[code, does[code]] as const]));
  if (told.length === 0) return null;
  return (
    <ul aria-label="What the chosen differences do" className="border-l-4 border-plum pl-3 text-sm">
      {told.slice(0, MOST_TOLD).map(([code, text]) => (
        <li key={code}>
          <span className="font-mono">{code}</span> {text}
        </li>
      ))}
      {told.length > MOST_TOLD && <li>{told.length - MOST_TOLD} more in their rows.</li>}
    </ul>
  );
}

function summaryOf(kinds: readonly DecisionKind[]): string {
  return KINDS.flatMap((kind) => {
    const count = kinds.filter((each) => each === kind).length;
    return count === 0 ? [] : [`${count} ${DECISIONS[kind].row}`];
  }).join(', ');
}

function Done({ finished: { tolerated, later, draftId } }: { finished: FinishedDecisions }) {
  const parts = [
    ...(draftId ? ['a baseline draft waits for its signature'] : []),
    ...(tolerated > 0 ? [`${tolerated} tolerated`] : []),
    ...(later > 0 ? [`${later} to be looked at later`] : []),
  ];
  return (
    <div className="mt-4">
      <Notice level="plain">✓ Finished: {parts.join(', ')}.</Notice>
    </div>
  );
}

const DAY_MS = 86_400_000;
const USUAL_DAYS = 90;

function ReasonForm({
  asking: { codes, kind },
  deciding,
}: {
  asking: NonNullable<Deciding['asking']>;
  deciding: Deciding;
}) {
  const [reason, setReason] = useState('');
  const [until, setUntil] = useState(() =>
    new Date(Date.now() + USUAL_DAYS * DAY_MS).toISOString().slice(0, 10),
  );
  const wish = { codes, kind, reason, ...(kind === 'tolerate' ? { until } : {}) };
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        deciding.decide(wish);
      }}
    >
      <label className="grow">
        <span className="block text-sm font-medium">
          {DECISIONS[kind].button} <span className="font-mono">{codes.join(', ')}</span>: why
        </span>
        <input
          autoFocus
          value={reason}
          maxLength={300}
          onChange={(event) => setReason(event.target.value)}
          className="h-10 w-full rounded border border-rule bg-ground px-3 max-lg:h-12"
        />
      </label>
      {kind === 'tolerate' && (
        <label>
          <span className="block text-sm font-medium">until and with</span>
          <input
            type="date"
            value={until}
            onChange={(event) => setUntil(event.target.value)}
            className="h-10 rounded border border-rule bg-ground px-3 max-lg:h-12"
          />
        </label>
      )}
      <Button type="submit" weight="main">
        Decide
      </Button>
      <Button weight="quiet" onClick={() => deciding.ask(null)}>
        Not now
      </Button>
    </form>
  );
}
