// The terminals of the drive as one strip, the devices of the field below it, and the conductors between them with their
// numbers. Links are brackets above the strip.

import { DndContext, pointerWithin, useDraggable, useDroppable } from '@dnd-kit/core';
import type { Terminal, TerminalChart } from '@drive-keep/core/dictionary';
import {
  connectionsOf,
  showEnd,
  type FieldDevice,
  type FittedLink,
  type Wiring,
} from '@drive-keep/core/wiring';
import type { Ref } from 'react';
import { BOX, layOut, nameLines, STRIP_BOTTOM, STRIP_TOP, WIDE, type Spot } from './drawing-layout.ts';

/** An end of a wire that may be dragged to another terminal. */
export interface DraggedEnd {
  readonly id: string;
  readonly terminal: string;
  readonly could: readonly string[];
}

/** Beside the name of what hangs there. */
const HANDLE = { wide: 58, high: 16 } as const;

export function WiringDrawing({
  chart,
  wiring,
  ends = [],
  move,
}: {
  chart: TerminalChart;
  wiring: Wiring;
  ends?: readonly DraggedEnd[];
  /** Nothing where nobody may drag. */
  move?: (id: string, terminal: string) => void;
}) {
  const also = ends.flatMap(({ could }) => could);
  const { terminals, boxes, spots, laneOf, deviceTop, width } = layOut(chart, wiring, also);
  if (terminals.length === 0)
    return (
      <p className="text-soft">Nothing is wired yet. Type devices and wires below; they are drawn here.</p>
    );
  const drawing = (
    <div className="overflow-x-auto pb-2">
      <svg
        width={width + 2}
        height={deviceTop + BOX + 8}
        role="img"
        aria-label={`${terminals.length} terminals, ${boxes.length} devices, ${wiring.wires.length} wires`}
        className="text-ink"
      >
        {terminals.map((terminal, at) => (
          <DrawnTerminal key={terminal.id} terminal={terminal} x={at * WIDE} />
        ))}
        {wiring.links.map((link) => (
          <DrawnLink key={link.between.join()} link={link} spots={spots} />
        ))}
        {wiring.wires.map(({ number, from, to }, at) => (
          <Conductor
            key={`${at} ${showEnd(from)} ${showEnd(to)}`}
            number={number}
            from={spots.get(showEnd(from))}
            to={spots.get(showEnd(to))}
            lane={laneOf(at)}
          />
        ))}
        {boxes.map(({ device, x, width: wide }) => (
          <DrawnDevice key={device.name} device={device} x={x} y={deviceTop} width={wide} />
        ))}
        {move && terminals.map(({ id }, at) => <Place key={id} id={id} x={at * WIDE} ends={ends} />)}
        {move && ends.map((end) => <Handle key={end.id} end={end} spot={spots.get(end.terminal)} />)}
      </svg>
    </div>
  );
  if (!move) return drawing;
  return (
    <DndContext
      collisionDetection={pointerWithin}
      onDragEnd={({ active, over }) => {
        const end = ends.find(({ id }) => id === active.id);
        const to = String(over?.id ?? '');
        if (end && to !== end.terminal && end.could.includes(to)) move(end.id, to);
      }}
    >
      {drawing}
    </DndContext>
  );
}

/** A terminal on which an end can be let go. */
function Place({ id, x, ends }: { id: string; x: number; ends: readonly DraggedEnd[] }) {
  const { setNodeRef, isOver, active } = useDroppable({ id });
  const fits = ends.find((end) => end.id === active?.id)?.could.includes(id) ?? false;
  return (
    <rect
      ref={setNodeRef as unknown as Ref<SVGRectElement>}
      x={x + 1}
      y={STRIP_TOP}
      width={WIDE}
      height={STRIP_BOTTOM - STRIP_TOP}
      className={`fill-transparent ${fits ? 'stroke-plum' : 'stroke-transparent'}`}
      strokeWidth={isOver ? 4 : 1.5}
      pointerEvents="none"
    />
  );
}

function Handle({ end, spot }: { end: DraggedEnd; spot: Spot | undefined }) {
  const { listeners, setNodeRef, transform } = useDraggable({ id: end.id, disabled: end.could.length < 2 });
  if (!spot) return null;
  const [x, y] = [spot.x - HANDLE.wide / 2 + (transform?.x ?? 0), spot.y - HANDLE.high + (transform?.y ?? 0)];
  const short = end.id.length > 9 ? `${end.id.slice(0, 8)}…` : end.id;
  return (
    <g
      ref={setNodeRef as unknown as Ref<SVGGElement>}
      {...(listeners as object)}
      transform={`translate(${x} ${y})`}
      data-end={end.id}
      className={end.could.length > 1 ? 'cursor-grab touch-none' : ''}
    >
      <title>{`${end.id} on ${end.terminal}${end.could.length > 1 ? '. Drag it to another terminal, or choose one below.' : ''}`}</title>
      <rect
        width={HANDLE.wide}
        height={HANDLE.high}
        rx={8}
        className={end.could.length > 1 ? 'fill-plum-wash stroke-plum' : 'fill-sheet stroke-rule'}
      />
      <text x={HANDLE.wide / 2} y={12} textAnchor="middle" className="fill-current font-mono text-[10px]">
        {short}
      </text>
    </g>
  );
}

function DrawnTerminal({ terminal: { id, name }, x }: { terminal: Terminal; x: number }) {
  return (
    <g transform={`translate(${x + 1} ${STRIP_TOP})`}>
      <title>{`${id} ${name}`}</title>
      <rect width={WIDE} height={STRIP_BOTTOM - STRIP_TOP} className="fill-sheet stroke-rule" />
      <text x={WIDE / 2} y={16} textAnchor="middle" className="fill-current font-mono text-sm font-bold">
        {id}
      </text>
      {nameLines(name).map((line, at) => (
        <text key={line} x={WIDE / 2} y={29 + at * 11} textAnchor="middle" className="fill-soft text-[10px]">
          {line}
        </text>
      ))}
    </g>
  );
}

function DrawnLink({ link, spots }: { link: FittedLink; spots: ReadonlyMap<string, Spot> }) {
  const [a, b] = link.between;
  const [one, other] = [spots.get(a), spots.get(b)];
  if (!one || !other) return null;
  const plug = link.place === 'plug';
  return (
    <path
      d={`M ${one.x} ${STRIP_TOP} V 6 H ${other.x} V ${STRIP_TOP}`}
      className="fill-none stroke-plum"
      strokeWidth={2.5}
      strokeDasharray={plug ? '5 3' : undefined}
    >
      <title>{`Link ${a} to ${b}, ${plug ? 'in the plug' : 'at the drive'}`}</title>
    </path>
  );
}

function DrawnDevice({ device, x, y, width }: { device: FieldDevice; x: number; y: number; width: number }) {
  return (
    <g transform={`translate(${x + 1} ${y})`}>
      <title>{`${device.name} ${device.what}`}</title>
      <rect width={width} height={BOX} rx={3} className="fill-sheet stroke-ink" />
      <text x={width / 2} y={26} textAnchor="middle" className="fill-current font-mono text-sm font-bold">
        {device.name}
      </text>
      <text x={width / 2} y={38} textAnchor="middle" className="fill-soft text-[9px]">
        {device.kind.replace('-', ' ')}
      </text>
      {connectionsOf(device).map((connection, at, all) => (
        <text
          key={connection}
          x={((at + 0.5) * width) / all.length}
          y={10}
          textAnchor="middle"
          className="fill-soft font-mono text-[9px]"
        >
          {connection}
        </text>
      ))}
    </g>
  );
}

interface ConductorProps {
  readonly number: string;
  readonly from: Spot | undefined;
  readonly to: Spot | undefined;
  readonly lane: number;
}

/** In a lane of its own, so that two never lie on each other. */
function Conductor({ number, from, to, lane }: ConductorProps) {
  if (!from || !to) return null;
  const [upper, lower] = from.y <= to.y ? [from, to] : [to, from];
  return (
    <g>
      <path
        d={`M ${upper.x} ${upper.y} V ${lane} H ${lower.x} V ${lower.y}`}
        className="fill-none stroke-current"
        strokeWidth={1.5}
      />
      {number !== '' && (
        <text x={upper.x + 3} y={lane - 2} className="fill-plum font-mono text-[10px]">
          {number}
        </text>
      )}
    </g>
  );
}
