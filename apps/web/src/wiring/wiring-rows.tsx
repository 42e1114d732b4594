// Rows of one part of a wiring as a table that is typed. Enter goes to the next row and makes one where there is none; what
// is wrong stands under its row. On a phone every row is a block, each field under its name.

import { X } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { describe, type Finding } from '@drive-keep/core/findings';
import type { WiringColumn } from '@drive-keep/core/wiring';
import type { Row } from './use-wiring-draft.ts';

export interface EditedColumn {
  readonly column: WiringColumn;
  readonly name: string;
  readonly width: string;
  /** Nothing for a free text. */
  readonly choices?: Readonly<Record<string, string>>;
  readonly hint?: (row: Row) => string;
  readonly list?: string;
  /** A long text: it has lines enough to be read whole. */
  readonly long?: boolean;
}

interface Props {
  readonly label: string;
  readonly columns: readonly EditedColumn[];
  /** With their places in the whole table, counted from 0. */
  readonly rows: readonly { readonly row: Row; readonly at: number }[];
  readonly troubles: ReadonlyMap<number, readonly Finding[]>;
  readonly mayWrite: boolean;
  readonly change: (at: number, row: Row) => void;
  readonly remove: (at: number) => void;
  readonly add: () => void;
}

const FIELD =
  'min-h-8 w-full rounded border border-transparent bg-transparent px-1.5 hover:border-rule focus:border-plum max-lg:min-h-12';

export function WiringRows({ label, columns, rows, troubles, mayWrite, change, remove, add }: Props) {
  const next = (event: KeyboardEvent<HTMLElement>, place: number, column: string) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    if (place === rows.length - 1) add();
    // The row that was just made is there after the next paint.
    requestAnimationFrame(() =>
      document.querySelector<HTMLElement>(`[data-cell="${label} ${place + 1} ${column}"]`)?.focus(),
    );
  };
  return (
    <table className="w-full text-left text-sm" aria-label={label}>
      <thead className="border-b border-rule text-soft max-sm:hidden">
        <tr>
          {columns.map(({ column, name, width }) => (
            <th key={column} className={`py-1 pr-2 font-normal ${width}`}>
              {name}
            </th>
          ))}
          <th className="w-8" />
        </tr>
      </thead>
      <tbody>
        {rows.map(({ row, at }, place) => (
          <WiringRow
            key={at}
            {...{ label, columns, row, place, mayWrite }}
            troubles={troubles.get(at + 1) ?? []}
            change={(fresh) => change(at, fresh)}
            remove={() => remove(at)}
            keyDown={(event, column) => next(event, place, column)}
          />
        ))}
      </tbody>
    </table>
  );
}

interface RowProps extends Pick<Props, 'label' | 'mayWrite'> {
  readonly row: Row;
  readonly place: number;
  readonly change: (row: Row) => void;
  readonly keyDown: (event: KeyboardEvent<HTMLElement>, column: string) => void;
}

function Cell({ label, edited, row, place, mayWrite, change, keyDown }: RowProps & { edited: EditedColumn }) {
  const { column, name, choices, hint, list, long } = edited;
  const put = (text: string) => change({ ...row, [column]: text });
  const shared = {
    'aria-label': `${label}, row ${place + 1}, ${name}`,
    'data-cell': `${label} ${place} ${column}`,
    value: row[column],
    disabled: !mayWrite,
    className: FIELD,
    onKeyDown: (event: KeyboardEvent<HTMLElement>) => keyDown(event, column),
  };
  if (choices)
    return (
      <select {...shared} onChange={(event) => put(event.target.value)}>
        {Object.entries(choices).map(([value, text]) => (
          <option key={value} value={value}>
            {text}
          </option>
        ))}
      </select>
    );
  const typed = { ...shared, placeholder: hint?.(row), spellCheck: false, maxLength: 400 };
  if (long)
    return (
      <textarea
        {...typed}
        className={`${FIELD} block resize-none py-1 field-sizing-content`}
        rows={1}
        onChange={(event) => put(event.target.value.replaceAll(/\s*\n\s*/g, ' '))}
      />
    );
  return <input {...typed} list={list} autoComplete="off" onChange={(event) => put(event.target.value)} />;
}

function WiringRow({
  label,
  columns,
  row,
  place,
  troubles,
  mayWrite,
  change,
  remove,
  keyDown,
}: RowProps & {
  columns: readonly EditedColumn[];
  troubles: readonly Finding[];
  remove: () => void;
}) {
  const wrong = troubles.length > 0;
  const wash = troubles.some(({ attention }) => attention === 'stop') ? 'bg-stop-wash' : 'bg-look-wash';
  return (
    <>
      <tr className={`max-sm:grid max-sm:grid-cols-2 max-sm:py-2 ${wrong ? wash : 'border-b border-rule'}`}>
        {columns.map((edited) => (
          <td key={edited.column} className={`pr-1 ${edited.long ? 'max-sm:col-span-2' : ''}`}>
            <span aria-hidden="true" className="px-1.5 text-xs text-soft sm:hidden">
              {edited.name}
            </span>
            <Cell {...{ label, edited, row, place, mayWrite, change, keyDown }} />
          </td>
        ))}
        <td className="max-sm:self-end max-sm:justify-self-end">
          {mayWrite && (
            <button
              type="button"
              aria-label={`${label}, take row ${place + 1} out`}
              className="grid size-8 place-items-center rounded text-soft hover:text-stop max-lg:size-12"
              onClick={remove}
            >
              <X className="size-4" />
            </button>
          )}
        </td>
      </tr>
      {wrong && (
        <tr className={`border-b border-rule max-sm:block ${wash}`}>
          <td colSpan={columns.length + 1} className="px-1.5 pb-1">
            <span role="alert">{troubles.map((each) => describe(each)).join(' ')}</span>
          </td>
        </tr>
      )}
    </>
  );
}
