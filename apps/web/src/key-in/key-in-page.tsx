// A write plan for fingers, at the open cabinet: what is changed in the order of the keypad, then what is only looked at.
// Each line is ticked off, or told what was found there instead. It goes on without a network.

import type { KeyInLineView, KeyInSheetView } from '@drive-keep/api';
import { factsOf, findParameter, type Dictionary, type Facts } from '@drive-keep/core/dictionary';
import { useMutation } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useDictionary, usePosition, useSession } from '../api/queries.ts';
import { BroughtProgress } from '../ui/brought-progress.tsx';
import { Button } from '../ui/button.tsx';
import { FileMenu } from '../ui/file-menu.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { KeyInLine } from './key-in-line.tsx';
import { useKeyInStore, type OwnSheet } from './key-in-store.ts';
import { useKeyIn, type KeyInState } from './use-key-in.ts';
import { Unanswered } from '../ui/answer.tsx';

export function KeyInPage() {
  const { id = '' } = useParams();
  const state = useKeyIn(id);
  if (!state.own) return <Unanswered error={state.error} what="this sheet" />;
  return <Sheet own={state.own} state={state} />;
}

function Sheet({ own, state }: { own: OwnSheet; state: KeyInState }) {
  const { data: dictionary, error } = useDictionary(own.sheet.dictionary);
  const { data: position } = usePosition(own.sheet.tag);
  const facts = useMemo(
    () => (dictionary && position && factsOf(dictionary, position.unit)) ?? {},
    [dictionary, position],
  );
  if (!dictionary) return <Unanswered error={error} what="the model of this sheet" />;
  const { sheet, marks } = own;
  const changes = sheet.lines.filter(({ kind }) => kind === 'change');
  const checks = sheet.lines.filter(({ kind }) => kind === 'check');
  const isMarked = ({ place }: KeyInLineView) => (marks[place]?.state ?? null) !== null;
  return (
    <Page title={`Key in ${sheet.tag}`}>
      <div className="mx-auto max-w-3xl">
        <Head sheet={sheet} />
        <BroughtProgress
          done={changes.filter(isMarked).length}
          total={changes.length}
          label="Keyed in so far"
          network={state.network}
          kept={keptText(state)}
        />
        {state.error && <ProblemNotice error={state.error} />}
        {sheet.state === 'finished' && sheet.finishedAt && (
          <div className="mt-3">
            <Notice level="plain">
              Finished by {sheet.finishedBy}, {showTime(sheet.finishedAt)}. Read the unit off to show what it
              holds;{' '}
              <Link to={`/positions/${sheet.tag}/proofs`} className="text-plum underline">
                a proof run
              </Link>{' '}
              shows what it does.
            </Notice>
          </div>
        )}
        <Steps name="First" steps={sheet.first} />
        <Part name="Change" note={`${changes.length} values, in this order`}>
          {changes.length === 0 && (
            <li className="py-3">Nothing: it holds all of it by the newest backup.</li>
          )}
          <Lines lines={changes} own={own} dictionary={dictionary} facts={facts} />
        </Part>
        <Steps name="Afterwards" steps={sheet.afterwards} />
        {sheet.unreachable.length > 0 && (
          <Part name="Not possible" note={`${sheet.unreachable.length} lines`}>
            {sheet.unreachable.map(({ code, text }) => (
              <li key={code} className="border-l-4 border-look bg-look-wash px-3 py-2">
                {text}
              </li>
            ))}
          </Part>
        )}
        {checks.length > 0 && (
          <details className="mt-6 print:hidden">
            <summary className="min-h-12 cursor-pointer border-b-2 border-rule py-3 font-semibold">
              Check only{' '}
              <span className="font-normal text-soft">{checks.length} values, as they should be</span>
            </summary>
            <ul>
              <Lines lines={checks} own={own} dictionary={dictionary} facts={facts} />
            </ul>
          </details>
        )}
        {sheet.state === 'open' && (
          <Finish sheet={sheet} state={state} left={changes.length - changes.filter(isMarked).length} />
        )}
      </div>
    </Page>
  );
}

function Head({ sheet }: { sheet: KeyInSheetView }) {
  const saved = sheet.plainPresses - sheet.presses;
  return (
    <>
      <h1 className="text-xl font-semibold">
        Key in{' '}
        <Link to={`/positions/${sheet.tag}`} className="font-mono text-plum hover:underline">
          {sheet.tag}
        </Link>
      </h1>
      <p className="text-soft">
        {sheet.duty} · {sheet.model} {sheet.rating}, serial{' '}
        <b className="font-mono text-ink">{sheet.serial}</b>. Compare it with the plate of the unit first.
      </p>
      <p className="text-soft">
        Towards {sheet.target}. Made by {sheet.madeBy}, {showTime(sheet.madeAt)}.
      </p>
      <p className="mt-1">
        <b>{sheet.presses}</b> key presses{saved > 0 ? `, ${saved} fewer than in the order of the plan` : ''}.
      </p>
      <div className="my-2 print:hidden">
        <FileMenu
          name="Save as"
          label="Save the sheet as a file"
          files={['pdf', 'csv', 'xlsx'].map((format) => ({
            name: format.toUpperCase(),
            href: `/api/positions/${sheet.tag}/key-in-record?sheet=${sheet.id}&format=${format}`,
          }))}
        />
      </div>
    </>
  );
}

function keptText({ waiting, network }: KeyInState): string {
  if (network === 'away')
    return `No network: ${waiting} marks on this device only. Go on; they are sent when it is back.`;
  return waiting > 0 ? `${waiting} being sent` : 'All marks are on the server.';
}

/** The manual's own words. */
function Steps({ name, steps }: { name: string; steps: readonly string[] }) {
  if (steps.length === 0) return null;
  return (
    <section className="mt-4">
      <h2 className="border-b-2 border-rule pb-1 font-semibold">{name}</h2>
      <ol className="list-decimal py-2 pl-6">
        {steps.map((text) => (
          <li key={text} className="py-1">
            {text}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Part({ name, note, children }: { name: string; note: string; children: React.ReactNode }) {
  return (
    <section className="mt-4">
      <h2 className="border-b-2 border-rule pb-1 font-semibold">
        {name} <span className="font-normal text-soft">{note}</span>
      </h2>
      <ul>{children}</ul>
    </section>
  );
}

function Lines({
  lines,
  own,
  dictionary,
  facts,
}: {
  lines: readonly KeyInLineView[];
  own: OwnSheet;
  dictionary: Dictionary;
  facts: Facts;
}) {
  const { data: session } = useSession();
  const mark = useKeyInStore((store) => store.mark);
  const mayMark = own.sheet.state === 'open' && session !== undefined && session.role !== 'viewer';
  return lines.map((line, at) => {
    const parameter = findParameter(dictionary, line.code);
    const before = lines[at - 1];
    const menu = parameter?.menu.join(' › ') ?? '';
    const sameMenu = before && findParameter(dictionary, before.code)?.menu.join(' › ') === menu;
    return (
      parameter && (
        <KeyInLine
          key={line.place}
          line={line}
          parameter={parameter}
          menu={sameMenu ? null : menu}
          facts={facts}
          mark={own.marks[line.place]}
          mayMark={mayMark}
          set={(change) =>
            mark(own.sheet.id, {
              ...{ place: line.place, state: null, found: null, note: own.marks[line.place]?.note ?? '' },
              ...change,
              at: new Date().toISOString(),
            })
          }
        />
      )
    );
  });
}

function Finish({ sheet, state, left }: { sheet: KeyInSheetView; state: KeyInState; left: number }) {
  const { data: session } = useSession();
  const hear = useKeyInStore((store) => store.hear);
  const finish = useMutation<KeyInSheetView, ProblemError>({
    mutationFn: async () => {
      await state.sendNow();
      return post(`key-in-sheets/${sheet.id}/finish`);
    },
    onSuccess: hear,
  });
  const waits = state.network === 'away' || state.waiting > 0;
  if (!session || session.role === 'viewer') return null;
  return (
    <section className="mt-6 space-y-3 border-t-2 border-plum pt-4 print:hidden">
      {left > 0 && (
        <Notice level="look">{left === 1 ? '1 change is' : `${left} changes are`} not ticked off yet.</Notice>
      )}
      <div className="flex flex-wrap gap-3">
        <Button
          weight="main"
          className="min-h-14 text-base"
          disabled={waits || finish.isPending}
          onClick={() => finish.mutate()}
        >
          Finish the sheet
        </Button>
        <Button className="min-h-14" onClick={() => window.print()}>
          Print it
        </Button>
      </div>
      {waits && <p className="text-sm text-soft">It can be finished when the network is back.</p>}
      {finish.error && <ProblemNotice error={finish.error} />}
    </section>
  );
}
