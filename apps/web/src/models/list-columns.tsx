// What each column of a maker's list holds: guessed by its heading, and corrected here.

import type { OwnModelPreview } from '@drive-keep/api';
import type { ColumnUse } from '@drive-keep/core/formats';
import { Choice } from '../ui/choice.tsx';
import { SheetPart } from '../ui/page.tsx';
import type { ListWish } from './list-wish.ts';

const USE_NAMES: Readonly<Record<ColumnUse, string>> = {
  code: 'code',
  name: 'name',
  description: 'what it does',
  other_names: 'other names',
  menu: 'menu',
  unit: 'unit',
  resolution: 'smallest step',
  range: 'range (minimum to maximum)',
  minimum: 'minimum value',
  maximum: 'maximum value',
  default: 'default',
  options: 'options (0 = off; 1 = on)',
  bits: 'bits (0 = fan; 1 = pump)',
  access: 'access',
  running: 'may be changed while it runs',
  meaning: 'meaning',
  register: 'register',
};

interface Props {
  readonly seen: OwnModelPreview;
  readonly change: (more: ListWish) => void;
}

export function ListColumns({ seen, change }: Props) {
  const assign = (column: string, use: string) => {
    const others = Object.entries(seen.assignment).filter(([name, each]) => name !== column && each !== use);
    change({ assignment: Object.fromEntries(use === '' ? others : [...others, [column, use as ColumnUse]]) });
  };
  return (
    <SheetPart name="Columns" state={`${Object.keys(seen.assignment).length} of ${seen.columns.length} used`}>
      <Places seen={seen} change={change} />
      <div className="overflow-x-auto">
        <table className="w-full text-left text-sm">
          <thead className="text-soft">
            <tr className="[&>th]:pr-3 [&>th]:font-normal">
              <th>Column of the file</th>
              <th>holds</th>
              <th>First lines</th>
            </tr>
          </thead>
          <tbody>
            {seen.columns.map((column, at) => (
              <tr key={column} className="border-b border-rule align-baseline [&>td]:py-1 [&>td]:pr-3">
                <td className="font-semibold">{column}</td>
                <td>
                  <select
                    aria-label={`Use of the column ${column}`}
                    value={assignedTo(seen, column)}
                    onChange={(event) => assign(column, event.target.value)}
                    className={`h-9 rounded border px-2 max-lg:h-12 ${assignedTo(seen, column) ? 'border-plum bg-plum-wash' : 'border-rule bg-sheet'}`}
                  >
                    <option value="">– not used –</option>
                    {Object.entries(USE_NAMES).map(([use, name]) => (
                      <option key={use} value={use}>
                        {name}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="text-soft">
                  {seen.sample.map((row, line) => (
                    <span key={line} className="mr-3 inline-block max-w-60 truncate align-bottom font-mono">
                      {row[at] || '–'}
                    </span>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </SheetPart>
  );
}

/** A heading may be called like something that every object has. */
const assignedTo = ({ assignment }: OwnModelPreview, column: string): string =>
  Object.hasOwn(assignment, column) ? (assignment[column] ?? '') : '';

/** Which sheet, which row names the columns, which mark stands before decimals. */
function Places({ seen, change }: Props) {
  return (
    <div className="mb-3 flex flex-wrap gap-4">
      {seen.sheets.length > 1 && (
        <Choice
          label="Sheet"
          value={seen.sheet ?? ''}
          // What was said of another sheet means nothing for this one.
          onChange={({ target }) => change({ sheet: target.value, ...NOTHING_OF_ROWS })}
          options={seen.sheets.map(({ name, hidden, rows }) => ({
            id: name,
            name: `${name}, ${rows} rows${hidden ? ', hidden' : ''}`,
          }))}
        />
      )}
      {seen.firstLines.length > 0 && seen.firstLines[0]?.line !== 0 && (
        <Choice
          label="The columns are named in"
          value={String(seen.headLine)}
          onChange={({ target }) => change({ ...NOTHING_OF_ROWS, headLine: Number(target.value) })}
          options={seen.firstLines.map(({ line, text }) => ({
            id: String(line),
            name: `line ${line}: ${text.slice(0, 60)}`,
          }))}
        />
      )}
      <Choice
        label="Decimals are written with a"
        value={seen.decimalMark}
        onChange={({ target }) => change({ decimalMark: target.value as 'point' | 'comma' })}
        options={[
          { id: 'point', name: 'point (0.5)' },
          { id: 'comma', name: 'comma (0,5)' },
        ]}
      />
    </div>
  );
}

const NOTHING_OF_ROWS: ListWish = {
  ...{ headLine: undefined, assignment: undefined, leftOut: undefined, mended: undefined },
};
