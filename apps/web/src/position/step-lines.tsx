// Values of one parameter over time as step lines: one position in ink, its peers pale behind it, what the baseline wants
// as a broken line. Time without a value is a gap, never a line through zero.

import type { ParameterHistoryView } from '@drive-keep/api';
import type { Parameter } from '@drive-keep/core/dictionary';
import {
  forPeople,
  hasBit,
  isRaw,
  showRaw,
  toDecimal,
  toNumber,
  type Reading,
} from '@drive-keep/core/values';
import { extent } from 'd3-array';
import { scaleLinear, scalePoint, scaleTime } from 'd3-scale';
import { useRef } from 'react';
import { showTime } from '../words/dates.ts';
import { useWidth } from './use-width.ts';

const LEFT = 150;
const RIGHT = 16;
const TOP = 16;
const FOOT = 26;
const MOST_TICKS = 6;
const LEAST_HEIGHT = 150;
const OPTION_HEIGHT = 30;

interface Step {
  readonly at: string;
  readonly reading: Reading | null;
}

export function StepLines({
  histories,
  parameter,
  shown,
}: {
  histories: readonly ParameterHistoryView[];
  parameter: Parameter;
  /** Tag of the position that is drawn in ink. */
  shown: string;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const width = useWidth(frame);
  const own = histories.find(({ tag }) => tag === shown);
  const raws = histories.flatMap(({ steps, wanted }) =>
    [...steps, ...wanted].flatMap(({ reading }) => (isRaw(reading ?? undefined) ? [reading as number] : [])),
  );
  const axis = axisOf(parameter, raws);
  const height = TOP + FOOT + axis.height;
  const times = histories.flatMap(({ steps }) => steps.map(({ at }) => new Date(at)));
  const [first = new Date()] = extent(times);
  const x = scaleTime([first, new Date()], [LEFT, Math.max(LEFT + 1, width - RIGHT)]);
  const y = (raw: number) => TOP + axis.place(raw);
  const line = (steps: readonly Step[]) => pathOf(steps, (at) => x(new Date(at)), y, x.range()[1] ?? LEFT);
  return (
    <div ref={frame} className="rounded border border-rule bg-sheet">
      <svg width={width} height={height} role="img" aria-label={`${parameter.name} over time`}>
        {axis.ticks.map(({ raw, text }) => (
          <g key={raw}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(raw)} y2={y(raw)} className="stroke-rule" />
            <text x={LEFT - 8} y={y(raw) + 4} textAnchor="end" className="fill-soft text-[11px]">
              {text.length > 22 ? `${text.slice(0, 21)}…` : text}
            </text>
          </g>
        ))}
        {x.ticks(8).map((tick) => (
          <text
            key={tick.getTime()}
            x={x(tick)}
            y={height - 8}
            textAnchor="middle"
            className="fill-soft text-[11px]"
          >
            {x.tickFormat(8)(tick)}
          </text>
        ))}
        {histories
          .filter(({ tag }) => tag !== shown)
          .map(({ tag, steps }) => (
            <path
              key={tag}
              d={line(steps)}
              fill="none"
              className="stroke-soft"
              strokeWidth={1}
              opacity={0.45}
            >
              <title>{tag}</title>
            </path>
          ))}
        {own && (
          <>
            <path
              d={line(own.wanted)}
              fill="none"
              className="stroke-plum"
              strokeWidth={2}
              strokeDasharray="5 4"
            />
            <path d={line(own.steps)} fill="none" className="stroke-ink" strokeWidth={2} />
            {own.steps.map((step) => (
              <Mark key={step.at} left={x(new Date(step.at))} y={y} parameter={parameter} step={step} />
            ))}
          </>
        )}
      </svg>
    </div>
  );
}

function Mark({
  left,
  y,
  parameter,
  step,
}: {
  left: number;
  y: (raw: number) => number;
  parameter: Parameter;
  step: ParameterHistoryView['steps'][number];
}) {
  const { reading } = step;
  const label = `${showTime(step.at)}, ${step.by}: ${step.reason}`;
  if (typeof reading !== 'number') {
    return (
      <text x={left} y={TOP + 4} textAnchor="middle" className="fill-ink text-xs font-bold">
        ?<title>{`${label}, no value`}</title>
      </text>
    );
  }
  return (
    <circle cx={left} cy={y(reading)} r={4} className="fill-sheet stroke-ink" strokeWidth={1.5}>
      <title>{`${label}, ${showRaw(parameter.form, reading)}`}</title>
    </circle>
  );
}

/** Horizontal from each step to the next, upright between two values; a step without a value ends the line. */
function pathOf(
  steps: readonly Step[],
  x: (at: string) => number,
  y: (raw: number) => number,
  end: number,
): string {
  let path = '';
  let drawing = false;
  steps.forEach(({ at, reading }, index) => {
    if (typeof reading !== 'number') {
      drawing = false;
      return;
    }
    const next = steps[index + 1];
    path += `${drawing ? 'L' : 'M'}${x(at).toFixed(1)} ${y(reading).toFixed(1)}H${(next ? x(next.at) : end).toFixed(1)}`;
    drawing = true;
  });
  return path;
}

interface Axis {
  readonly height: number;
  readonly place: (raw: number) => number;
  readonly ticks: readonly { readonly raw: number; readonly text: string }[];
}

/** Numbers to scale; options and bit words as a row for each that occurs. */
function axisOf({ form }: Parameter, raws: readonly number[]): Axis {
  const distinct = [...new Set(raws)].sort((a, b) => a - b);
  if (form.kind === 'number') {
    const [minimum = 0, maximum = 0] = extent(raws);
    const pad = minimum === maximum ? 1 : (maximum - minimum) * 0.08;
    const scale = scaleLinear([minimum - pad, maximum + pad], [LEAST_HEIGHT, 0]);
    const ticks = distinct.length <= MOST_TICKS ? distinct : scale.ticks(MOST_TICKS).map(Math.round);
    const value = (raw: number) =>
      `${forPeople(toNumber(toDecimal(form, raw)).toFixed(form.resolution.places))} ${form.unit}`;
    return {
      height: LEAST_HEIGHT,
      place: scale,
      ticks: ticks.map((raw) => ({ raw, text: value(raw).trim() })),
    };
  }
  const height = Math.max(60, distinct.length * OPTION_HEIGHT);
  const scale = scalePoint(distinct.map(String), [height, 0]).padding(0.5);
  const text = (raw: number) =>
    form.kind === 'option'
      ? (form.options.find((option) => option.raw === raw)?.text ?? `option ${raw}`)
      : form.bits
          .filter(({ bit }) => hasBit(raw, bit))
          .map((bit) => bit.text)
          .join(', ') || 'no bit';
  return {
    height,
    place: (raw) => scale(String(raw)) ?? 0,
    ticks: distinct.map((raw) => ({ raw, text: text(raw) })),
  };
}
