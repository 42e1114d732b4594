// The way of a signal as a line: what is measured from left to right, what the drive makes of it upwards, with its corners.

import { cornersOf, pointAt, type SignalPoint, type SignalScaling } from '@drive-keep/core/signals';
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { shownOf } from './number-field.tsx';

const WIDTH = 640;
const HEIGHT = 240;
const LEFT = 56;
const BOTTOM = 34;
const TOP = 14;
const RIGHT = 24;
const TICKS = 5;

export function SignalCurve({ scaling, share }: { scaling: SignalScaling; share: number | null }) {
  const corners = cornersOf(scaling);
  if (!corners.ok) return <p className="text-soft">Nothing arrives that could be drawn.</p>;
  const unit = scaling.curve ? 'Hz' : '%';
  const of = (point: SignalPoint): number => (scaling.curve ? point.hertz : point.actual) ?? point.seen;
  const points = corners.value.flatMap((each) => {
    const point = pointAt(scaling, each);
    return point.ok ? [point.value] : [];
  });
  const [low = 0, high = 1] = extent(points, of) as [number | undefined, number | undefined];
  const [from = 0, to = 1] = [points[0]?.process, points.at(-1)?.process];
  const x = scaleLinear([from, to], [LEFT, WIDTH - RIGHT]);
  const y = scaleLinear([Math.min(0, low), Math.max(high, low + 1)], [HEIGHT - BOTTOM, TOP]).nice(TICKS);
  const path = points.map((point) => `${x(point.process)},${y(of(point))}`).join(' ');
  const here = share === null ? undefined : pointAt(scaling, share);
  const corner = points.filter(({ share: each }) => each >= 0 && each <= 1);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full max-w-3xl"
      role="img"
      aria-label={`From ${shownOf(scaling.range.low)} to ${shownOf(scaling.range.high)} ${scaling.range.unit}: ${corner
        .map((point) => `${shownOf(of(point))} ${unit} at ${shownOf(point.process)}`)
        .join(', ')}`}
    >
      <Axes {...{ x, y, unit }} measured={scaling.range.unit} />
      {[scaling.range.low, scaling.range.high].map((end, at) => (
        <line
          key={at}
          x1={x(end)}
          x2={x(end)}
          y1={TOP}
          y2={HEIGHT - BOTTOM}
          strokeDasharray="3 4"
          className="stroke-soft"
        />
      ))}
      <polyline points={path} fill="none" strokeWidth={2} className="stroke-ink" />
      {corner.map((point) => (
        <rect
          key={point.share}
          x={x(point.process) - 3}
          y={y(of(point)) - 3}
          width={6}
          height={6}
          className="fill-sheet stroke-ink"
        />
      ))}
      {here?.ok && (
        <g className="fill-plum">
          <circle cx={x(here.value.process)} cy={y(of(here.value))} r={5} />
          <text
            x={Math.min(WIDTH - 90, x(here.value.process) + 9)}
            y={Math.max(TOP + 10, y(of(here.value)) - 8)}
            className="stroke-ground font-mono text-[12px]"
            strokeWidth={4}
            paintOrder="stroke"
          >
            {shownOf(of(here.value))} {unit}
          </text>
        </g>
      )}
    </svg>
  );
}

type Scale = ReturnType<typeof scaleLinear<number, number>>;

function Axes({ x, y, unit, measured }: { x: Scale; y: Scale; unit: string; measured: string }) {
  return (
    <>
      {y.ticks(TICKS).map((tick) => (
        <g key={`y ${tick}`}>
          <line x1={LEFT} x2={WIDTH - RIGHT} y1={y(tick)} y2={y(tick)} className="stroke-rule" />
          <text x={LEFT - 6} y={y(tick) + 4} textAnchor="end" className="fill-soft font-mono text-[11px]">
            {shownOf(tick)}
          </text>
        </g>
      ))}
      {x.ticks(TICKS).map((tick) => (
        <text
          key={`x ${tick}`}
          x={x(tick)}
          y={HEIGHT - BOTTOM + 16}
          textAnchor="middle"
          className="fill-soft font-mono text-[11px]"
        >
          {shownOf(tick)}
        </text>
      ))}
      <text x={WIDTH - RIGHT} y={HEIGHT - 4} textAnchor="end" className="fill-soft text-[11px]">
        {measured === '' ? 'measured' : `measured, ${measured}`}
      </text>
      <text x={4} y={TOP + 2} className="fill-soft text-[11px]">
        {unit}
      </text>
    </>
  );
}
