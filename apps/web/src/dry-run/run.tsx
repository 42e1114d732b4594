// A drive at work on the screen: its devices, what it does and why, what was done, and the table of combinations.

import type { DryRunView } from '@drive-keep/api';
import type { Event } from '@drive-keep/core/behaviour';
import { FAULT_CLASSES, type Dictionary, type FaultClass } from '@drive-keep/core/dictionary';
import type { Wiring } from '@drive-keep/core/wiring';
import { useCallback, useEffect, useMemo, useRef, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { changed } from './changed-address.ts';
import { wiringOf, type DryRunAnswer, type DryRunInput } from './dry-runner.ts';
import { fromAddress, toAddress } from './events-in-address.ts';
import { FieldDevices } from './field-devices.tsx';
import { useDryRun } from './use-dry-run.ts';

const SUPPLY_ON: readonly Event[] = [{ kind: 'supply', on: true }];

export interface RunProps {
  readonly input: DryRunInput;
  /** Where a parameter is told of. */
  readonly parameterTo: (code: string) => string;
  /** Said while there is no wiring. */
  readonly noWiring: ReactNode;
}

export function Run({ input, parameterTo, noWiring }: RunProps) {
  const { view, dictionary } = input;
  const [params, setParams] = useSearchParams();
  const written = params.get('do');
  const events = useMemo(() => (written === null ? SUPPLY_ON : fromAddress(written)), [written]);
  const set = useCallback(
    (next: readonly Event[]) =>
      setParams((before) => changed(before, 'do', toAddress(next)), { replace: true }),
    [setParams],
  );
  const wiring = useMemo(() => wiringOf(view.wiring), [view]);
  const answer = useDryRun(input, events);
  // Two events may come before the screen has drawn the first.
  const latest = useRef(events);
  useEffect(() => {
    latest.current = events;
  }, [events]);
  const happen = (...more: readonly Event[]) => {
    latest.current = [...latest.current, ...more];
    set(latest.current);
  };
  if (!answer) return <p className="mt-4 text-soft">Working it out …</p>;
  return (
    <>
      {view.wiringRevision === 0 && (
        <div className="mt-3">
          <Notice level="look">{noWiring}</Notice>
        </div>
      )}
      <div className="mt-3 grid gap-6 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <div>
          <FieldDevices devices={wiring.devices} state={answer.state} happen={happen} />
          <Hands answer={answer} wiring={wiring} dictionary={dictionary} happen={happen} />
        </div>
        <Answer parameterTo={parameterTo} answer={answer} />
      </div>
      <Done answer={answer} events={events} set={set} />
      <Combinations view={view} answer={answer} />
      <p className="mt-4 border-t border-rule pt-3 text-sm text-soft">
        Left out: times, ramps that are stretched, the dynamics of a loop, what a network or a user program
        asks for, and contacts that race within one filter time.
      </p>
    </>
  );
}

const KEYS = ['run', 'stop', 'reset'] as const;

function Hands({
  answer: { state },
  wiring,
  dictionary,
  happen,
}: {
  answer: DryRunAnswer;
  wiring: Wiring;
  dictionary: Dictionary;
  happen: (...events: readonly Event[]) => void;
}) {
  const withHand = dictionary.behaviour['hand.source'] !== undefined;
  const conductors = [
    ...wiring.wires.map(({ number, from, to }, at) => ({
      id: `wire ${at}`,
      name: `wire ${number}, ${from.kind === 'terminal' ? from.terminal : from.device} to ${to.kind === 'terminal' ? to.terminal : to.device}`,
    })),
    ...wiring.links.map(({ between }, at) => ({ id: `link ${at}`, name: `link ${between.join('–')}` })),
  ];
  return (
    <div className="mt-4 flex flex-wrap items-center gap-2">
      <Button aria-pressed={state.supply} onClick={() => happen({ kind: 'supply', on: !state.supply })}>
        {state.supply ? 'Take the supply away' : 'Supply on'}
      </Button>
      <Button onClick={() => happen({ kind: 'settle' })}>Wait until settled</Button>
      <span role="group" aria-label="Keys of the keypad" className="flex flex-wrap gap-2">
        {KEYS.map((key) => (
          <Button key={key} onClick={() => happen({ kind: 'key', key })}>
            Key {key}
          </Button>
        ))}
        {withHand && (
          <Button onClick={() => happen({ kind: 'key', key: state.hand ? 'automatic' : 'hand' })}>
            Key {state.hand ? 'automatic' : 'hand'}
          </Button>
        )}
      </span>
      <Choice
        label="Fault"
        value=""
        options={[{ id: '', name: '…' }, ...FAULT_CLASSES.map((id) => ({ id, name: FAULT_NAMES[id] }))]}
        onChange={({ target }) => happen({ kind: 'fault', of: target.value as FaultClass })}
      />
      {conductors.length > 0 && (
        <Choice
          label="Break"
          value=""
          options={[{ id: '', name: '…' }, ...conductors.filter(({ id }) => !state.broken.includes(id))]}
          onChange={({ target }) => happen({ kind: 'break', what: target.value })}
        />
      )}
      {state.broken.map((what) => (
        <Button key={what} onClick={() => happen({ kind: 'mend', what })}>
          Mend {conductors.find(({ id }) => id === what)?.name ?? what}
        </Button>
      ))}
    </div>
  );
}

const FAULT_NAMES: Readonly<Record<FaultClass, string>> = {
  overcurrent: 'overcurrent',
  overvoltage: 'overvoltage',
  undervoltage: 'undervoltage',
  motorOverload: 'overload of the motor',
  unitHot: 'unit too hot',
  earth: 'earth fault',
};

function Answer({ parameterTo, answer }: { parameterTo: RunProps['parameterTo']; answer: DryRunAnswer }) {
  const { kind, headline, details, reasons, ignored, missing, outputs } = answer;
  const strong = kind === 'runs' ? 'border-plum' : kind === 'untold' ? 'border-look' : 'border-rule';
  return (
    <section aria-label="What the drive does" className={`border-l-4 pl-4 max-lg:order-first ${strong}`}>
      <p aria-live="polite" className="text-3xl font-semibold">
        {headline}
      </p>
      {details.map((text) => (
        <p key={text} className="mt-1">
          {text}
        </p>
      ))}
      {missing.map((text) => (
        <p key={text} className="mt-1 border-l-4 border-look bg-look-wash px-3 py-1">
          {text}
        </p>
      ))}
      {outputs.length > 0 && kind !== 'no-supply' && (
        <p className="mt-2 flex flex-wrap gap-x-4 text-sm">
          {outputs.map(({ name, on }) => (
            <span key={name}>
              <span className="text-soft">Output {name}:</span>{' '}
              {on === null ? 'not told by contacts' : on ? 'on' : 'off'}
            </span>
          ))}
        </p>
      )}
      <h2 className="mt-4 font-semibold">Why</h2>
      <ol>
        {reasons.map(({ text, codes }, at) => (
          <li key={`${at} ${text}`} className="border-b border-rule py-1">
            {text}{' '}
            {codes.map((code) => (
              <Link key={code} to={parameterTo(code)} className="font-mono text-plum hover:underline">
                {code}
              </Link>
            ))}
          </li>
        ))}
        {ignored.map((text) => (
          <li key={text} className="border-b border-rule bg-look-wash px-2 py-1">
            {text}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Done({
  answer,
  events,
  set,
}: {
  answer: DryRunAnswer;
  events: readonly Event[];
  set: (events: readonly Event[]) => void;
}) {
  return (
    <div className="mt-6">
      <SheetPart name="What was done" state={`${events.length}`}>
        <ol className="list-decimal pl-6">
          {answer.done.map(({ text, headline }, at) => (
            <li key={`${at} ${text}`} className="py-0.5">
              {text} <span className="text-soft">→ {headline}</span>
            </li>
          ))}
        </ol>
        <div className="mt-2 flex flex-wrap gap-2">
          <Button disabled={events.length === 0} onClick={() => set(events.slice(0, -1))}>
            Take the last one back
          </Button>
          <Button onClick={() => set(SUPPLY_ON)}>Begin anew</Button>
        </div>
      </SheetPart>
    </div>
  );
}

function Combinations({ view, answer: { table } }: { view: DryRunView; answer: DryRunAnswer }) {
  if (table.devices.length === 0) return null;
  return (
    <SheetPart name="What each place does" state={`${table.rows.length}`}>
      <table className="w-full text-left">
        <caption className="pb-1 text-left text-sm text-soft">
          {view.tag === '' ? '' : `${view.tag}, `}
          {view.title}, from how it stands now; each settled.
        </caption>
        <thead className="border-b border-rule text-sm text-soft">
          <tr>
            {table.devices.map((name) => (
              <th key={name} className="py-1 pr-4 font-normal">
                {name}
              </th>
            ))}
            <th className="py-1 font-normal">The drive</th>
          </tr>
        </thead>
        <tbody>
          {table.rows.map(({ places, headline, kind }, at) => (
            <tr key={at} className="border-b border-rule">
              {places.map((place, column) => (
                <td key={column} className="py-1 pr-4">
                  {place}
                </td>
              ))}
              <td className={`py-1 ${kind === 'runs' ? 'font-semibold' : ''}`}>{headline}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 print:hidden">
        <Button onClick={() => window.print()}>Print it</Button>
      </div>
    </SheetPart>
  );
}
