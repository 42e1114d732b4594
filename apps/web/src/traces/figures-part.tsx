import type { TraceSettings } from '@drive-keep/api';
import type { MeasuredRamp, StepFault, StepFigures, StepResult } from '@drive-keep/core/signals';
import type { Figures } from './trace-figures.ts';

/** From here on a ramp took longer than its setting, and something held it. */
const LONGER = 1.03;

export function FiguresPart({ figures, settings }: { figures: Figures; settings: TraceSettings }) {
  const { ramps, step, stepUnit } = figures;
  return (
    <>
      {ramps.length > 0 && (
        <section aria-labelledby="ramps" className="mt-6">
          <h2 id="ramps" className="font-semibold">
            Ramps
          </h2>
          <p className="mb-1 text-sm text-soft">
            Each as the time for the whole way of {settings.top ?? '?'} Hz to which the settings count, by its
            straight middle from 20 to 80 % of the change. Set is what the unit itself held when the trace
            began; predicted is what the same measure gives for the course that these settings make, rounded
            corners and all.
          </p>
          <Table
            heads={[
              'Ramp',
              'From',
              'To',
              'Began at',
              'Measured',
              'Set',
              'Predicted',
              'Measured over predicted',
            ]}
            rows={ramps.map(rampRow)}
          />
        </section>
      )}
      {step && (
        <section aria-labelledby="step" className="mt-6">
          <h2 id="step" className="font-semibold">
            Step of the loop
          </h2>
          <StepPart step={step} unit={stepUnit} />
        </section>
      )}
    </>
  );
}

function rampRow({ way, from, to, measured, set, predicted, share }: MeasuredRamp): readonly string[] {
  const longer = share !== null && share > LONGER;
  return [
    way === 'up' ? '▲ up' : '▼ down',
    `${from.value.toFixed(2)} Hz`,
    `${to.value.toFixed(2)} Hz`,
    `${from.at.toFixed(2)} s`,
    `${measured.toFixed(2)} s`,
    set === null ? 'not told' : `${set} s`,
    predicted === null ? '–' : `${predicted.toFixed(2)} s`,
    share === null
      ? '–'
      : `${(share * 100).toFixed(1)} %${longer ? ': longer; the current limit, the bus voltage or a second ramp held it' : ''}`,
  ];
}

const FAULTS: Readonly<Record<StepFault, string>> = {
  'no-step': 'The set-point of the loop does not step in this trace.',
  'too-short': 'Too little was recorded before or after the step for figures.',
  'no-answer': 'The actual value does not leave its noise after the step: the loop does not answer.',
};

function StepPart({ step, unit }: { step: StepResult; unit: string }) {
  if (!step.ok) return <p className="text-soft">{FAULTS[step.why]}</p>;
  return (
    <>
      <p className="mb-1 text-sm text-soft">
        Terms as in IEC 60050-351. The end value is the mean of the last fifth after the step; a band narrower
        than the noise before the step is as wide as four of its standard deviations.
      </p>
      {step.figures.sense === 'inverted' && (
        <p className="border-l-4 border-stop bg-stop-wash px-3 py-1 font-semibold">
          The actual value went the other way: the sense of the loop is inverted.
        </p>
      )}
      <Table heads={['Figure', 'Value', 'How it is found']} rows={stepRows(step.figures, unit)} />
    </>
  );
}

function stepRows(figures: StepFigures, unit: string): readonly (readonly string[])[] {
  const seconds = (value: number | null) =>
    value === null ? 'not within the trace' : `${value.toFixed(2)} s`;
  const value = (number: number) => `${number.toFixed(2)} ${unit}`.trim();
  return [
    [
      'Step',
      `${value(figures.from)} to ${value(figures.to)} at ${figures.stepAt.toFixed(2)} s`,
      'largest step of the set-point',
    ],
    ['Dead time', seconds(figures.deadTime), 'until the actual value leaves its noise'],
    ['Rise time', seconds(figures.riseTime), 'from 10 to 90 % of the change'],
    ['Overshoot', `${figures.overshoot.toFixed(1)} %`, 'beyond the end value, in percent of the change'],
    ['Undershoot', `${figures.undershoot.toFixed(1)} %`, 'back below the end value after that'],
    [
      'Settling time, 5 %',
      seconds(figures.settling5),
      'until it stays within 5 % of the change around the end value',
    ],
    ['Settling time, 2 %', seconds(figures.settling2), 'until it stays within 2 %'],
    ['Steady error', value(figures.steadyError), 'set-point less end value'],
    ['Noise', value(figures.noise), 'standard deviation before the step'],
  ];
}

const Table = ({ heads, rows }: { heads: readonly string[]; rows: readonly (readonly string[])[] }) => (
  <div className="overflow-x-auto">
    <table className="text-left">
      <thead className="border-b border-rule text-sm text-soft">
        <tr className="[&>th]:pr-6 [&>th]:font-normal">
          {heads.map((head) => (
            <th key={head}>{head}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, at) => (
          <tr
            key={at}
            className="border-b border-rule [&>td]:py-1 [&>td]:pr-6 [&>td:not(:last-child)]:whitespace-nowrap"
          >
            {row.map((cell, index) => (
              <td key={index} className={index === 0 || index === heads.length - 1 ? '' : 'font-mono'}>
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);
