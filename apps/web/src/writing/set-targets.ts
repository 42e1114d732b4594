// Sets that a unit can be brought to, as people know them.

import type { HistoryView } from '@drive-keep/api';
import { showTime } from '../words/dates.ts';

export interface Target {
  readonly reference: string;
  readonly name: string;
  readonly note: string;
}

const HOW = {
  read: 'Backup',
  'read-off': 'Read off',
  imported: 'Imported file',
  'before-write': 'Backup before a write',
  'after-write': 'Backup after a write',
} as const;

/** More than these are found in the history of the position. */
const MOST_BACKUPS = 12;

export function targetsOf({ baselines, backups, parts }: HistoryView): readonly Target[] {
  const signed = baselines.at(-1);
  const different = backups.filter(({ sameAsBefore }) => !sameAsBefore).reverse();
  return [
    ...(signed
      ? [
          {
            reference: 'baseline',
            name: `Baseline, revision ${signed.revision}`,
            note: `signed by ${signed.signedBy}, ${showTime(signed.signedAt)}`,
          },
        ]
      : []),
    { reference: 'default', name: 'Defaults', note: 'of its rating and region' },
    ...parts.map(({ reference, fileName, at, by }) => ({
      reference,
      name: `Values from ${fileName}`,
      note: `${by}, ${showTime(at)} · only what the file tells`,
    })),
    ...different.slice(0, MOST_BACKUPS).map(({ id, how, takenAt, takenBy, reason }) => ({
      reference: `backup:${id}`,
      name: `${HOW[how]} of ${showTime(takenAt)}`,
      note: `${takenBy} · ${reason}`,
    })),
  ];
}
