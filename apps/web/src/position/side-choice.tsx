// What stands on side A and B in words, with the common choices one press away and the files of a backup.

import type { ComparedSide, HistoryView } from '@drive-keep/api';
import { showTime } from '../words/dates.ts';

export function SideChoice({
  letter,
  side,
  history,
  choose,
  mayRead = false,
}: {
  letter: 'A' | 'B';
  side: ComparedSide;
  history: HistoryView;
  choose: (reference: string) => void;
  /** The unit itself may be chosen: it has a line. */
  mayRead?: boolean;
}) {
  const newest = history.backups.at(-1);
  const before = history.backups.findLast((backup) => newest && backup.hash !== newest.hash);
  const choices = [
    ...(history.baselines.length > 0 ? [{ reference: 'baseline', name: 'baseline' }] : []),
    { reference: 'default', name: 'defaults' },
    ...(before ? [{ reference: `backup:${before.id}`, name: 'last that differed' }] : []),
    ...(newest ? [{ reference: 'newest', name: 'newest backup' }] : []),
    ...(mayRead ? [{ reference: 'live', name: 'the unit itself, now' }] : []),
  ];
  const backupId = side.reference === 'newest' ? newest?.id : side.reference.split('backup:')[1];
  return (
    <div className="flex min-w-0 flex-wrap items-baseline gap-x-3 gap-y-1">
      <span
        className={`rounded px-2 font-bold ${letter === 'A' ? 'bg-ink text-sheet' : 'bg-plum text-on-plum'}`}
      >
        {letter}
      </span>
      <span className="font-semibold">{side.title}</span>
      {side.at && <span className="text-soft">{showTime(side.at)}</span>}
      <span role="group" aria-label={`Choose ${letter}`} className="flex flex-wrap gap-x-2 text-sm">
        {choices
          .filter(({ reference }) => reference !== side.reference)
          .map(({ reference, name }) => (
            <button
              key={reference}
              type="button"
              className="text-plum hover:underline max-lg:py-3"
              onClick={() => choose(reference)}
            >
              {name}
            </button>
          ))}
      </span>
      {backupId && (
        <span className="text-sm text-soft">
          Save as{' '}
          {(['json', 'csv', 'xlsx', 'dcf'] as const).map((format) => (
            <a
              key={format}
              className="mr-2 text-plum hover:underline"
              href={`/api/backups/${backupId}/file?format=${format}`}
              download
            >
              {format.toUpperCase()}
            </a>
          ))}
        </span>
      )}
    </div>
  );
}
