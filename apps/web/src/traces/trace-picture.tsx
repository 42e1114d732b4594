// The picture of a trace: it is moved by dragging, made closer with the wheel or the keys, and read with two cursors.

import type { TraceMarker } from '@drive-keep/api';
import { sampleAt, valueOf, type Trace } from '@drive-keep/core/signals';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useWidth } from '../position/use-width.ts';
import { liveName } from '../live/live-words.ts';
import { Button } from '../ui/button.tsx';
import { drawOn, inkOf, STROKES, svgOf } from './trace-drawing.ts';
import { LEFT, marksOf, RIGHT, type Layer, type Marks } from './trace-marks.ts';

interface Shown {
  readonly title: string;
  readonly layers: readonly Layer[];
  readonly markers: readonly TraceMarker[];
}
type Cursors = readonly [a: number | null, b: number | null];
type Span = readonly [from: number, to: number];

const LANE_HEIGHT = 150;
const CLOSER = 0.8;
/** Nobody sees more in less, in seconds. */
const SHORTEST = 0.5;
/** Farther than this a press is a drag, in px. */
const DRAG_FROM = 4;

export function TracePicture({ title, layers, markers }: Shown) {
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const width = Math.max(320, useWidth(box));
  const end = Math.max(1, ...layers.map(({ trace, shift }) => (trace.times.at(-1) ?? 0) / 1000 + shift));
  const [cursors, setCursors] = useState<Cursors>([null, null]);
  const view = useSpan(end);
  const [from, to] = view.span;
  const units = new Set(layers.flatMap(({ trace }) => trace.signals.map(({ unit }) => unit))).size;
  const height = Math.max(1, units) * LANE_HEIGHT + 68;
  const marks = useMemo(
    () => marksOf({ layers, from, to, width, height, nameOf: liveName }),
    [layers, from, to, width, height],
  );
  const seconds = useMemo(() => markers.map(({ at, text }) => ({ at: at / 1000, text })), [markers]);
  useEffect(() => {
    if (!canvas.current) return undefined;
    const target = canvas.current;
    const frame = requestAnimationFrame(() =>
      drawOn(target, { marks, ink: inkOf(target), markers: seconds }),
    );
    return () => cancelAnimationFrame(frame);
  }, [marks, seconds]);
  const timeAt = (clientX: number): number => {
    const left = canvas.current?.getBoundingClientRect().left ?? 0;
    return Math.min(to, Math.max(from, marks.x.invert(clientX - left)));
  };
  const saveSvg = () => {
    if (!canvas.current) return;
    const text = svgOf({ marks, ink: inkOf(canvas.current), markers: seconds }, title);
    save(new Blob([text], { type: 'image/svg+xml' }), `${title}.svg`);
  };
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <Button onClick={() => view.zoom(CLOSER)}>Closer</Button>
        <Button onClick={() => view.zoom(1 / CLOSER)}>Farther</Button>
        <Button onClick={view.whole} disabled={view.isWhole}>
          Whole
        </Button>
        <Button onClick={() => setCursors([null, null])} disabled={cursors[0] === null}>
          Take the cursors away
        </Button>
        <Button onClick={() => savePicture(canvas.current, title)}>Save as PNG</Button>
        <Button onClick={saveSvg}>Save as SVG</Button>
      </div>
      <div ref={box} className="relative w-full">
        <canvas
          ref={canvas}
          role="img"
          tabIndex={0}
          aria-label={`${title}: ${from.toFixed(1)} to ${to.toFixed(1)} s. Arrow keys move it, + and - bring it closer and farther, a press sets a cursor.`}
          style={{ width: marks.width, height }}
          className="max-w-full touch-pan-y cursor-crosshair rounded border border-rule"
          onPointerDown={(event) =>
            dragOver(
              event,
              (pixels) => view.move(-pixels / perPixel(marks)),
              (clientX) => setCursors((before) => withCursor(before, timeAt(clientX))),
            )
          }
          onWheel={(event) => {
            // Without the key the page is scrolled.
            if (!event.shiftKey) return;
            view.zoom((event.deltaY || event.deltaX) < 0 ? CLOSER : 1 / CLOSER, timeAt(event.clientX));
          }}
          onKeyDown={view.onKeyDown}
        />
        <CursorLines cursors={cursors} marks={marks} height={height} />
      </div>
      <Legend marks={marks} />
      <CursorTable layers={layers} cursors={cursors} />
    </>
  );
}

const perPixel = ({ x }: Marks): number => Math.abs(x(1) - x(0));

/** The nearer of two cursors goes where somebody presses. */
function withCursor([a, b]: Cursors, at: number): Cursors {
  if (a === null) return [at, null];
  if (b === null) return [a, at];
  return Math.abs(at - a) <= Math.abs(at - b) ? [at, b] : [a, at];
}

/** What of the trace is in sight, in seconds. */
function useSpan(end: number) {
  const [chosen, setChosen] = useState<Span>();
  const span: Span = chosen ?? [0, end];
  const within = ([low, high]: Span): Span => {
    const length = Math.min(end, Math.max(SHORTEST, high - low));
    const begin = Math.min(Math.max(0, low), end - length);
    return [begin, begin + length];
  };
  const zoom = (factor: number, around?: number) =>
    setChosen((before) => {
      const [from, to] = before ?? [0, end];
      const middle = around ?? (from + to) / 2;
      return within([middle - (middle - from) * factor, middle + (to - middle) * factor]);
    });
  const move = (by: number) =>
    setChosen((before) => {
      const [from, to] = before ?? [0, end];
      return within([from + by, to + by]);
    });
  const whole = () => setChosen(undefined);
  const onKeyDown = (event: React.KeyboardEvent) => {
    const tenth = (span[1] - span[0]) / 10;
    const act = {
      ArrowLeft: () => move(-tenth),
      ArrowRight: () => move(tenth),
      '+': () => zoom(CLOSER),
      '-': () => zoom(1 / CLOSER),
      Home: whole,
    }[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  return { span, isWhole: chosen === undefined, zoom, move, whole, onKeyDown };
}

/** Follows a press: it moves by pixels, or is a press in its place. */
function dragOver(
  event: React.PointerEvent,
  moved: (pixels: number) => void,
  pressed: (clientX: number) => void,
): void {
  const target = event.currentTarget;
  const start = event.clientX;
  let last = start;
  let dragged = false;
  target.setPointerCapture(event.pointerId);
  const onMove = (now: Event) => {
    const { clientX } = now as PointerEvent;
    if (!dragged && Math.abs(clientX - start) < DRAG_FROM) return;
    dragged = true;
    moved(clientX - last);
    last = clientX;
  };
  const end = (now: Event) => {
    target.removeEventListener('pointermove', onMove);
    target.removeEventListener('pointerup', end);
    target.removeEventListener('pointercancel', end);
    if (!dragged && now.type === 'pointerup') pressed((now as PointerEvent).clientX);
  };
  target.addEventListener('pointermove', onMove);
  target.addEventListener('pointerup', end);
  target.addEventListener('pointercancel', end);
}

function CursorLines({ cursors, marks, height }: { cursors: Cursors; marks: Marks; height: number }) {
  return cursors.map((at, index) => {
    const place = at === null ? null : marks.x(at);
    if (place === null || place < LEFT || place > marks.width - RIGHT) return null;
    return (
      <span
        key={index === 0 ? 'A' : 'B'}
        aria-hidden="true"
        className="pointer-events-none absolute bottom-0 border-l-2 border-plum"
        style={{ left: place, height: height - 34 }}
      >
        <span className="bg-plum px-1 text-sm text-on-plum">{index === 0 ? 'A' : 'B'}</span>
      </span>
    );
  });
}

function Legend({ marks }: { marks: Marks }) {
  return (
    <ul className="mt-2 flex flex-wrap gap-x-6 gap-y-1 text-sm">
      {marks.lanes.flatMap(({ unit, lines }) =>
        lines.map(({ name, kind }) => {
          const { colour, width, dash } = STROKES[kind];
          return (
            <li key={`${unit} ${name}`} className="flex items-center gap-2">
              <svg width="34" height="8" aria-hidden="true">
                <line
                  x1="0"
                  x2="34"
                  y1="4"
                  y2="4"
                  stroke={`var(--${colour})`}
                  strokeWidth={width}
                  strokeDasharray={dash.join(' ')}
                />
              </svg>
              {name}
              <span className="text-soft">{unit}</span>
            </li>
          );
        }),
      )}
    </ul>
  );
}

/** What each signal was at the cursors, and what lies between them. */
function CursorTable({ layers, cursors: [a, b] }: { layers: readonly Layer[]; cursors: Cursors }) {
  if (a === null)
    return (
      <p className="mt-2 text-sm text-soft">
        Press on the picture to set a cursor, and once more for a second one.
      </p>
    );
  const heads = [
    `A, ${a.toFixed(2)} s`,
    ...(b === null ? [] : [`B, ${b.toFixed(2)} s`, `B less A, ${(b - a).toFixed(2)} s`]),
  ];
  return (
    <table className="mt-2 text-left">
      <thead className="border-b border-rule text-sm text-soft">
        <tr className="[&>th]:pr-6 [&>th]:font-normal">
          <th>Signal</th>
          {heads.map((head) => (
            <th key={head} className="text-right">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {layers.flatMap(({ trace, name, shift }) =>
          trace.signals.map((signal, index) => {
            const [one, other] = [a, b].map((at) => (at === null ? null : seenAt(trace, index, at - shift)));
            const show = (value: number | null | undefined) =>
              value === null || value === undefined
                ? 'nothing came'
                : `${value.toFixed(signal.places)} ${signal.unit}`;
            const both = typeof one === 'number' && typeof other === 'number';
            return (
              <tr
                key={`${name} ${signal.meaning}`}
                className="border-b border-rule [&>td]:py-0.5 [&>td]:pr-6"
              >
                <td>
                  {liveName(signal.meaning)}
                  {name !== '' && <span className="text-soft"> {name}</span>}
                </td>
                <td className="text-right font-mono">{show(one)}</td>
                {b !== null && <td className="text-right font-mono">{show(other)}</td>}
                {b !== null && (
                  <td className="text-right font-mono">{both ? show((other ?? 0) - (one ?? 0)) : '–'}</td>
                )}
              </tr>
            );
          }),
        )}
      </tbody>
    </table>
  );
}

function seenAt(trace: Trace, index: number, seconds: number): number | null {
  const at = sampleAt(trace, seconds * 1000);
  const raw = at === undefined ? null : (trace.values[index]?.[at] ?? null);
  const signal = trace.signals[index];
  return raw === null || !signal ? null : valueOf(signal, raw);
}

function savePicture(canvas: HTMLCanvasElement | null, title: string): void {
  canvas?.toBlob((blob) => blob && save(blob, `${title}.png`));
}

function save(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
