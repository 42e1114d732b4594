// What a model's maker says beside its parameters: ratings and derating, how things are counted, what a write puts back,
// and what to do for a reset, a save or an unlock.

import {
  findParameter,
  type ConventionName,
  type Dictionary,
  type Fit,
  type RuleName,
  type Effect,
} from '@drive-keep/core/dictionary';
import { RULE_TEXT } from '../words/behaviour-rules.ts';
import { codesOf, showEffect } from '../words/effects.ts';

const FACT_NAMES: Readonly<Record<string, string>> = {
  heavy: 'Heavy duty, A',
  normal: 'Normal duty, A',
  rated_current: 'Rated, A',
  peak_current: 'Peak, A',
  frame: 'Frame',
};

const size = ({ widthMm, heightMm, depthMm }: Fit): string =>
  widthMm === null && heightMm === null && depthMm === null
    ? ''
    : [widthMm, heightMm, depthMm].map((each) => each ?? '?').join(' × ');

/** What a cabinet and its supply have to give a unit, column by column. */
const FIT_COLUMNS: readonly (readonly [heading: string, show: (fit: Fit) => string | number | null])[] = [
  ['Width × height × depth, mm', size],
  ['Free above and below, mm', (fit) => fit.clearanceMm],
  ['Largest fuse, gG, A', (fit) => fit.fuseA],
  ['Least braking resistor, Ω', (fit) => fit.leastResistorOhm],
  ['Discharge, min', (fit) => fit.dischargeMin],
  ['Mains filter', (fit) => (fit.filter ?? '').replace('-', ' ')],
  ['Losses, W', (fit) => fit.lossesW],
];

export function Ratings({ dictionary }: { dictionary: Dictionary }) {
  const { ratings, derating } = dictionary;
  const columns = Object.keys(FACT_NAMES).filter((key) =>
    ratings.some(({ facts }) => facts[key] !== undefined),
  );
  const fits = FIT_COLUMNS.filter(([, show]) => ratings.some(({ fit }) => fit && (show(fit) ?? '') !== ''));
  return (
    <>
      <div className="overflow-x-auto">
        <table className="mt-3 text-left">
          <thead className="border-b border-rule text-sm text-soft">
            <tr className="[&>th]:py-1 [&>th]:pr-5 [&>th]:align-bottom [&>th]:font-normal">
              <th>Rating</th>
              <th>Size</th>
              {columns.map((key) => (
                <th key={key} className="text-right">
                  {FACT_NAMES[key]}
                </th>
              ))}
              {fits.map(([heading]) => (
                <th key={heading} className="max-w-28 text-right align-bottom">
                  {heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ratings.map(({ id, name, facts, fit }) => (
              <tr key={id} className="border-b border-rule [&>td]:py-1 [&>td]:pr-5 [&>td]:whitespace-nowrap">
                <td className="font-mono font-semibold">{id}</td>
                <td>{name}</td>
                {columns.map((key) => (
                  <td key={key} className="text-right font-mono">
                    {facts[key] ?? '–'}
                  </td>
                ))}
                {fits.map(([heading, show]) => (
                  <td key={heading} className="text-right font-mono">
                    {(fit && show(fit)) || '–'}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {derating && (
        <div className="mt-5 flex flex-wrap gap-x-16 gap-y-4">
          <DeratingTable title="Current left by ambient temperature" unit="°C" points={derating.ambient} />
          <DeratingTable title="Current left by carrier frequency" unit="kHz" points={derating.carrier} />
        </div>
      )}
    </>
  );
}

function DeratingTable({
  title,
  unit,
  points,
}: {
  title: string;
  unit: string;
  points: readonly { readonly at: number; readonly share: number }[];
}) {
  if (points.length === 0) return null;
  return (
    <section>
      <h2 className="font-semibold">{title}</h2>
      <table>
        <tbody>
          {points.map(({ at, share }) => (
            <tr key={at} className="border-b border-rule">
              <td className="py-1 pr-4 text-right font-mono">
                {at} {unit}
              </td>
              <td className="w-16 text-right font-mono">{share} %</td>
              <td className="pl-3">
                <span className="block h-2.5 bg-plum" style={{ width: `${share * 1.2}px` }} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-sm text-soft">Between two points in a straight line.</p>
    </section>
  );
}

const CONVENTION_TEXT: Readonly<Record<ConventionName, string>> = {
  ramp_counts_to: 'Ramp times count to',
  current_limit_in: 'Current limits are in',
  speeds_in: 'Speeds are in',
  analog_scaling: 'Analog inputs are scaled by',
  loop_proportional: 'The loop’s proportional part is a',
  loop_integral: 'The loop’s integral part is a',
  poles: 'The number of poles is',
  presets_by: 'Preset speeds are chosen by',
  power_in: 'Power is in',
};

export function HowItWorks({ dictionary }: { dictionary: Dictionary }) {
  const { conventions, effects, procedures } = dictionary;
  const names = (Object.keys(CONVENTION_TEXT) as ConventionName[]).filter((name) => conventions[name]);
  return (
    <div className="mt-3 grid gap-x-10 gap-y-5 lg:grid-cols-2">
      <section>
        <h2 className="font-semibold">How this maker counts</h2>
        {names.length === 0 && <p className="text-soft">Not stated for this model.</p>}
        <dl className="grid grid-cols-[15rem_1fr]">
          {names.map((name) => (
            <div key={name} className="contents">
              <dt className="border-b border-rule py-1 text-soft">{CONVENTION_TEXT[name]}</dt>
              <dd className="border-b border-rule py-1">{(conventions[name] ?? '').replace(/-/g, ' ')}</dd>
            </div>
          ))}
        </dl>
        <h2 className="mt-5 font-semibold">What a write does to others</h2>
        {effects.length === 0 && (
          <p className="text-soft">No write of this model changes other parameters.</p>
        )}
        <ul className="space-y-2">
          {effects.map((effect) => (
            <li key={effect.when + effect.kind + effect.why} className="border-l-4 border-look pl-3">
              <b className="font-mono">{effect.when}</b> {findParameter(dictionary, effect.when)?.name}:{' '}
              {effect.why}
              <details className="text-sm">
                <summary className="text-plum">{SUMMARIES[effect.kind](codesOf(effect).length)}</summary>
                <p className="text-soft">{showEffect(effect)}</p>
                <ul className="columns-2">
                  {codesOf(effect).map((code) => (
                    <li key={code}>
                      <span className="font-mono">{code}</span> {findParameter(dictionary, code)?.name}
                    </li>
                  ))}
                </ul>
              </details>
            </li>
          ))}
        </ul>
      </section>
      <section>
        <h2 className="font-semibold">Procedures</h2>
        {procedures.length === 0 && <p className="text-soft">Not stated for this model.</p>}
        {procedures.map(({ purpose, name, steps, keeps }) => (
          <section key={purpose} className="mt-2">
            <h3 className="font-medium">{name}</h3>
            <ol className="list-decimal pl-6">
              {steps.map(({ text, set, busyMs }) => (
                <li key={text}>
                  {text}
                  {set && (
                    <span className="text-soft">
                      {' '}
                      (<span className="font-mono">{set.code}</span> to{' '}
                      {set.to.startsWith('@') ? 'what is chosen' : set.to})
                    </span>
                  )}
                  {busyMs > 0 && <span className="text-soft"> Takes {busyMs / 1000} s.</span>}
                </li>
              ))}
            </ol>
            {keeps.length > 0 && (
              <p className="text-sm text-soft">
                Stays as it is: <span className="font-mono">{keeps.join(', ')}</span>
              </p>
            )}
          </section>
        ))}
        <BehaviourRules dictionary={dictionary} />
      </section>
    </div>
  );
}

function BehaviourRules({ dictionary }: { dictionary: Dictionary }) {
  const stated = (Object.keys(RULE_TEXT) as RuleName[]).flatMap((name) => {
    const fact = dictionary.behaviour[name];
    return fact ? [{ name, fact }] : [];
  });
  return (
    <>
      <h2 className="mt-5 font-semibold">What it does with its contacts</h2>
      {stated.length === 0 && <p className="text-soft">Not stated for this model.</p>}
      <dl className="grid grid-cols-[15rem_1fr]">
        {stated.map(({ name, fact }) => (
          <div key={name} className="contents">
            <dt className="border-b border-rule py-1 pr-3 text-soft">{RULE_TEXT[name]}</dt>
            <dd className="border-b border-rule py-1">
              {fact.kind === 'words' ? (
                fact.words.map((word) => word.replace(/-/g, ' ')).join(', ')
              ) : (
                <SaidBy dictionary={dictionary} meaning={fact.meaning} />
              )}
            </dd>
          </div>
        ))}
      </dl>
    </>
  );
}

/** The parameter that says it itself, or the word that holds a bit for it. */
function SaidBy({ dictionary, meaning }: { dictionary: Dictionary; meaning: string }) {
  const parameter = dictionary.parameters.find(
    (each) => each.meaning === meaning || JSON.stringify(each.form).includes(`"meaning":"${meaning}"`),
  );
  return parameter ? (
    <>
      as <span className="font-mono">{parameter.code}</span> {parameter.name} says
    </>
  ) : (
    <>as {meaning} says</>
  );
}

const SUMMARIES: Readonly<Record<Effect['kind'], (count: number) => string>> = {
  'puts-back': (count) => `Writing this puts these ${count} back to default`,
  sets: (count) => `Writing this sets these ${count}`,
  chooses: () => 'Decides defaults and ranges',
  narrows: (count) => `Limits these ${count}`,
  blocks: (count) => `Keeps these ${count} from being changed`,
  idles: (count) => `Leaves these ${count} without effect`,
};
