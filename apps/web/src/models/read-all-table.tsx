// What a unit answered to every parameter of a draft, held against its ranges and against what the keypad shows.

import type { ReadAllView } from '@drive-keep/api';
import { useState } from 'react';
import { Choice } from '../ui/choice.tsx';

type Row = ReadAllView['rows'][number];
type Which = 'all' | 'refused' | 'outside' | 'differs';

export function ReadAllTable({ read }: { read: ReadAllView }) {
  const [which, setWhich] = useState<Which>('all');
  /** What was typed from the keypad, by code. */
  const [keypad, setKeypad] = useState<Readonly<Record<string, string>>>({});
  const differs = (row: Row) => differsFrom(row, keypad[row.code] ?? '');
  const shown = read.rows.filter(
    (row) =>
      which === 'all' ||
      (which === 'refused' && row.raw === null) ||
      (which === 'outside' && row.outside !== '') ||
      (which === 'differs' && differs(row)),
  );
  const differing = read.rows.filter(differs).length;
  const compared = Object.values(keypad).filter((text) => text.trim() !== '').length;
  return (
    <>
      <p className="mt-3" role="status">
        <b>{read.answered} answered</b>, {read.refused} were refused, {read.outside} lie outside their range,{' '}
        {read.withoutRegister} have no register; {differing} of {compared} compared differ from the keypad.
      </p>
      <ul className="mt-1">
        {read.identity.map(({ fact, text, right }) => (
          <li key={fact} className={right ? '' : 'border-l-4 border-look bg-look-wash px-2'}>
            <span aria-hidden="true">{right ? '✓' : '!'}</span> {fact}:{' '}
            <span className="font-mono">{text}</span>
          </li>
        ))}
      </ul>
      <div className="my-2">
        <Choice
          label="Show"
          value={which}
          options={[
            { id: 'all', name: 'all' },
            { id: 'refused', name: 'those that were refused' },
            { id: 'outside', name: 'those outside their range' },
            { id: 'differs', name: 'those that differ from the keypad' },
          ]}
          onChange={({ target }) => setWhich(target.value as Which)}
        />
      </div>
      <div
        className="max-h-[30rem] overflow-auto rounded border border-rule"
        role="region"
        tabIndex={0}
        aria-label="All parameters as read"
      >
        <table className="w-full text-left text-sm">
          <thead className="sticky top-0 bg-sheet text-soft">
            <tr className="[&>th]:px-2 [&>th]:py-1 [&>th]:font-normal">
              <th>Code</th>
              <th>Name</th>
              <th className="text-right">Register</th>
              <th className="text-right">Raw</th>
              <th className="text-right">Value</th>
              <th>Keypad shows</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((row) => (
              <ReadRow
                key={row.code}
                row={row}
                typed={keypad[row.code] ?? ''}
                type={(text) => setKeypad({ ...keypad, [row.code]: text })}
              />
            ))}
          </tbody>
        </table>
      </div>
      {shown.length === 0 && <p className="mt-1 text-soft">None.</p>}
    </>
  );
}

function ReadRow({ row, typed, type }: { row: Row; typed: string; type: (text: string) => void }) {
  const { code, name, register, raw, value, outside } = row;
  const differs = differsFrom(row, typed);
  return (
    <tr
      className={`border-t border-rule [&>td]:px-2 [&>td]:py-0.5 ${raw === null || outside !== '' || differs ? 'bg-look-wash' : ''}`}
    >
      <td className="font-mono font-semibold">{code}</td>
      <td>{name}</td>
      <td className="text-right font-mono text-soft">{register}</td>
      <td className="text-right font-mono">{raw ?? ''}</td>
      <td className="text-right font-mono">
        {raw === null ? <span className="font-sans text-soft">refused</span> : value}
        {outside !== '' && <span className="block font-sans text-xs">{outside}</span>}
      </td>
      <td>
        <input
          aria-label={`Keypad shows at ${code}`}
          value={typed}
          onChange={({ target }) => type(target.value)}
          className="h-8 w-28 rounded border border-rule bg-sheet px-2 font-mono max-lg:h-12"
        />
        {differs && <span className="ml-1">◆ differs</span>}
      </td>
    </tr>
  );
}

/** `50` and `50.00 Hz` are the same; options are compared by their number. Nothing typed is no difference. */
function differsFrom({ raw, value }: Row, typed: string): boolean {
  const text = typed.trim().replace(',', '.').replace('−', '-');
  if (text === '') return false;
  if (raw === null) return true;
  const read = /^[-−]?\d+(\.\d+)?/.exec(value.replace('−', '-'))?.[0];
  return read === undefined ? text !== value : Number(text) !== Number(read);
}
