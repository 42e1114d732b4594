// What is not understood of a maker's list, mended on the spot: the cell written anew, the line left out, the word explained.

import type { ListFindingView, OwnModelPreview } from '@drive-keep/api';
import type { Access } from '@drive-keep/core/dictionary';
import { useState } from 'react';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { withAccess, withCell, type ListWish } from './list-wish.ts';

interface Props {
  readonly seen: OwnModelPreview;
  readonly wish: ListWish;
  readonly change: (more: ListWish) => void;
}

export function ListFindings({ seen, wish, change }: Props) {
  const stops = seen.findings.filter(({ attention }) => attention === 'stop');
  const looks = seen.findings.filter(({ attention }) => attention === 'look');
  const state = stops.length === 0 ? 'none that stops' : `${stops.length + seen.moreFindings} to be mended`;
  const leaveOut = (line: number) => change({ leftOut: [...(wish.leftOut ?? []), line] });
  const left = wish.leftOut ?? [];
  return (
    <SheetPart name="Findings" state={state}>
      <AccessWords seen={seen} wish={wish} change={change} />
      {seen.findings.length === 0 && <p className="text-soft">Nothing is wrong with it.</p>}
      <ul>
        {stops.map((found, at) => (
          <Finding
            // Two findings of one cell may read the same.
            key={`${found.line} ${found.column} ${found.text} ${at}`}
            found={found}
            mend={(text) => change(withCell(wish, found.line ?? 0, found.column, text))}
            leaveOut={() => leaveOut(found.line ?? 0)}
          />
        ))}
      </ul>
      {seen.moreFindings > 0 && (
        <p className="text-sm text-soft">And {seen.moreFindings} more, told when these are mended.</p>
      )}
      {looks.length > 0 && (
        <details open={stops.length === 0} className="mt-2">
          <summary className="cursor-pointer py-1 font-semibold max-lg:min-h-12">
            To be looked at <span className="font-normal text-soft">{looks.length}</span>
          </summary>
          <ul>
            {looks.map(({ line, column, text }, at) => (
              <li
                key={`${line} ${column} ${text} ${at}`}
                className="mb-1 border-l-4 border-look bg-look-wash px-3 py-1"
              >
                <Place line={line} column={column} /> {text}
              </li>
            ))}
          </ul>
        </details>
      )}
      {left.length > 0 && (
        <p className="mt-2 text-sm">
          Left out:{' '}
          {[...left]
            .sort((a, b) => a - b)
            .map((line) => `line ${line}`)
            .join(', ')}
          .{' '}
          <Button className="max-lg:min-h-12" onClick={() => change({ leftOut: [] })}>
            Take them in again
          </Button>
        </p>
      )}
    </SheetPart>
  );
}

const Place = ({ line, column }: { line: number | null; column: string }) => (
  <span className="mr-2 text-sm">
    {line === null ? 'the whole file' : `line ${line}`}
    {column && `, ${column}`}
  </span>
);

function Finding({
  found,
  mend,
  leaveOut,
}: {
  found: ListFindingView;
  mend: (text: string) => void;
  leaveOut: () => void;
}) {
  const { line, column, text, cell } = found;
  const [typed, setTyped] = useState(cell ?? '');
  return (
    <li className="mb-1 border-l-4 border-stop bg-stop-wash px-3 py-1">
      <Place line={line} column={column} /> {text}
      {cell !== null && line !== null && (
        <form
          className="mt-1 flex flex-wrap items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            mend(typed);
          }}
        >
          <input
            aria-label={`Line ${line}, ${column}, in other words`}
            value={typed}
            onChange={({ target }) => setTyped(target.value)}
            className="h-9 w-72 rounded border border-rule bg-sheet px-2 font-mono max-lg:h-12"
          />
          <Button type="submit" className="max-lg:min-h-12" disabled={typed === cell}>
            Write it so
          </Button>
          <Button className="max-lg:min-h-12" onClick={leaveOut}>
            Leave the line out
          </Button>
        </form>
      )}
    </li>
  );
}

const ACCESS_NAMES: Readonly<Record<Access, string>> = {
  read: 'only read',
  'write-stopped': 'written while it stands',
  write: 'written at all times',
};

/** A word is explained once for all its lines. */
function AccessWords({ seen, wish, change }: Props) {
  const said = wish.access ?? [];
  const words = [
    ...seen.accessAsked
      .filter(({ text }) => said.every(([word]) => word !== text))
      .map(({ text, rows }) => ({ text, note: `${rows} lines`, access: '' })),
    ...said.map(([text, access]) => ({ text, note: 'said', access })),
  ];
  if (words.length === 0) return null;
  return (
    <div className="mb-3">
      <p className="font-semibold">What the words for the access mean</p>
      <ul>
        {words.map(({ text, note, access }) => (
          <li key={text} className="flex flex-wrap items-center gap-3 border-b border-rule py-1">
            <span className="w-48 font-mono">{text === '' ? 'an empty cell' : text}</span>
            <Choice
              label={`What ${text === '' ? 'an empty cell' : text} means`}
              hidden
              value={access}
              onChange={({ target }) => change(withAccess(wish, text, target.value as Access))}
              options={[
                ...(access === '' ? [{ id: '', name: '– not said –' }] : []),
                ...Object.entries(ACCESS_NAMES).map(([id, name]) => ({ id, name })),
              ]}
            />
            <span className="text-sm text-soft">{note}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
