// Inputs and outputs as they are, at their terminals, with what hangs on them and what the wiring lets one expect.

import type { ExpectedView } from '@drive-keep/api';
import { terminalsOf, type Dictionary } from '@drive-keep/core/dictionary';
import type { TerminalBit, Watchable } from '@drive-keep/core/live';
import { Nothing } from '../ui/answer.tsx';
import type { Sample } from './use-now.ts';

type ExpectedAt = ExpectedView['inputs'][number];

export function LiveTerminals({
  sample,
  expected,
  watchable,
  dictionary,
}: {
  sample: Sample | null;
  expected: ExpectedView | null;
  watchable: Watchable;
  dictionary: Dictionary;
}) {
  const { inputs, outputs } = watchable;
  if (inputs.size + outputs.size === 0)
    return <Nothing>This model shows its inputs and outputs in no register that is known.</Nothing>;
  return (
    <section aria-labelledby="live-terminals">
      <h2 id="live-terminals" className="font-semibold">
        Inputs and outputs
      </h2>
      <ul className="border-t border-rule">
        {[...inputs].map(([number, bit]) => (
          <InputLine
            key={number}
            number={number}
            name={inputName(dictionary, number)}
            on={isOn(sample, bit)}
            expected={expected?.inputs.find((each) => each.number === number)}
          />
        ))}
        {[...outputs].map(([number, bit]) => (
          <li
            key={`output ${number}`}
            className="grid grid-cols-[4.5rem_1fr] gap-x-3 border-b border-rule py-1"
          >
            <OnOff on={isOn(sample, bit)} />
            <span>
              Output {number}{' '}
              <span className="text-soft">
                {expected?.outputs.find((each) => each.number === number)?.does}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const isOn = (sample: Sample | null, { code, bit }: TerminalBit): boolean | null => {
  const word = sample?.values[code];
  return word === undefined ? null : (word >>> bit) % 2 === 1;
};

/** The name on the strip of the input with this number. */
function inputName({ terminals, parameters }: Dictionary, number: string): string {
  const codes = parameters.flatMap(({ code, meaning }) =>
    meaning === `input.${number}.function` ? [code] : [],
  );
  const terminal =
    terminals && terminalsOf(terminals).find(({ setBy }) => setBy !== null && codes.includes(setBy));
  if (!terminal) return `Input ${number}`;
  return terminal.name === '' || terminal.name === terminal.id
    ? `Terminal ${terminal.id}`
    : `${terminal.name}, terminal ${terminal.id}`;
}

function InputLine({
  name,
  on,
  expected,
}: {
  number: string;
  name: string;
  on: boolean | null;
  expected: ExpectedAt | undefined;
}) {
  const odd = expected?.odd ?? null;
  return (
    <li
      className={`grid grid-cols-[4.5rem_1fr] gap-x-3 border-b border-rule py-1 ${odd === null ? '' : 'bg-look-wash'}`}
    >
      <OnOff on={on} />
      <span>
        {name} {expected && <b>{expected.does}</b>} <span className="text-soft">{expected?.named ?? ''}</span>
        {expected && odd !== null && (
          <span className="block border-l-4 border-look pl-2">{oddText(expected, odd)}</span>
        )}
      </span>
    </li>
  );
}

function oddText({ seen, can, named }: ExpectedAt, odd: 'never' | 'worked'): string {
  const is = seen ? 'on' : 'off';
  if (odd === 'never')
    return named === ''
      ? `It is ${is}, and by the wiring that is kept nothing hangs on it.`
      : `It is ${is}; by the wiring that is kept it can only be ${can}.`;
  return seen
    ? `It should be off while nothing is worked: ${named} is worked, or its wire touches another.`
    : `It should be on while nothing is worked: ${named} is open, or its wire is.`;
}

/** Shape and word: never colour alone. */
function OnOff({ on }: { on: boolean | null }) {
  if (on === null) return <span className="text-soft">? –</span>;
  return (
    <span className={on ? 'font-semibold' : 'text-soft'}>
      <span aria-hidden="true">{on ? '●' : '○'}</span> {on ? 'on' : 'off'}
    </span>
  );
}
