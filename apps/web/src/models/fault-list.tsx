// All faults of a model by their numbers, as the manual has them at its end.

import { type Dictionary } from '@drive-keep/core/dictionary';
import { AddressField } from '../ui/address-inputs.tsx';
import { Nothing } from '../ui/answer.tsx';
import { bearingOn } from './bearing-on.ts';
import { FaultFacts } from './fault-facts.tsx';

export function FaultList({
  dictionary,
  find,
  change,
}: {
  dictionary: Dictionary;
  find: string;
  change: (text: string) => void;
}) {
  const wanted = find.trim().toLowerCase();
  const shown = dictionary.faults.filter(({ shown: number, name, meaning, causes, check }) => {
    if (wanted === '' || number.toLowerCase() === wanted) return true;
    return [name, meaning, ...causes, ...check].some((text) => text.toLowerCase().includes(wanted));
  });
  return (
    <>
      <div className="sticky top-0 mt-2 flex flex-wrap items-center gap-3 bg-ground py-2">
        <AddressField
          value={find}
          change={change}
          aria-label="Find a fault"
          placeholder="Number or word"
          className="w-72"
        />
        <span className="text-sm text-soft">{shown.length} shown</span>
      </div>
      {shown.length === 0 && <Nothing>No fault of this model has “{find}” in it.</Nothing>}
      <ul className="border-t border-rule">
        {shown.map((fault) => (
          <li
            key={fault.number}
            className="grid gap-x-4 border-b border-rule py-2 md:grid-cols-[5rem_14rem_1fr]"
          >
            <b className="font-mono">{fault.shown}</b>
            <b>{fault.name}</b>
            <FaultFacts dictionary={dictionary.id} fault={fault} parameters={bearingOn(dictionary, fault)} />
          </li>
        ))}
      </ul>
    </>
  );
}
