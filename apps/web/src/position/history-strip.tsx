// Time from left to right; each backup a mark as high as its differences from the baseline, baselines as steps below, and
// below these the wirings that were kept.
// Two handles choose what is compared: dragged, or moved with the arrow keys.

import type { BaselineMark, HistoryView, ProofMark, TraceListing, WiringMark } from '@drive-keep/api';
import { max } from 'd3-array';
import { scaleLinear, scaleTime } from 'd3-scale';
import { useMemo, useRef } from 'react';
import { Link } from 'react-router';
import { showDate, showTime } from '../words/dates.ts';
import { useWidth } from './use-width.ts';
import { findPoint, nearestPoint, stepPoint, stripPoints, type StripPoint } from './strip-points.ts';

const HEIGHT = 132;
const TOP = 26;
const GROUND = 84;
const STEP_TOP = 94;
const STEP_BOTTOM = 110;
const WIRING_TOP = 114;
/** What the wirings take below the baselines where there are any. */
const WIRING_HEIGHT = 20;
const MARGIN = 16;
const LABEL_TOP = 3;

interface Handles {
  readonly a: string;
  readonly b: string;
}

export function HistoryStrip({
  history,
  traces = [],
  proofs = [],
  handles,
  move,
}: {
  history: HistoryView;
  traces?: readonly TraceListing[];
  proofs?: readonly ProofMark[];
  handles: Handles;
  move: (handles: Partial<Handles>) => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const width = useWidth(frame);
  const points = useMemo(() => stripPoints(history), [history]);
  const x = useMemo(() => timeScale(points, width), [points, width]);
  const y = scaleLinear(
    [0, Math.max(4, max(history.backups, (backup) => backup.differences ?? 0) ?? 0)],
    [GROUND - 2, TOP],
  );
  const height = HEIGHT + (history.wirings.length > 0 ? WIRING_HEIGHT : 0);
  if (points.length === 0) {
    return <p className="py-6 text-soft">No history yet. The first backup puts the first mark here.</p>;
  }
  return (
    <div ref={frame} className="rounded border border-rule bg-sheet">
      <svg
        width={width}
        height={height}
        role="group"
        aria-label="History"
        className="block touch-none select-none"
      >
        <TimeAxis x={x} bottom={height} />
        <Swaps swaps={history.swaps} x={x} />
        <BackupMarks history={history} x={x} y={y} />
        <Steps steps={history.baselines.map(baselineStep)} lane={BASELINES} x={x} end={width - MARGIN} />
        <Steps steps={history.wirings.map(wiringStep)} lane={WIRINGS} x={x} end={width - MARGIN} />
        {(['a', 'b'] as const).map((name) => (
          <Handle
            key={name}
            name={name}
            points={points}
            at={findPoint(points, handles[name])}
            x={x}
            move={(point) => move({ [name]: point.reference })}
          />
        ))}
        <TraceMarks traces={traces} x={x} />
        <ProofMarks proofs={proofs} x={x} />
      </svg>
    </div>
  );
}

type TimeScale = ReturnType<typeof timeScale>;

function timeScale(points: readonly StripPoint[], width: number) {
  const first = points[0]?.time ?? 0;
  const last = Math.max(points.at(-1)?.time ?? 0, Date.now());
  return scaleTime([new Date(first), new Date(last)], [MARGIN, Math.max(MARGIN + 1, width - MARGIN)]);
}

function TimeAxis({ x, bottom }: { x: TimeScale; bottom: number }) {
  const format = x.tickFormat(8);
  return (
    <g className="fill-soft text-[11px]">
      <line x1={MARGIN} x2={x.range()[1]} y1={GROUND} y2={GROUND} className="stroke-rule" />
      {x.ticks(8).map((tick) => (
        <text key={tick.getTime()} x={x(tick)} y={bottom - 6} textAnchor="middle">
          {format(tick)}
        </text>
      ))}
    </g>
  );
}

/** Where another unit came in: a line over the whole height, bold where it is of another model. */
function Swaps({ swaps, x }: { swaps: HistoryView['swaps']; x: TimeScale }) {
  return swaps.map(({ at, otherModel, text }) => {
    const place = x(new Date(at));
    return (
      <g key={at} className="stroke-plum">
        <title>{`${showTime(at)}: ${text}`}</title>
        <line
          x1={place}
          x2={place}
          y1={TOP - 8}
          y2={STEP_BOTTOM}
          strokeWidth={otherModel ? 2 : 1}
          strokeDasharray="6 3"
        />
        <text x={place + 4} y={TOP} className="fill-plum stroke-none text-[11px]">
          {otherModel ? 'another model' : 'another unit'}
        </text>
      </g>
    );
  });
}

/** So that two of one day can both be pressed. */
const TRACE_WIDTH = 15;

/** A wave on the ground line for each trace; it opens it. */
function TraceMarks({ traces, x }: { traces: readonly TraceListing[]; x: TimeScale }) {
  let last = -Infinity;
  return [...traces].reverse().map(({ id, title, beganAt }) => {
    const place = Math.max(x(new Date(beganAt)), last + TRACE_WIDTH);
    last = place;
    return (
      <Link key={id} to={`/traces/${id}`} aria-label={`Trace of ${showTime(beganAt)}: ${title}`}>
        <title>{`Trace of ${showTime(beganAt)}: ${title}`}</title>
        <rect x={place - 9} y={GROUND - 18} width={18} height={18} className="fill-transparent" />
        <path
          d={`M${place - 6} ${GROUND - 8}q3 -9 6 0t6 0`}
          fill="none"
          strokeWidth={2}
          className="stroke-plum"
        />
      </Link>
    );
  });
}

/** A pennant for each proof run that was closed, hollow where not all of it passed; it opens it. */
function ProofMarks({ proofs, x }: { proofs: readonly ProofMark[]; x: TimeScale }) {
  return proofs
    .filter(({ state }) => state === 'closed')
    .map(({ id, startedAt, steps, passed, failed }) => {
      const place = x(new Date(startedAt));
      const name = `Proof run of ${showTime(startedAt)}: ${passed} of ${steps} passed${failed > 0 ? `, ${failed} failed` : ''}`;
      return (
        <Link key={id} to={`/proofs/${id}`} aria-label={name}>
          <title>{name}</title>
          <rect x={place - 9} y={TOP - 12} width={18} height={22} className="fill-transparent" />
          <line x1={place} x2={place} y1={TOP - 10} y2={TOP + 8} strokeWidth={1.5} className="stroke-plum" />
          <path
            d={`M${place} ${TOP - 10}h9l-3 4 3 4h-9z`}
            strokeWidth={1.5}
            className={`stroke-plum ${passed === steps ? 'fill-plum' : 'fill-sheet'}`}
          />
        </Link>
      );
    });
}

/** One path for the marks without a difference and one for those with: two years are 700 marks. */
function BackupMarks({
  history,
  x,
  y,
}: {
  history: HistoryView;
  x: TimeScale;
  y: (differences: number) => number;
}) {
  const place = (at: string) => x(new Date(at)).toFixed(1);
  const differing = history.backups.filter((backup) => (backup.differences ?? 0) > 0);
  const rest = history.backups.filter((backup) => (backup.differences ?? 0) === 0);
  const lines = differing.map(
    (backup) => `M${place(backup.takenAt)} ${GROUND}V${y(backup.differences ?? 0).toFixed(1)}`,
  );
  const ticks = rest.map((backup) => `M${place(backup.takenAt)} ${GROUND}v-4`);
  const own = history.backups.filter((backup) => backup.how !== 'read' || !backup.sameAsBefore);
  return (
    <g>
      <path d={ticks.join('')} className="stroke-rule" />
      <path d={lines.join('')} className="stroke-look" strokeWidth={1.5} />
      {own.map((backup) => (
        <circle
          key={backup.id}
          cx={place(backup.takenAt)}
          cy={y(backup.differences ?? 0)}
          r={3}
          className="fill-sheet stroke-ink"
        >
          <title>{`${showTime(backup.takenAt)}: ${backup.reason} (${backup.takenBy}), ${backup.differences ?? 'no'} differences`}</title>
        </circle>
      ))}
    </g>
  );
}

interface Step {
  readonly revision: number;
  readonly from: string;
  readonly title: string;
}

interface Lane {
  readonly name: string;
  readonly top: number;
  readonly fill: string;
  readonly stroke: string;
}

const STEP_HEIGHT = STEP_BOTTOM - STEP_TOP;
const BASELINES: Lane = { name: 'Baseline', top: STEP_TOP, fill: 'fill-plum-wash', stroke: 'stroke-plum' };
const WIRINGS: Lane = { name: 'Wiring', top: WIRING_TOP, fill: 'fill-ground', stroke: 'stroke-soft' };

const baselineStep = ({ revision, signedAt, signedBy, reason, wiring }: BaselineMark): Step => ({
  ...{ revision, from: signedAt },
  title: `Revision ${revision}, signed ${showTime(signedAt)} by ${signedBy}${wiring === null ? '' : ` with wiring revision ${wiring}`}: ${reason}`,
});

const wiringStep = ({ revision, savedAt, savedBy, why }: WiringMark): Step => ({
  ...{ revision, from: savedAt },
  title: `Wiring revision ${revision}, kept ${showTime(savedAt)} by ${savedBy}: ${why}`,
});

/** What is in force until the next one. */
function Steps({
  steps,
  lane: { name, top, fill, stroke },
  x,
  end,
}: {
  steps: readonly Step[];
  lane: Lane;
  x: TimeScale;
  end: number;
}) {
  return (
    <g>
      {steps.map(({ revision, from, title }, index) => {
        const left = Math.max(MARGIN, x(new Date(from)));
        const next = steps[index + 1];
        const right = next ? x(new Date(next.from)) : end;
        const label = right - left > 170 ? `${name} ${revision} · ${showDate(from)}` : `${revision}`;
        const bottom = top + STEP_HEIGHT;
        return (
          <g key={revision}>
            <rect
              x={left}
              y={top}
              width={Math.max(2, right - left - 2)}
              height={STEP_HEIGHT}
              className={fill}
            >
              <title>{title}</title>
            </rect>
            <line x1={left} x2={left} y1={top - 3} y2={bottom} className={stroke} strokeWidth={2} />
            <text x={left + 6} y={bottom - 4} className="pointer-events-none fill-ink text-[11px]">
              {label}
            </text>
          </g>
        );
      })}
    </g>
  );
}

function Handle({
  name,
  points,
  at,
  x,
  move,
}: {
  name: 'a' | 'b';
  points: readonly StripPoint[];
  at: StripPoint | undefined;
  x: TimeScale;
  move: (point: StripPoint) => void;
}) {
  const dragged = useRef(false);
  if (!at) return null;
  const left = x(new Date(at.time));
  const letter = name.toUpperCase();
  const onPointerMove = (event: React.PointerEvent<SVGGElement>) => {
    if (!dragged.current) return;
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!box) return;
    const lane = event.clientY - box.top > STEP_TOP - 6 ? 'baseline' : 'backup';
    const point = nearestPoint(points, lane, x.invert(event.clientX - box.left).getTime());
    if (point && point !== at) move(point);
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const ways: Record<string, () => StripPoint | undefined> = {
      ArrowLeft: () => stepPoint(points, at, -1),
      ArrowRight: () => stepPoint(points, at, 1),
      ArrowDown: () => nearestPoint(points, 'baseline', at.time),
      ArrowUp: () => nearestPoint(points, 'backup', at.time),
    };
    const point = ways[event.key]?.();
    if (!point) return;
    event.preventDefault();
    event.stopPropagation();
    move(point);
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`Handle ${letter}`}
      aria-valuetext={at.label}
      aria-valuenow={points.indexOf(at)}
      aria-valuemin={0}
      aria-valuemax={points.length - 1}
      className="cursor-ew-resize transition-transform duration-[120ms]"
      style={{ transform: `translateX(${left}px)` }}
      onPointerDown={(event) => {
        dragged.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={onPointerMove}
      onPointerUp={() => (dragged.current = false)}
      onKeyDown={onKeyDown}
    >
      <HandleShape name={name} foot={at.lane === 'baseline' ? STEP_BOTTOM : GROUND} />
    </g>
  );
}

function HandleShape({ name, foot }: { name: 'a' | 'b'; foot: number }) {
  return (
    <>
      <rect x={-14} y={0} width={28} height={STEP_BOTTOM} className="fill-transparent" />
      <line
        y1={20}
        y2={foot}
        className={name === 'a' ? 'stroke-ink' : 'stroke-plum'}
        strokeWidth={2}
        strokeDasharray={name === 'a' ? '4 3' : ''}
      />
      <rect
        x={-11}
        y={LABEL_TOP}
        width={22}
        height={18}
        rx={4}
        className={name === 'a' ? 'fill-ink' : 'fill-plum'}
      />
      <text
        y={LABEL_TOP + 13}
        textAnchor="middle"
        className={`pointer-events-none text-xs font-bold ${name === 'a' ? 'fill-sheet' : 'fill-on-plum'}`}
      >
        {name.toUpperCase()}
      </text>
    </>
  );
}
