// What a parameter is, opened in place below its row.

import type { ComparisonRowView } from '@drive-keep/api';
import { faultIn, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import { hasBit, isRaw, showRaw } from '@drive-keep/core/values';
import { Link } from 'react-router';
import { bearingOn } from '../models/bearing-on.ts';
import { FaultFacts } from '../models/fault-facts.tsx';
import { calculatorOf } from '../calculate/calculator-for.ts';
import { useParameterHistory } from '../api/queries.ts';
import { showTime } from '../words/dates.ts';

const ACCESS_TEXT = {
  write: 'may be written at all times',
  'write-stopped': 'takes a write only while the motor stands',
  read: 'can only be read',
} as const;

export function RowDetail({
  tag,
  dictionary,
  parameter,
  row,
  does,
}: {
  tag: string;
  dictionary: Dictionary;
  parameter: Parameter;
  row: ComparisonRowView;
  /** What the difference does with the contacts. */
  does?: string | undefined;
}) {
  const { form } = parameter;
  const show = (raw: number | null) => (raw === null ? '–' : showRaw(form, raw));
  return (
    <div className="grid gap-x-8 gap-y-3 bg-ground px-4 py-3 text-sm lg:grid-cols-[1.2fr_1fr_1fr]">
      <div>
        {does !== undefined && <p className="mb-2 border-l-4 border-plum pl-2 text-[15px]">{does}</p>}
        <About tag={tag} dictionary={dictionary} parameter={parameter} />
        <FaultsHere {...{ dictionary, parameter, row }} />
      </div>
      <div>
        {form.kind === 'number' && (
          <dl className="grid grid-cols-[5rem_1fr] gap-y-1">
            <dt className="text-soft">Range</dt>
            <dd className="font-mono">
              {row.minimum === null && row.maximum === null
                ? 'not told'
                : `${show(row.minimum)} to ${show(row.maximum)}`}
            </dd>
            <dt className="text-soft">Default</dt>
            <dd className="font-mono">{row.default === null ? 'not told' : show(row.default)}</dd>
          </dl>
        )}
        {form.kind === 'option' && (
          <Choices
            lines={form.options.map(({ raw, text }) => ({
              key: raw,
              text: `${raw} ${text}`,
              a: row.a === raw,
              b: row.b === raw,
              usual: row.default === raw,
            }))}
          />
        )}
        {form.kind === 'bits' && (
          <Choices
            lines={form.bits.map(({ bit, text }) => ({
              key: bit,
              text: `bit ${bit} ${text}`,
              a: isRaw(row.a ?? undefined) && hasBit(row.a as number, bit),
              b: isRaw(row.b ?? undefined) && hasBit(row.b as number, bit),
              usual: row.default !== null && hasBit(row.default, bit),
            }))}
          />
        )}
      </div>
      <ParameterHistory tag={tag} parameter={parameter} />
    </div>
  );
}

/** What the faults mean whose numbers stand in the row. */
function FaultsHere({
  dictionary,
  parameter,
  row,
}: {
  dictionary: Dictionary;
  parameter: Parameter;
  row: ComparisonRowView;
}) {
  const numbers = [row.a, row.b].filter((each) => typeof each === 'number');
  const faults = [...new Set(numbers.flatMap((raw) => faultIn(dictionary, parameter, raw) ?? []))];
  return faults.map((fault) => (
    <section key={fault.number} className="mt-2 border-l-4 border-look pl-2">
      <h4 className="font-semibold">
        {fault.shown} {fault.name}
      </h4>
      <FaultFacts dictionary={dictionary.id} fault={fault} parameters={bearingOn(dictionary, fault)} />
    </section>
  ));
}

function About({
  tag,
  dictionary,
  parameter,
}: {
  tag: string;
  dictionary: Dictionary;
  parameter: Parameter;
}) {
  const calculator = calculatorOf(parameter.meaning, tag);
  return (
    <div className="space-y-1.5">
      <p className="text-[15px]">{parameter.description}</p>
      <p className="text-soft">
        {parameter.menu.join(' › ')} · {ACCESS_TEXT[parameter.access]}
        {parameter.restart && ' · takes effect after a restart'}
      </p>
      {parameter.otherNames.length > 0 && (
        <p className="text-soft">Also called {parameter.otherNames.join(', ')}.</p>
      )}
      {parameter.dependsOn.length > 0 && (
        <p className="text-soft">Depends on {parameter.dependsOn.join(', ')}.</p>
      )}
      <Link
        to={`/look-up?find=${encodeURIComponent(parameter.code)}&position=${tag}`}
        className="text-plum hover:underline"
      >
        What other models call it
      </Link>
      {' · '}
      <Link
        to={`/positions/${tag}/parameters/${encodeURIComponent(parameter.code)}`}
        className="text-plum hover:underline"
      >
        Over the years, and its peers
      </Link>
      {calculator && (
        <>
          {' · '}
          <Link to={calculator.to} className="text-plum hover:underline">
            {calculator.name}
          </Link>
        </>
      )}
      {dictionary.effects
        .filter((effect) => effect.when === parameter.code)
        .map((effect) => (
          <p key={effect.why} className="border-l-4 border-look pl-2">
            {effect.why}
          </p>
        ))}
    </div>
  );
}

interface Choice {
  readonly key: number;
  readonly text: string;
  readonly a: boolean;
  readonly b: boolean;
  readonly usual: boolean;
}

function Choices({ lines }: { lines: readonly Choice[] }) {
  return (
    <ul className="max-h-56 overflow-auto">
      {lines.map(({ key, text, a, b, usual }) => (
        <li key={key} className="flex gap-2">
          <span className="w-10 shrink-0 font-mono font-bold">
            {a ? 'A' : ' '}
            {b ? <span className="text-plum">B</span> : ' '}
          </span>
          <span className={a || b ? 'font-semibold' : ''}>
            {text}
            {usual && <span className="font-normal text-soft"> (default)</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}

function ParameterHistory({ tag, parameter }: { tag: string; parameter: Parameter }) {
  const { data: steps } = useParameterHistory(tag, parameter.code);
  if (!steps) return <p className="text-soft">Looking through the history …</p>;
  if (steps.length === 0) return <p className="text-soft">Not in any backup yet.</p>;
  return (
    <div>
      <p className="text-soft">
        {steps.length === 1 ? 'Never changed since the first backup' : 'Changes seen in backups'}
      </p>
      <ol>
        {[...steps].reverse().map((step) => (
          <li key={step.at} className="grid grid-cols-[8.5rem_1fr] gap-2">
            <span className="text-soft">{showTime(step.at)}</span>
            <span>
              <span className="font-mono">
                {typeof step.reading === 'number'
                  ? showRaw(parameter.form, step.reading)
                  : step.reading
                    ? '? unreadable'
                    : 'not there'}
              </span>
              <span className="block text-soft">
                {step.by}: {step.reason}
              </span>
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
