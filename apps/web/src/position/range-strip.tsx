// A thin line from the minimum to the maximum value, a hollow tick for the default, filled marks for A and B. Ranges
// that begin at zero and are wide are drawn with a square-root scale, or everything would sit at the left end.

import type { ComparisonRowView } from '@drive-keep/api';
import { hasBit, isRaw, showRaw, type Form } from '@drive-keep/core/values';
import { scaleLinear, scaleSqrt } from 'd3-scale';

const WIDTH = 132;
const HEIGHT = 20;
const MIDDLE = 10;
const END = 6;

/** A range this much wider than its default is drawn with the square-root scale. */
const WIDE = 8;

export function RangeStrip({ form, row }: { form: Form; row: ComparisonRowView }) {
  if (form.kind === 'bits') return <BitSquares form={form} row={row} />;
  if (row.minimum === null || row.maximum === null || row.maximum <= row.minimum) return null;
  const x = form.kind === 'option' ? optionScale(form) : numberScale(row.minimum, row.maximum, row.default);
  const inRange = (raw: number) => Math.max(0, Math.min(WIDTH, x(raw)));
  return (
    <svg width={WIDTH} height={HEIGHT} role="img" aria-label={describe(form, row)} className="block">
      <line x1={END} x2={WIDTH - END} y1={MIDDLE} y2={MIDDLE} className="stroke-soft" />
      {form.kind === 'option' &&
        form.options.map(({ raw }) => (
          <line key={raw} x1={x(raw)} x2={x(raw)} y1={8} y2={12} className="stroke-soft" />
        ))}
      {row.default !== null && (
        <rect x={inRange(row.default) - 2.5} y={3} width={5} height={14} className="fill-sheet stroke-ink" />
      )}
      {isRaw(row.a ?? undefined) && (
        <path d={`M${inRange(row.a as number)} ${MIDDLE}l-4.5 -8h9z`} className="fill-ink" />
      )}
      {isRaw(row.b ?? undefined) && (
        <path d={`M${inRange(row.b as number)} ${MIDDLE}l-4.5 8h9z`} className="fill-plum" />
      )}
    </svg>
  );
}

function numberScale(minimum: number, maximum: number, usual: number | null) {
  const wide = minimum >= 0 && usual !== null && maximum > WIDE * Math.max(1, usual);
  const scale = wide ? scaleSqrt() : scaleLinear();
  return scale.domain([minimum, maximum]).range([END, WIDTH - END]);
}

function optionScale(form: Form & { kind: 'option' }) {
  const raws = form.options.map((option) => option.raw);
  return (raw: number) => {
    const at = raws.indexOf(raw);
    return raws.length < 2 ? WIDTH / 2 : END + ((WIDTH - 2 * END) * Math.max(0, at)) / (raws.length - 1);
  };
}

/** One square a bit, the highest on the left; a changed bit is drawn in B's colour. */
function BitSquares({ form, row }: { form: Form & { kind: 'bits' }; row: ComparisonRowView }) {
  const a = isRaw(row.a ?? undefined) ? (row.a as number) : 0;
  const b = isRaw(row.b ?? undefined) ? (row.b as number) : 0;
  const bits = [...form.bits].reverse();
  return (
    <svg width={WIDTH} height={HEIGHT} role="img" aria-label={row.change} className="block">
      {bits.map(({ bit }, index) => (
        <rect
          key={bit}
          x={END + index * 13}
          y={5}
          width={10}
          height={10}
          className={`${hasBit(b, bit) ? (hasBit(a, bit) ? 'fill-ink' : 'fill-plum') : 'fill-sheet'} ${hasBit(a, bit) === hasBit(b, bit) ? 'stroke-soft' : 'stroke-plum'}`}
        />
      ))}
    </svg>
  );
}

function describe(form: Form, row: ComparisonRowView): string {
  const show = (raw: number | null) => (raw === null ? 'none' : showRaw(form, raw));
  return `from ${show(row.minimum)} to ${show(row.maximum)}, default ${show(row.default)}`;
}
