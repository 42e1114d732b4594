// One step of a proof run: what to do, what must be seen, what was read, and the word of whoever stands there.

import type { ProofEvidenceView, ProofStepView, ProofVerdict } from '@drive-keep/api';
import type { ProofInput } from '@drive-keep/core/prove';
import { useEffect, useRef, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { showTime } from '../words/dates.ts';
import { EvidenceCourse } from './evidence-course.tsx';
import { useProofs, VERDICT_NAMES, type OwnSaying } from './proof-store.ts';
import { StageList } from './stage-list.tsx';
import { WatchingPart } from './watching-part.tsx';

interface Props {
  readonly run: string;
  readonly inputs: readonly ProofInput[];
  readonly step: ProofStepView;
  readonly word: OwnSaying | undefined;
  /** The newest last. */
  readonly evidence: readonly ProofEvidenceView[];
  readonly may: boolean;
  readonly open: boolean;
  readonly online: boolean;
  readonly onOpen: () => void;
  readonly refresh: () => void;
}

const MARKS: Readonly<Record<ProofVerdict, string>> = { passed: '✓', failed: '✕', 'not-done': '–' };

export function ProofStepRow({ step, word, open, onOpen, ...rest }: Props) {
  const verdict = word?.verdict ?? null;
  const row = useRef<HTMLLIElement>(null);
  // What one has opened stands at the top: on a phone there is room for one step.
  useEffect(() => {
    if (open) row.current?.scrollIntoView({ block: 'start' });
  }, [open]);
  return (
    <li ref={row} data-step={step.id} className="scroll-mt-20 break-inside-avoid border-b border-rule">
      <button
        type="button"
        aria-expanded={open}
        onClick={onOpen}
        className={`flex min-h-14 w-full items-center gap-3 py-2 text-left ${open ? 'font-semibold' : ''}`}
      >
        <span className="min-w-0 flex-1">{step.title}</span>
        <span
          className={`shrink-0 rounded px-2 ${verdict === 'failed' ? 'bg-stop-wash font-semibold' : verdict === null ? 'text-soft' : ''}`}
        >
          {verdict === null ? 'open' : `${MARKS[verdict]} ${VERDICT_NAMES[verdict]}`}
        </span>
      </button>
      {open && <Opened step={step} word={word} {...rest} />}
    </li>
  );
}

function Opened({ run, inputs, step, word, evidence, may, online, refresh }: Omit<Props, 'open' | 'onOpen'>) {
  const [watching, setWatching] = useState(false);
  const say = useProofs((state) => state.say);
  const last = evidence.at(-1);
  const tell = (verdict: ProofVerdict | null, seen: string, resting: string | null) =>
    say(run, step.id, { verdict, seen, evidence: resting, at: new Date().toISOString() });
  const stop = () => {
    setWatching(false);
    refresh();
  };
  return (
    <div className="pb-3">
      {watching ? (
        <WatchingPart run={run} step={step} onKept={stop} onStop={stop} />
      ) : (
        <>
          <StageList step={step} />
          {may && step.watched && (
            <div className="mt-2 flex flex-wrap items-center gap-3 print:hidden">
              <Button
                weight={last ? 'plain' : 'main'}
                className="min-h-14 text-base"
                disabled={!online}
                onClick={() => setWatching(true)}
              >
                {last ? 'Watch it again' : 'Watch while I do it'}
              </Button>
              <span className="text-sm text-soft">
                {online
                  ? 'Drive Keep reads along; nothing is started or written.'
                  : 'No network: nothing can be read. Type what you see.'}
              </span>
            </div>
          )}
          {!step.watched && (
            <p className="mt-1 text-sm text-soft">No register tells this: what you see counts.</p>
          )}
        </>
      )}
      {last && !watching && <Evidence run={run} inputs={inputs} evidence={last} count={evidence.length} />}
      {word && word.verdict !== null && <Said word={word} />}
      {may && !watching && <Words last={last} word={word} tell={tell} />}
    </div>
  );
}

function Evidence({
  run,
  inputs,
  evidence,
  count,
}: {
  run: string;
  inputs: readonly ProofInput[];
  evidence: ProofEvidenceView;
  count: number;
}) {
  const { state, text, likely, figures, endedAt, by } = evidence;
  const name =
    state === 'passed' ? '✓ Seen by the line' : state === 'failed' ? '✕ Not as it should be' : 'Not judged';
  return (
    <div
      className={`mt-2 border-l-4 px-3 py-1 ${state === 'failed' ? 'border-stop bg-stop-wash' : 'border-rule bg-sheet'}`}
    >
      <p>
        <b>{name}.</b> {/[.!?]$/.test(text) ? text : `${text}.`}
      </p>
      {likely.map((each) => (
        <p key={each} className="font-medium">
          {each}
        </p>
      ))}
      {figures.map((each) => (
        <p key={each}>{each}.</p>
      ))}
      <EvidenceCourse run={run} evidence={evidence} inputs={inputs} />
      <p className="text-sm text-soft">
        {by}, {showTime(endedAt)}
        {count > 1 && `; the last of ${count} attempts, all are kept`}
      </p>
    </div>
  );
}

const Said = ({ word: { verdict, seen, by, at, sent, other } }: { word: OwnSaying }) => (
  <p className="mt-2">
    <b>{verdict && VERDICT_NAMES[verdict]}</b>
    {seen !== '' && `: ${seen}`}{' '}
    <span className="text-sm text-soft">{sent ? `${by ?? ''}, ${showTime(at)}` : 'on this device only'}</span>
    {other && <span className="ml-2 bg-look-wash px-1 text-sm">before that {other}</span>}
  </p>
);

interface WordsProps {
  readonly last: ProofEvidenceView | undefined;
  readonly word: OwnSaying | undefined;
  readonly tell: (verdict: ProofVerdict | null, seen: string, evidence: string | null) => void;
}

/** The word itself. What nothing was read for, or what goes against what was read, is typed. */
function Words({ last, word, tell }: WordsProps) {
  const [seen, setSeen] = useState('');
  const [wanted, setWanted] = useState<ProofVerdict>();
  const typed = seen.trim();
  const give = (verdict: ProofVerdict) => {
    const rests = last?.state === verdict ? last.id : null;
    const needs = verdict !== 'passed' || last?.state === 'failed';
    const text = typed === '' && verdict === 'passed' && rests === null && !needs ? 'As described.' : typed;
    if (rests === null && text === '') return setWanted(verdict);
    setWanted(undefined);
    setSeen('');
    tell(verdict, text, rests ?? (last?.state === 'unjudged' || !last ? null : last.id));
  };
  const look = 'min-h-14 min-w-24 justify-center text-base';
  return (
    <div className="mt-3 print:hidden">
      <input
        aria-label="What was seen, or why it was not done"
        placeholder={
          wanted === 'not-done'
            ? 'Why it was not done'
            : wanted === 'failed'
              ? 'What was seen instead'
              : 'What was seen (may stay empty if all is as described)'
        }
        value={seen}
        maxLength={500}
        className={`h-12 w-full rounded border bg-sheet px-3 ${wanted ? 'border-look' : 'border-rule'}`}
        onChange={({ target }) => setSeen(target.value)}
      />
      {wanted && (
        <p role="alert" className="mt-1 border-l-4 border-look bg-look-wash px-2">
          {wanted === 'not-done'
            ? 'Say why it was not done.'
            : wanted === 'failed'
              ? 'Say what was seen instead.'
              : 'What was read says otherwise: say what was seen.'}
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-3">
        <Button
          weight={last?.state === 'passed' && word?.verdict !== 'passed' ? 'main' : 'plain'}
          aria-pressed={word?.verdict === 'passed'}
          className={look}
          onClick={() => give('passed')}
        >
          ✓ Passed
        </Button>
        <Button
          weight={last?.state === 'failed' && word?.verdict !== 'failed' ? 'main' : 'plain'}
          aria-pressed={word?.verdict === 'failed'}
          className={look}
          onClick={() => give('failed')}
        >
          ✕ Failed
        </Button>
        <Button aria-pressed={word?.verdict === 'not-done'} className={look} onClick={() => give('not-done')}>
          – Not done
        </Button>
        {word && word.verdict !== null && (
          <Button weight="quiet" className={look} onClick={() => tell(null, '', null)}>
            Take back
          </Button>
        )}
      </div>
    </div>
  );
}
