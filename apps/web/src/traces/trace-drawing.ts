// The marks of a trace on a canvas, or as an SVG file: the same lines, axes and names.

import { BOTTOM, LEFT, RIGHT, type LineKind, type Marks } from './trace-marks.ts';

export interface Ink {
  readonly ink: string;
  readonly soft: string;
  readonly rule: string;
  readonly plum: string;
  readonly look: string;
  readonly sheet: string;
}

interface Stroke {
  readonly colour: keyof Ink;
  readonly width: number;
  /** So that lines are told apart without their colours. */
  readonly dash: readonly number[];
}

export const STROKES: Readonly<Record<LineKind, Stroke>> = {
  first: { colour: 'ink', width: 1.8, dash: [] },
  second: { colour: 'plum', width: 1.8, dash: [7, 3] },
  third: { colour: 'look', width: 1.8, dash: [2, 2] },
  other: { colour: 'plum', width: 1.2, dash: [] },
  'other-second': { colour: 'plum', width: 1.2, dash: [7, 3] },
  reckoned: { colour: 'soft', width: 1.2, dash: [3, 4] },
};

export interface Drawn {
  readonly marks: Marks;
  readonly ink: Ink;
  /** In seconds. */
  readonly markers: readonly { readonly at: number; readonly text: string }[];
}

const FONT = "12px 'Atkinson Hyperlegible Mono Variable', monospace";
const X_TICKS = 8;
const Y_TICKS = 4;

export function drawOn(canvas: HTMLCanvasElement, { marks, ink, markers }: Drawn): void {
  const ratio = window.devicePixelRatio;
  const { width, height, x, lanes } = marks;
  if (canvas.width !== width * ratio) canvas.width = width * ratio;
  if (canvas.height !== height * ratio) canvas.height = height * ratio;
  const to = canvas.getContext('2d');
  if (!to) return;
  to.setTransform(ratio, 0, 0, ratio, 0, 0);
  to.fillStyle = ink.sheet;
  to.fillRect(0, 0, width, height);
  to.font = FONT;
  to.textBaseline = 'middle';
  for (const tick of x.ticks(X_TICKS)) {
    line(to, ink.rule, x(tick), lanes[0]?.top ?? 0, x(tick), height - BOTTOM);
    to.fillStyle = ink.soft;
    to.textAlign = 'center';
    to.fillText(`${tick} s`, x(tick), height - BOTTOM / 2);
  }
  for (const { top, height: tall, unit, y, lines } of lanes) {
    for (const tick of y.ticks(Y_TICKS)) {
      line(to, ink.rule, LEFT, y(tick), width - RIGHT, y(tick));
      to.fillStyle = ink.soft;
      to.textAlign = 'right';
      to.fillText(String(tick), LEFT - 6, y(tick));
    }
    to.textAlign = 'left';
    to.fillStyle = ink.ink;
    to.fillText(unit, 4, top - 8);
    to.save();
    to.beginPath();
    to.rect(LEFT, top - 2, width - LEFT - RIGHT, tall + 4);
    to.clip();
    for (const { kind, path } of lines) {
      const stroke = STROKES[kind];
      to.strokeStyle = ink[stroke.colour];
      to.lineWidth = stroke.width;
      to.setLineDash([...stroke.dash]);
      to.stroke(new Path2D(path));
    }
    to.restore();
    to.setLineDash([]);
  }
  for (const { place, row, text } of labelled(markers, marks)) {
    line(to, ink.look, place, 6, place, height - BOTTOM, [2, 3]);
    to.fillStyle = ink.ink;
    const atEnd = place > width - LABEL;
    to.textAlign = atEnd ? 'right' : 'left';
    to.fillText(text.length > 26 ? `${text.slice(0, 25)}…` : text, place + (atEnd ? -4 : 4), 8 + row * ROW);
  }
}

/** Room for a marker's text, and the distance of its two rows: neighbours do not stand on each other. */
const LABEL = 190;
const ROW = 14;

function labelled(markers: Drawn['markers'], { x, width }: Marks) {
  const ends = [-Infinity, -Infinity];
  return markers.flatMap(({ at, text }) => {
    const place = x(at);
    if (place < LEFT || place > width - RIGHT) return [];
    const row = (ends[0] ?? 0) <= place ? 0 : 1;
    ends[row] = place + Math.min(LABEL, text.length * 7.5 + 8);
    return [{ place, row, text }];
  });
}

function line(
  to: CanvasRenderingContext2D,
  colour: string,
  ...[x1, y1, x2, y2, dash = []]: [number, number, number, number, number[]?]
): void {
  to.strokeStyle = colour;
  to.lineWidth = 1;
  to.setLineDash(dash);
  to.beginPath();
  to.moveTo(x1, y1);
  to.lineTo(x2, y2);
  to.stroke();
  to.setLineDash([]);
}

const escaped = (text: string): string => text.replace(/[<>&"]/g, (each) => `&#${each.charCodeAt(0)};`);

/** A drawing by itself, with its title and the names of its lines. */
export function svgOf({ marks, ink, markers }: Drawn, title: string): string {
  const { width, height, x, lanes } = marks;
  const text = (at: number, y: number, anchor: string, what: string) =>
    `<text x="${at}" y="${y}" text-anchor="${anchor}" font-family="monospace" font-size="12" fill="${ink.ink}">${escaped(what)}</text>`;
  const rule = (x1: number, y1: number, x2: number, y2: number, colour: string) =>
    `<line x1="${x1}" y1="${y1}" x2="${x2}" y2="${y2}" stroke="${colour}"/>`;
  const names = lanes.flatMap(({ unit, lines }) => lines.map((each) => ({ ...each, unit })));
  const legend = names.map(({ kind, name, unit }, at) => {
    const { colour, width: wide, dash } = STROKES[kind];
    const y = height + 18 + at * 18;
    return `<line x1="${LEFT}" y1="${y - 4}" x2="${LEFT + 36}" y2="${y - 4}" stroke="${ink[colour]}" stroke-width="${wide}" stroke-dasharray="${dash.join(' ')}"/>${text(LEFT + 44, y, 'start', `${name}${unit === '' ? '' : `, ${unit}`}`)}`;
  });
  const body = [
    `<rect width="100%" height="100%" fill="${ink.sheet}"/>`,
    ...x
      .ticks(X_TICKS)
      .flatMap((tick) => [
        rule(x(tick), lanes[0]?.top ?? 0, x(tick), height - BOTTOM, ink.rule),
        text(x(tick), height - BOTTOM / 2 + 4, 'middle', `${tick} s`),
      ]),
    ...lanes.flatMap(({ top, height: tall, unit, y, lines }, at) => [
      ...y
        .ticks(Y_TICKS)
        .flatMap((tick) => [
          rule(LEFT, y(tick), width - RIGHT, y(tick), ink.rule),
          text(LEFT - 6, y(tick) + 4, 'end', String(tick)),
        ]),
      text(4, top - 4, 'start', unit),
      `<clipPath id="lane${at}"><rect x="${LEFT}" y="${top - 2}" width="${width - LEFT - RIGHT}" height="${tall + 4}"/></clipPath>`,
      ...lines.map(({ kind, path }) => {
        const { colour, width: wide, dash } = STROKES[kind];
        return `<path clip-path="url(#lane${at})" d="${path}" fill="none" stroke="${ink[colour]}" stroke-width="${wide}" stroke-dasharray="${dash.join(' ')}"/>`;
      }),
    ]),
    ...labelled(markers, marks).flatMap(({ place, row, text: what }) => [
      rule(place, 6, place, height - BOTTOM, ink.look),
      text(place + 4, 12 + row * ROW, 'start', what),
    ]),
    ...legend,
  ];
  const whole = height + 24 + legend.length * 18;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${whole}" viewBox="0 0 ${width} ${whole}"><title>${escaped(title)}</title>${body.join('')}</svg>`;
}

/** The colours of the theme that is on. */
export function inkOf(element: Element): Ink {
  const style = getComputedStyle(element);
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim() || '#000';
  return {
    ink: of('ink'),
    soft: of('soft'),
    rule: of('rule'),
    plum: of('plum'),
    look: of('look'),
    sheet: of('sheet'),
  };
}
