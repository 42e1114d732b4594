import type { PositionView } from '@drive-keep/api';

/** Open findings of the checks: a filled flag where one has to be mended, an empty one where somebody should look. */
export function FindingMark({ position: { findings } }: { position: PositionView }) {
  if (!findings || findings.stop + findings.look === 0) return null;
  const { stop, look } = findings;
  const parts = [stop > 0 ? `${stop} to mend` : '', look > 0 ? `${look} to look at` : ''].filter(Boolean);
  return (
    <span className="ml-1 shrink-0" title={`The checks: ${parts.join(', ')}`}>
      <span aria-hidden="true">{stop > 0 ? '⚑' : '⚐'}</span>
      <span className="sr-only">Findings: </span>
      {stop + look}
    </span>
  );
}
