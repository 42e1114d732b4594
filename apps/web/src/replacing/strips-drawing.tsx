// The terminals of both units as two strips with the conductors between them: the old unit above, the successor below. The end at
// the successor can be dragged to another terminal of its kind; the table below does the same by keyboard.

import {
  DndContext,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { terminalsOf, type Dictionary, type Terminal } from '@drive-keep/core/dictionary';
import type { Move } from '@drive-keep/core/replace';
import type { Ref } from 'react';

const WIDE = 62;
const STRIP = 40;
const BETWEEN = 130;
const HANDLE = 11;
/** A click is no drag. */
const DRAG_PX = 5;

interface Props {
  readonly old: Dictionary;
  readonly fresh: Dictionary;
  readonly moves: readonly Move[];
  readonly may: boolean;
  readonly choose: (line: string, to: string) => void;
}

export function StripsDrawing({ old, fresh, moves, may, choose }: Props) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: DRAG_PX } }));
  const shown = [...new Map(moves.map((move) => [endOf(move), move])).values()];
  const froms = stripOf(old, new Set(shown.map(({ from }) => from)));
  const tos = stripOf(
    fresh,
    new Set(shown.flatMap(({ to, could }) => [...(to === null ? [] : [to]), ...could])),
  );
  if (shown.length === 0) return null;
  const xOf = (strip: readonly Terminal[], id: string) =>
    strip.findIndex((each) => each.id === id) * WIDE + WIDE / 2;
  const width = Math.max(froms.length, tos.length) * WIDE + 2;
  const numbers = (move: Move) =>
    [
      ...new Set(
        moves.filter(({ from, to }) => from === move.from && to === move.to).map(({ number }) => number),
      ),
    ].join(', ');
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragEnd={({ active, over }) => {
        const to = String(over?.id ?? '');
        for (const line of dropped(moves, String(active.id), to)) choose(line, to);
      }}
    >
      <div className="overflow-x-auto pb-2">
        <svg
          width={width}
          height={STRIP * 2 + BETWEEN + 34}
          role="img"
          aria-label={`${froms.length} terminals of the old unit, ${shown.length} go to the successor`}
          className="text-ink"
        >
          <text x={2} y={12} className="fill-soft text-[11px]">
            {old.name}
          </text>
          {froms.map((terminal, at) => (
            <DrawnTerminal key={terminal.id} terminal={terminal} x={at * WIDE} y={16} />
          ))}
          {shown.map((move) => {
            const x = xOf(froms, move.from);
            const [top, bottom] = [16 + STRIP, 16 + STRIP + BETWEEN];
            const end = move.to === null ? x : xOf(tos, move.to);
            const middle = (top + bottom) / 2;
            return (
              <path
                key={endOf(move)}
                d={`M ${x} ${top} C ${x} ${middle}, ${end} ${middle}, ${end} ${move.to === null ? middle : bottom}`}
                className={`fill-none ${move.to === null ? 'stroke-stop' : move.doubt ? 'stroke-look' : 'stroke-current'}`}
                strokeWidth={move.doubt ? 2.5 : 1.5}
                strokeDasharray={move.to === null ? '4 3' : undefined}
              />
            );
          })}
          {tos.map((terminal, at) => (
            <Place key={terminal.id} terminal={terminal} x={at * WIDE} y={16 + STRIP + BETWEEN} />
          ))}
          {shown.map((move) =>
            move.to === null ? null : (
              <Handle
                key={endOf(move)}
                move={move}
                text={numbers(move)}
                x={xOf(tos, move.to)}
                y={16 + STRIP + BETWEEN - HANDLE - 2}
                may={may && move.could.length > 1}
              />
            ),
          )}
          <text x={2} y={STRIP * 2 + BETWEEN + 30} className="fill-soft text-[11px]">
            {fresh.name}
          </text>
        </svg>
      </div>
    </DndContext>
  );
}

/** All wires of the end that was dragged, where they can go there. */
function dropped(moves: readonly Move[], end: string, to: string): ReadonlySet<string> {
  const dragged = moves.filter((move) => endOf(move) === end && move.to !== to && move.could.includes(to));
  return new Set(dragged.map(({ line }) => line));
}

/** One terminal may go to two: contacts and a potentiometer that it fed. */
const endOf = ({ from, to }: Move): string => `${from} ${to ?? ''}`;

const stripOf = ({ terminals }: Dictionary, used: ReadonlySet<string>): readonly Terminal[] =>
  (terminals ? terminalsOf(terminals) : []).filter(({ id }) => used.has(id));

function DrawnTerminal({ terminal: { id, name }, x, y }: { terminal: Terminal; x: number; y: number }) {
  return (
    <g transform={`translate(${x + 1} ${y})`}>
      <title>{`${id} ${name}`}</title>
      <rect width={WIDE} height={STRIP} className="fill-sheet stroke-rule" />
      <text x={WIDE / 2} y={17} textAnchor="middle" className="fill-current font-mono text-sm font-bold">
        {id}
      </text>
      <text x={WIDE / 2} y={31} textAnchor="middle" className="fill-soft text-[9px]">
        {name.length > 11 ? `${name.slice(0, 10)}…` : name}
      </text>
    </g>
  );
}

/** A terminal on which a wire can be dropped. */
function Place({ terminal, x, y }: { terminal: Terminal; x: number; y: number }) {
  const { setNodeRef, isOver } = useDroppable({ id: terminal.id });
  return (
    <g ref={setNodeRef as unknown as Ref<SVGGElement>} className={isOver ? 'text-plum' : ''}>
      <DrawnTerminal terminal={terminal} x={x} y={y} />
      {isOver && (
        <rect x={x + 1} y={y} width={WIDE} height={STRIP} className="fill-none stroke-plum" strokeWidth={3} />
      )}
    </g>
  );
}

function Handle({ move, text, x, y, may }: { move: Move; text: string; x: number; y: number; may: boolean }) {
  const { listeners, setNodeRef, transform } = useDraggable({ id: endOf(move), disabled: !may });
  const [dx, dy] = [transform?.x ?? 0, transform?.y ?? 0];
  return (
    <g
      ref={setNodeRef as unknown as Ref<SVGGElement>}
      {...(listeners as object)}
      transform={`translate(${x + dx} ${y + dy})`}
      className={may ? 'cursor-grab touch-none' : ''}
    >
      <title>{`Wire ${text}: ${move.from} (${move.place}) to ${move.to ?? ''}${may ? '. Drag it to another terminal.' : ''}`}</title>
      <rect
        x={-WIDE / 2 + 6}
        y={-HANDLE}
        width={WIDE - 12}
        height={HANDLE * 2}
        rx={HANDLE}
        className={may ? 'fill-plum-wash stroke-plum' : 'fill-sheet stroke-rule'}
      />
      <text y={4} textAnchor="middle" className="fill-current font-mono text-[11px]">
        {text === '' ? '–' : text.length > 7 ? `${text.slice(0, 6)}…` : text}
      </text>
    </g>
  );
}
