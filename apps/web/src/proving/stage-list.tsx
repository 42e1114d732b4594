import type { ProofStepView } from '@drive-keep/api';

/** What to do and what must be seen, stage by stage; `stage` of them were seen already. */
export function StageList({ step, stage = 0 }: { step: ProofStepView; stage?: number }) {
  return (
    <>
      <ol className="mt-1">
        {step.stages.map(({ deed, see }, at) => (
          <li
            key={`${at} ${deed}`}
            aria-current={stage > 0 && at === stage ? 'step' : undefined}
            className="grid grid-cols-[2rem_1fr] gap-x-1 border-b border-rule py-1.5 last:border-b-0"
          >
            <span className="font-mono text-soft">{at < stage ? '✓' : `${at + 1}.`}</span>
            <span>
              <span className={at === stage && stage > 0 ? 'font-semibold' : ''}>{deed}</span>
              <span className="block text-soft">{see.join('. ')}.</span>
            </span>
          </li>
        ))}
      </ol>
      {step.eyes.map((text) => (
        <p key={text} className="py-1">
          <b>By eye:</b> {text}.
        </p>
      ))}
    </>
  );
}
