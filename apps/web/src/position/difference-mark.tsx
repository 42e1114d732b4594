import type { Difference } from '@drive-keep/core/compare';

const SHAPES: Readonly<Record<Difference['kind'], { shape: string; name: string }>> = {
  greater: { shape: '▲', name: 'greater' },
  less: { shape: '▼', name: 'less' },
  option: { shape: '◆', name: 'another option' },
  bits: { shape: '◆', name: 'other bits' },
  'only-a': { shape: '−', name: 'missing in B' },
  'only-b': { shape: '+', name: 'only in B' },
  unreadable: { shape: '?', name: 'unreadable' },
  'within-tolerance': { shape: '≈', name: 'within tolerance' },
  same: { shape: '', name: 'same' },
};

/** The shape of a difference; a screen reader says its name. */
export function DifferenceMark({ kind }: { kind: Difference['kind'] }) {
  const { shape, name } = SHAPES[kind];
  return (
    <span role="img" aria-label={name} title={name} className="inline-block w-4 text-center">
      {shape}
    </span>
  );
}
