// What stands on side A and B in words, with the common choices one press away and the files of a backup.

import type { ComparedSide, HistoryView } from '@drive-keep/api';
import { FileMenu } from '../ui/file-menu.tsx';
import { showTime } from '../words/dates.ts';

export function SideChoice({
  tag,
  letter,
  side,
  history,
  choose,
  mayRead = false,
  unfolded = true,
}: {
  tag: string;
  letter: 'A' | 'B';
  side: ComparedSide;
  history: HistoryView;
  choose: (reference: string) => void;
  /** The unit itself may be chosen: it has a line. */
  mayRead?: boolean;
  /** On a phone the choices are there only when they are asked for. */
  unfolded?: boolean;
}) {
  const { newest, lastThatDiffered: before } = history;
  const choices = [
    ...(history.baselines.length > 0 ? [{ reference: 'baseline', name: 'baseline' }] : []),
    { reference: 'default', name: 'defaults' },
    ...(before ? [{ reference: `backup:${before}`, name: 'last that differed' }] : []),
    ...(newest ? [{ reference: 'newest', name: 'newest backup' }] : []),
    ...history.parts
      .slice(0, 1)
      .map(({ reference, fileName }) => ({ reference, name: `values from ${fileName}` })),
    ...(mayRead ? [{ reference: 'live', name: 'the unit itself, now' }] : []),
  ];
  const backupId = side.reference === 'newest' ? (newest ?? undefined) : side.reference.split('backup:')[1];
  return (
    <div className="flex min-w-0 flex-wrap items-baseline gap-x-3 gap-y-1">
      <span
        className={`rounded px-2 font-bold ${letter === 'A' ? 'bg-ink text-sheet' : 'bg-plum text-on-plum'}`}
      >
        {letter}
      </span>
      <span className="font-semibold">{side.title}</span>
      {side.at && <span className="text-soft">{showTime(side.at)}</span>}
      <span
        role="group"
        aria-label={`Choose ${letter}`}
        className={`flex flex-wrap gap-x-2 text-sm ${unfolded ? '' : 'max-md:hidden'}`}
      >
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
      {side.reference !== 'live' && side.reference !== 'default' && (
        <span className={unfolded ? '' : 'max-md:hidden'}>
          <SaveMenu tag={tag} reference={side.reference} backupId={backupId} letter={letter} />
        </span>
      )}
    </div>
  );
}

/** The set as a file that comes back as the same, and as a paper for the cabinet door. */
function SaveMenu({
  tag,
  reference,
  backupId,
  letter,
}: {
  tag: string;
  reference: string;
  backupId: string | undefined;
  letter: string;
}) {
  const record = `/api/positions/${tag}/settings-record?set=${encodeURIComponent(reference)}`;
  return (
    <FileMenu
      name="Save"
      label={`Save ${letter}`}
      files={[
        { name: 'Settings record, PDF', href: `${record}&format=pdf` },
        ...(backupId
          ? (['json', 'csv', 'xlsx', 'dcf'] as const).map((format) => ({
              name: format.toUpperCase(),
              href: `/api/backups/${backupId}/file?format=${format}`,
            }))
          : []),
      ]}
    />
  );
}
