// A skip band by its middle and a width that all bands of the model share: from and to = middle ∓ width/2.

import { inBaseUnit, type Meaning, meaningOf } from '../../values/index.ts';
import { nothing, tidy, type Plain, type PlainNumber } from '../plain.ts';
import { asItIs, scaleOf } from './scale.ts';
import {
  codesOf,
  impossible,
  nearestOf,
  untold,
  type Conversion,
  type Place,
  type WriteAt,
} from './conversion.ts';

const WIDTH = 'skip.width';
const isBegin = (meaning: Meaning): boolean => meaning.endsWith('.from');

/** The width in the plain unit of the band; `off` where it switches the bands off. */
function widthOf(at: Place): Plain {
  const width = at.set.part(meaningOf(WIDTH));
  if (!width.ok) return nothing(width.fault, [at.parameter.code, ...codesOf(at, WIDTH)]);
  const { parameter, value } = width.value;
  const codes = [parameter.code];
  if (parameter.named.some(({ raw }) => raw === at.set.readings.get(parameter.code)))
    return { kind: 'choice', option: 'off', codes, how: null };
  return asItIs.read({ ...at, parameter, own: value });
}

export const middleAndWidth: Conversion = {
  read(at) {
    const [middle, width] = [asItIs.read(at), widthOf(at)];
    if (middle.kind !== 'number') return middle;
    if (width.kind === 'choice') return { ...width, codes: [at.parameter.code, ...width.codes] };
    if (width.kind !== 'number') return width;
    const half = (isBegin(at.meaning) ? -1 : 1) * (width.value / 2);
    const fact = { what: WIDTH, code: width.codes[0] ?? null, value: width.value, unit: width.unit };
    return {
      ...middle,
      value: tidy(middle.value + half),
      step: tidy(middle.step + width.step / 2),
      codes: [...middle.codes, ...width.codes],
      how: {
        conversion: 'middle-and-width',
        own: { value: at.own, unit: at.parameter.form.kind === 'number' ? at.parameter.form.unit : '' },
        facts: [...(middle.how?.facts ?? []), fact],
      },
    };
  },
  write(at) {
    const width = at.set.stated(meaningOf(WIDTH));
    if (!width) return impossible('no-such-thing');
    const band = bandOf(at, at.meaning.replace(/\.(from|to)$/, ''));
    if (!band) return switchedOff(at, width);
    if (!oneWidth(at, band)) return impossible('one-width');
    const scale = scaleOf(at);
    if (!scale.ok) return untold(scale.fault);
    const { factor } = scale.value;
    return nearestOf(at, [
      [width, (band.to - band.from) / factor],
      [at.parameter, (band.to + band.from) / 2 / factor],
    ]);
  },
};

/** A band by its own two edges; equal edges leave no band. */
export const edges: Conversion = {
  read(at) {
    const edge = asItIs.read(at);
    const name = otherEdge(at.meaning);
    const other = at.set.part(meaningOf(name));
    if (edge.kind !== 'number') return edge;
    const codes = [...edge.codes, ...codesOf(at, name)];
    if (!other.ok) return nothing(other.fault, codes);
    return other.value.value === at.own
      ? { kind: 'choice', option: 'off', codes, how: null }
      : { ...edge, codes };
  },
  write(at) {
    const other = at.set.part(meaningOf(otherEdge(at.meaning)));
    if (at.wanted.kind !== 'choice') return asItIs.write(at);
    return other.ok ? nearestOf(at, [[at.parameter, other.value.value]]) : untold(other.fault);
  },
};

const otherEdge = (meaning: Meaning): string =>
  isBegin(meaning) ? meaning.replace(/from$/, 'to') : meaning.replace(/to$/, 'from');

interface Band {
  readonly from: number;
  readonly to: number;
}

const numberOf = (plain: Plain | undefined): PlainNumber | undefined =>
  plain?.kind === 'number' ? plain : undefined;

function bandOf({ others }: WriteAt, name: string): Band | undefined {
  const [from, to] = [
    numberOf(others.get(meaningOf(`${name}.from`))),
    numberOf(others.get(meaningOf(`${name}.to`))),
  ];
  return from && to ? { from: from.value, to: to.value } : undefined;
}

/** All bands that are wanted have the width of this one. */
function oneWidth(at: WriteAt, band: Band): boolean {
  const names = [...at.others.keys()].filter((each) => /^skip\.\d+\.from$/.test(each));
  const bands = names.flatMap((name) => bandOf(at, name.replace(/\.from$/, '')) ?? []);
  const width = band.to - band.from;
  return bands.every(({ from, to }) => Math.abs(to - from - width) < (inBaseUnit(1, 'ms') ?? 0));
}

/** One band alone can be switched off where its middle has a value for it. */
function switchedOff(at: WriteAt, width: Place['parameter']): ReturnType<Conversion['write']> {
  if (at.wanted.kind !== 'choice') return impossible('other-kind');
  const own = at.parameter.named.find(({ meaning }) => meaning === 'off');
  if (own) return { writes: [{ parameter: at.parameter, raw: own.raw, limited: false }] };
  const all = width.named.find(({ meaning }) => meaning === 'off');
  const others = [...at.others].some(([name, plain]) => /^skip\./.test(name) && plain.kind === 'number');
  if (!all || others) return impossible('one-width');
  return { writes: [{ parameter: width, raw: all.raw, limited: false }] };
}
