// A sentence that has to be read: plain, worth a look, or a stop with its word.

import type { ReactNode } from 'react';

const LOOKS = {
  plain: 'border-rule bg-sheet',
  look: 'border-look bg-look-wash',
  stop: 'border-stop bg-stop-wash',
} as const;

export function Notice({ level, children }: { level: keyof typeof LOOKS; children: ReactNode }) {
  return (
    <div
      role={level === 'plain' ? 'status' : 'alert'}
      className={`rounded border-l-4 px-3 py-2 ${LOOKS[level]}`}
    >
      {level === 'stop' && <strong className="mr-2 text-stop">Stop.</strong>}
      {children}
    </div>
  );
}

/** The message of a failed request, with its single findings. */
export function ProblemNotice({ error }: { error: Error & { problem?: { findings?: readonly string[] } } }) {
  const findings = error.problem?.findings ?? [];
  return (
    <Notice level="stop">
      {error.message}
      {findings.length > 1 && (
        <ul className="mt-1 list-disc pl-5 text-sm">
          {findings.map((finding) => (
            <li key={finding}>{finding}</li>
          ))}
        </ul>
      )}
    </Notice>
  );
}
