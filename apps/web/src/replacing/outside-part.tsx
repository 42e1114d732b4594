// Who else knows the old unit: registers that a controller or a panel reads and writes, and where they are now.

import { OUTSIDE, type OutsideTable, type RegisterFacts } from '@drive-keep/core/replace';
import { SheetPart } from '../ui/page.tsx';
import { Accept } from './accept.tsx';
import { openText } from './open-text.ts';

export function OutsidePart({ table, open }: { table: OutsideTable | null; open: number }) {
  if (!table)
    return (
      <SheetPart name="Who else knows it" state="nobody by a line">
        <p className="text-sm">
          The old unit has no line: no controller reads or writes its registers. A meter at an analog output
          stands among the wires.
        </p>
      </SheetPart>
    );
  const gone = table.lines.filter(({ fresh }) => !fresh).length;
  return (
    <SheetPart name="Who else knows it" state={openText(open)}>
      <p>
        Controllers and panels that read or write the old unit have to be changed: {table.lines.length}{' '}
        registers,{' '}
        {gone === 0
          ? 'all of them are on the successor'
          : gone === 1
            ? 'one of them has no counterpart'
            : `${gone} of them have no counterpart`}
        .
      </p>
      {table.notes.map((note) => (
        <p key={note} className="text-sm">
          {note}
        </p>
      ))}
      <details className="mt-1">
        <summary className="cursor-pointer py-1 font-semibold max-lg:min-h-12">
          Register by register <span className="font-normal text-soft">{table.lines.length}</span>
        </summary>
        <table className="w-full text-left text-sm">
          <thead className="border-b border-rule text-soft">
            <tr>
              <th className="py-1 pr-4 font-normal">Old unit</th>
              <th className="py-1 pr-4 text-right font-normal">Register</th>
              <th className="py-1 pr-4 font-normal">One count</th>
              <th className="py-1 pr-4 font-normal">Successor</th>
              <th className="py-1 pr-4 text-right font-normal">Register</th>
              <th className="py-1 font-normal">One count</th>
            </tr>
          </thead>
          <tbody>
            {table.lines.map(({ old, fresh }) => (
              <tr key={`${old.register} ${old.what}`} className="border-b border-rule align-top">
                <Cells facts={old} />
                {fresh ? <Cells facts={fresh} /> : <td colSpan={3}>Nothing like it.</td>}
              </tr>
            ))}
          </tbody>
        </table>
      </details>
      <Accept
        part="point"
        line={OUTSIDE}
        label="the registers"
        ask="Who changes the controller and the panel, or that nobody reads this unit"
      />
    </SheetPart>
  );
}

const Cells = ({ facts: { what, code, register, counts, words } }: { facts: RegisterFacts }) => (
  <>
    <td className="py-1 pr-4">
      <span className="font-mono">{code}</span> {what}
    </td>
    <td className="py-1 pr-4 text-right font-mono">{register}</td>
    <td className="py-1 pr-4">
      {counts} <span className="text-soft">{words}</span>
    </td>
  </>
);
