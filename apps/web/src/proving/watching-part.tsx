// While somebody works through a step: what is waited for, what the unit shows, and what follows.

import type { ProofEvidenceView, ProofStepView } from '@drive-keep/api';
import { Button } from '../ui/button.tsx';
import { StageList } from './stage-list.tsx';
import { useWatching } from './use-watching.ts';

interface Props {
  readonly run: string;
  readonly step: ProofStepView;
  readonly onKept: (evidence: ProofEvidenceView) => void;
  readonly onStop: () => void;
}

export function WatchingPart({ run, step, onKept, onStop }: Props) {
  const { judgement, shown, silent, reading } = useWatching(run, step.id, onKept);
  const stage = judgement?.stage ?? 0;
  return (
    <div className="mt-2 border-l-4 border-plum px-3">
      <p role="status" aria-live="polite" className="text-lg font-semibold">
        {reading
          ? `Reading all settings: ${reading.done} of ${reading.total}`
          : judgement
            ? `Now: ${judgement.text}`
            : silent === null
              ? 'The unit is being asked …'
              : 'Nothing is being read'}
      </p>
      <p className="min-h-6 font-mono text-sm text-soft">{silent ?? shown}</p>
      {judgement?.likely.map((text) => (
        <p key={text} className="border-l-4 border-look bg-look-wash px-2 py-1">
          {text}
        </p>
      ))}
      <StageList step={step} stage={stage} />
      <Button className="my-2 min-h-14" onClick={onStop}>
        Stop watching
      </Button>
    </div>
  );
}
