// A proof run on paper: each step with what had to be seen, what was read and what people said; with a box for each where it is
// still open, for a cabinet without a network.

import type { ProofEvidenceView, ProofRunView, ProofSayingView, ProofStepView } from '@drive-keep/api';
import { PART_NAMES, PROOF_PARTS } from '@drive-keep/core/prove';
import type { Paper, PaperSignature } from './paper.ts';
import { paperTime } from './paper-time.ts';

export const PROOF_COLUMNS = [
  { heading: 'What to do', share: 0.3 },
  { heading: 'What must be seen', share: 0.32 },
  { heading: 'Result', share: 0.1 },
  { heading: 'Seen, by whom', share: 0.28 },
] as const;

const VERDICTS = { passed: 'passed', failed: 'FAILED', 'not-done': 'not done' } as const;
const BOX = '☐';

export function proofParts({ planned, sayings, evidence }: ProofRunView): Paper['parts'] {
  return PROOF_PARTS.map((part) => ({
    name: PART_NAMES[part],
    rows: planned
      .filter((step) => step.part === part)
      .map((step) => {
        const word = sayings.find((each) => each.step === step.id);
        const verdict = word?.verdict ?? null;
        return {
          cells: [
            step.stages.map(({ deed }) => deed).join(' → '),
            [step.stages.at(-1)?.see.join('. ') ?? '', ...step.eyes].filter(Boolean).join('. '),
            verdict === null ? BOX : VERDICTS[verdict],
            seenText(step, word, evidence),
          ],
          marked: verdict === 'failed',
        };
      }),
  })).filter(({ rows }) => rows.length > 0);
}

function seenText(
  step: ProofStepView,
  word: ProofSayingView | undefined,
  all: readonly ProofEvidenceView[],
): string {
  if (!word || word.verdict === null) return step.watched ? '' : 'typed';
  const read = all.find(({ id }) => id === word.evidence);
  const told = read
    ? [`Read by line ${paperTime(new Date(read.endedAt))}: ${read.text}`, ...read.figures, ...read.likely]
    : [];
  const other = word.other
    ? `Before that ${word.other.by}: ${word.other.verdict === null ? 'taken back' : VERDICTS[word.other.verdict]}.`
    : '';
  return [word.seen, ...told, other, `${word.by}, ${paperTime(new Date(word.at))}`].filter(Boolean).join(' ');
}

export function proofFacts(run: ProofRunView): Paper['facts'] {
  const ended =
    run.endedAt === null
      ? 'open'
      : `${run.state === 'closed' ? 'closed' : 'given up'} ${paperTime(new Date(run.endedAt))} by ${run.endedBy ?? ''}${run.state === 'closed' ? '' : `: ${run.endedWhy}`}`;
  return [
    ['Position', `${run.tag}, ${run.duty}`],
    ['Unit', `${run.model} ${run.rating}, serial ${run.serial}`],
    ['Begun', `${paperTime(new Date(run.startedAt))} by ${run.startedBy}: ${run.why}`],
    ['State', ended],
    ['Result', `${run.passed} of ${run.steps} passed, ${run.failed} failed, ${run.notDone} not done`],
    [
      'By the set',
      `${run.set.title}${run.set.at === null ? '' : `, ${paperTime(new Date(run.set.at))}`}, ${run.set.hash.slice(0, 23)}…`,
    ],
    ['Wiring', run.wiringRevision === 0 ? 'none kept' : `revision ${run.wiringRevision}`],
    [
      'Steps',
      run.scope === 'whole'
        ? `every outcome of ${run.states} states${run.unfinished ? '; not all states were looked at' : ''}`
        : `what matters since the proof run of ${run.since ? paperTime(new Date(run.since.at)) : ''}; ${run.leftOut} left out`,
    ],
  ];
}

export const proofSignatures = ({ endedBy, endedAt, state }: ProofRunView): readonly PaperSignature[] => [
  state === 'closed' && endedBy !== null && endedAt !== null
    ? { what: 'Proof run closed', by: endedBy, at: paperTime(new Date(endedAt)) }
    : { what: 'Proved', by: '', at: '' },
];
