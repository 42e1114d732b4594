// What was read while somebody went through a step, as a small picture: the inputs as they switched, and the frequency.

import type { ProofEvidenceView, ProofReading } from '@drive-keep/api';
import type { ProofInput } from '@drive-keep/core/prove';
import { scaleLinear } from 'd3-scale';
import { useProofReadings } from '../api/queries.ts';

/** Of a phone: letters are as large there as beside it. */
const WIDTH = 350;
const LANE = 14;
const COURSE = 70;
const LEFT = 52;

interface Course {
  readonly seconds: number;
  readonly inputs: readonly {
    readonly number: string;
    readonly on: readonly (readonly [number, number])[];
  }[];
  readonly hertz: readonly { readonly at: number; readonly value: number }[];
}

/** Whatever was read, in full at every moment; in s. */
export function courseOf(readings: readonly ProofReading[]): Course {
  const end = (readings.at(-1)?.at ?? 0) / 1000;
  const numbers = [...new Set(readings.flatMap(({ inputs }) => Object.keys(inputs ?? {})))];
  const changes = (number: string) =>
    readings.flatMap(({ at, inputs, silent }) => {
      const is = silent ? false : inputs?.[number];
      return is === undefined ? [] : [{ at: at / 1000, is }];
    });
  const inputs = numbers.flatMap((number) => {
    const all = changes(number);
    const on = all.flatMap(({ at, is }, index): [number, number][] =>
      is ? [[at, all[index + 1]?.at ?? end]] : [],
    );
    const moves = new Set(all.map(({ is }) => is)).size > 1;
    return moves ? [{ number, on }] : [];
  });
  const hertz: { at: number; value: number }[] = [];
  for (const { at, hertz: value } of readings) {
    if (typeof value !== 'number') continue;
    const last = hertz.at(-1);
    // It stood until just before it moved: what did not change was not kept.
    if (last && at / 1000 - last.at > 0.5) hertz.push({ at: at / 1000 - 0.1, value: last.value });
    hertz.push({ at: at / 1000, value });
  }
  const last = hertz.at(-1);
  if (last && last.at < end) hertz.push({ at: end, value: last.value });
  return { seconds: end, inputs, hertz };
}

export function EvidenceCourse({
  run,
  evidence,
  inputs: known,
}: {
  run: string;
  evidence: ProofEvidenceView;
  inputs: readonly ProofInput[];
}) {
  const { data } = useProofReadings(run, evidence.id, evidence.readings > 1);
  if (!data) return null;
  const { seconds, inputs, hertz } = courseOf(data);
  const values = hertz.map(({ value }) => value);
  const top = Math.max(0, ...values);
  const moves = new Set(values).size > 1;
  if (inputs.length === 0 && !moves) return null;
  const x = scaleLinear([0, Math.max(seconds, 1)], [LEFT, WIDTH - 8]);
  const lanes = inputs.length * LANE;
  const y = scaleLinear([0, Math.max(top, 1)], [lanes + COURSE, lanes + 10]);
  const height = lanes + (moves ? COURSE : 0) + 20;
  const terminal = (number: string) => known.find((each) => each.number === number)?.terminal ?? number;
  const names = inputs.map(({ number }) => `terminal ${terminal(number)}`).join(', ');
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      role="img"
      aria-label={`What was read over ${seconds.toFixed(1)} s: ${names}${moves ? `, up to ${top.toFixed(1)} Hz` : ''}`}
      className="my-1 w-full max-w-lg text-[11px]"
    >
      {inputs.map(({ number, on }, at) => (
        <g key={number}>
          <text x={0} y={at * LANE + 11} className="fill-current">
            {terminal(number)}
          </text>
          <line x1={LEFT} x2={WIDTH - 8} y1={at * LANE + 10} y2={at * LANE + 10} className="stroke-rule" />
          {on.map(([from, to]) => (
            <rect
              key={from}
              x={x(from)}
              y={at * LANE + 4}
              width={Math.max(1, x(to) - x(from))}
              height={6}
              className="fill-plum"
            />
          ))}
        </g>
      ))}
      {moves && (
        <>
          <text x={0} y={lanes + 20} className="fill-current">
            {top.toFixed(1)} Hz
          </text>
          <line x1={LEFT} x2={WIDTH - 8} y1={y(0)} y2={y(0)} className="stroke-rule" />
          <polyline
            points={hertz.map(({ at, value }) => `${x(at)},${y(value)}`).join(' ')}
            fill="none"
            strokeWidth={1.5}
            className="stroke-ink"
          />
        </>
      )}
      <text x={LEFT} y={height - 4} className="fill-current">
        0 s
      </text>
      <text x={WIDTH - 8} y={height - 4} textAnchor="end" className="fill-current">
        {seconds.toFixed(1)} s
      </text>
    </svg>
  );
}
