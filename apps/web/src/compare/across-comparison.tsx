// What two sets of different models say, by meaning and in plain values: as they stand in each, and beside them. How a value was
// told opens with its row.

import type { AcrossSideView, AcrossView } from '@drive-keep/api';
import type { AcrossDifference, NotTold } from '@drive-keep/core/compare';
import { findParameter, PURPOSES, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import { sayHow, sayNumber, sayPlain, sayUntold, type Plain, type Term } from '@drive-keep/core/meanings';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useAcross, useDictionary } from '../api/queries.ts';
import { changed } from '../dry-run/changed-address.ts';
import { AddressField, AddressSwitch } from '../ui/address-inputs.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { showAge } from '../words/dates.ts';
import { PURPOSE_NAMES } from '@drive-keep/api';
import { showReading } from '../words/readings.ts';

type Row = AcrossView['rows'][number];

const GRID =
  'grid min-w-[62rem] grid-cols-[minmax(14rem,1.2fr)_minmax(13rem,1.1fr)_1.5rem_minmax(13rem,1.1fr)_minmax(15rem,1.3fr)] items-center gap-x-3';

/** A side is a position, or one of its sets. */
export interface AcrossSet {
  readonly tag: string;
  /** `baseline`, `backup:ID`; the newest backup where nothing is said. */
  readonly set?: string;
}

export function AcrossComparison({ a, b }: { a: AcrossSet; b: AcrossSet }) {
  const { data, error } = useAcross(a, b);
  return data ? <AcrossTable data={data} /> : <Unanswered error={error} what={`${a.tag} and ${b.tag}`} />;
}

export function AcrossTable({ data }: { data: AcrossView }) {
  const [params, setParams] = useSearchParams();
  const { data: left, error: noModel } = useDictionary(data.a.dictionary);
  const { data: right, error: noOther } = useDictionary(data.b.dictionary);
  const alone = params.get('alone') === 'yes';
  const find = params.get('find') ?? '';
  const change = (key: string, value: string) =>
    setParams((before) => changed(before, key, value), { replace: true });
  if (!left || !right) return <Unanswered error={noModel ?? noOther} what="both models" />;
  return (
    <>
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <AddressField
          value={find}
          change={(text) => change('find', text)}
          aria-label="Filter rows"
          placeholder="Filter: code, name"
          className="w-56"
        />
        <AddressSwitch
          label="rounding, and what only one of them has"
          on={alone}
          set={(on) => change('alone', on ? 'yes' : '')}
        />
        <span className="text-sm text-soft">
          {data.same} say the same{roundings(data)}
          {ownOnes(data)}
        </span>
      </div>
      <Table data={data} left={left} right={right} alone={alone} find={find} />
    </>
  );
}

function Table({
  data,
  left,
  right,
  alone,
  find,
}: {
  data: AcrossView;
  left: Dictionary;
  right: Dictionary;
  alone: boolean;
  find: string;
}) {
  const words = find
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  const lines = data.rows.flatMap((row) => {
    if (!alone && (isAlone(row) || row.difference.kind === 'rounding')) return [];
    const [one, other] = [parametersOf(left, row.a), parametersOf(right, row.b)];
    const text = [...one, ...other]
      .flatMap(({ code, name }) => [code, name])
      .concat(data.terms[row.meaning] ?? '')
      .join(' ')
      .toLowerCase();
    return words.every((word) => text.includes(word)) ? [{ row, one, other }] : [];
  });
  const groups = PURPOSES.map((purpose) => ({
    purpose,
    own: lines.filter(({ row }) => row.purpose === purpose),
  })).filter(({ own }) => own.length > 0);
  if (groups.length === 0) return <Nothing>Nothing differs among what both of them have.</Nothing>;
  return (
    <div role="table" aria-label="Two drives" className="mt-2 overflow-x-auto">
      <div role="row" className={`${GRID} border-b border-rule pb-1 text-sm`}>
        <span role="columnheader" className="text-soft">
          What it means
        </span>
        <span className="text-right">
          <Head side={data.a} letter="A" />
        </span>
        <span role="columnheader" aria-label="Difference" />
        <Head side={data.b} letter="B" />
        <span role="columnheader" className="text-soft">
          From A to B
        </span>
      </div>
      {groups.map(({ purpose, own }) => (
        <div key={purpose} role="rowgroup">
          <div role="row" className="pt-3 pb-1 font-semibold">
            <span role="rowheader">{PURPOSE_NAMES[purpose]}</span>
          </div>
          {own.map(({ row, one, other }) => (
            <Line key={row.meaning} row={row} one={one} other={other} terms={data.terms} />
          ))}
        </div>
      ))}
    </div>
  );
}

/** Rounding is told once, and its rows only when they are wanted. */
function roundings({ rows }: AcrossView): string {
  const count = rows.filter(({ difference }) => difference.kind === 'rounding').length;
  return count === 0 ? '' : `, ${count} within rounding`;
}

/** Parameters of which no dictionary says what they mean are left out, and said to be. */
function ownOnes({ withoutMeaning: { a, b } }: AcrossView): string {
  return a + b === 0 ? '' : `; ${a} of A and ${b} of B are the maker’s own and stand for themselves`;
}

const isAlone = ({ difference: { kind } }: Row): boolean => kind === 'only-a' || kind === 'only-b';

/** The parameters behind a side, in the order in which they count. */
const parametersOf = (dictionary: Dictionary, side: Row['a']): readonly Parameter[] =>
  (side?.holds ?? []).flatMap(({ code }) => findParameter(dictionary, code) ?? []);

function Head({ side, letter }: { side: AcrossSideView; letter: string }) {
  return (
    <span role="columnheader" className="min-w-0 truncate" title={side.title}>
      <b>{letter}</b>{' '}
      <Link to={`/positions/${side.tag}`} className="font-mono text-plum hover:underline">
        {side.tag}
      </Link>{' '}
      {side.model} <span className="text-soft">{side.at ? showAge(side.at) : ''}</span>
    </span>
  );
}

function Line({
  row,
  one,
  other,
  terms,
}: {
  row: Row;
  one: readonly Parameter[];
  other: readonly Parameter[];
  terms: Terms;
}) {
  const [open, setOpen] = useState(false);
  const { kind } = row.difference;
  const sure = kind !== 'cannot-be-told' && kind !== 'rounding';
  const { shape, name } = MARKS[kind];
  const term = terms[row.meaning] ?? row.meaning;
  return (
    <div data-meaning={row.meaning} className="border-b border-rule">
      <div role="row" className={`${GRID} min-h-8 py-0.5 ${sure && !isAlone(row) ? 'bg-look-wash/60' : ''}`}>
        <span role="cell" className="min-w-0">
          <button
            type="button"
            aria-expanded={open}
            className="flex w-full min-w-0 items-baseline gap-1 text-left hover:text-plum"
            onClick={() => setOpen(!open)}
            title={term}
          >
            <span aria-hidden="true" className="text-soft">
              {open ? '▾' : '▸'}
            </span>
            <span className="truncate">{term}</span>
          </button>
        </span>
        <Value side={row.a} parameters={one} terms={terms} right />
        <span role="cell" className="text-center" title={name}>
          <span role="img" aria-label={name}>
            {shape}
          </span>
        </span>
        <Value side={row.b} parameters={other} terms={terms} />
        <span role="cell" className={`text-sm ${sure ? '' : 'text-soft'}`}>
          {changeOf(row, terms)}
        </span>
      </div>
      {open && (
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 px-5 pt-0.5 pb-2 text-sm">
          <Told letter="A" side={row.a} parameters={one} terms={terms} />
          <Told letter="B" side={row.b} parameters={other} terms={terms} />
        </dl>
      )}
    </div>
  );
}

/** The plain value, with the codes from which it comes. */
function Value({
  side,
  parameters,
  terms,
  right = false,
}: {
  side: Row['a'];
  parameters: readonly Parameter[];
  terms: Terms;
  right?: boolean;
}) {
  if (!side)
    return (
      <span role="cell" className={`text-sm text-soft italic ${right ? 'text-right' : ''}`}>
        not on this model
      </span>
    );
  const term = termsIn(terms);
  const [first] = side.holds;
  const codes = (
    <span
      className="font-mono text-soft"
      title={parameters.map(({ code, name }) => `${code} ${name}`).join(', ')}
    >
      {first ? `${first.code}${side.holds.length > 1 ? ' …' : ''}` : 'fixed'}
    </span>
  );
  return (
    <span role="cell" className={`flex min-w-0 items-baseline gap-2 ${right ? 'justify-end' : ''}`}>
      {!right && codes}
      <span className={`truncate ${side.plain.kind === 'nothing' ? 'text-sm text-soft' : 'font-mono'}`}>
        {sayPlain(side.plain, term)}
      </span>
      {right && codes}
    </span>
  );
}

/** What stands in the unit, and how the plain value was told of it. */
function Told({
  letter,
  side,
  parameters,
  terms,
}: {
  letter: string;
  side: Row['a'];
  parameters: readonly Parameter[];
  terms: Terms;
}) {
  const how = side && sayHow(side.plain, termsIn(terms));
  const standing = parameters.map((parameter) => {
    const reading = side?.holds.find(({ code }) => code === parameter.code)?.reading ?? null;
    return `${parameter.code} ${parameter.name}: ${showReading(parameter, reading)}`;
  });
  return (
    <>
      <dt className="font-semibold">{letter}</dt>
      <dd>
        {side ? standing.join('; ') : 'not on this model'}
        {how ? (
          <span className="text-soft">
            {standing.length > 0 ? ' — ' : ''}
            {how}
          </span>
        ) : null}
      </dd>
    </>
  );
}

type Terms = AcrossView['terms'];
const termsIn =
  (terms: Terms): Term =>
  (what) =>
    terms[what] ?? what;

const MARKS: Readonly<Record<AcrossDifference['kind'], { readonly shape: string; readonly name: string }>> = {
  same: { shape: '', name: 'same' },
  rounding: { shape: '≈', name: 'rounding' },
  greater: { shape: '▲', name: 'greater' },
  less: { shape: '▼', name: 'less' },
  option: { shape: '◆', name: 'another option' },
  'another-kind': { shape: '◆', name: 'another kind of value' },
  'cannot-be-told': { shape: '?', name: 'cannot be told' },
  'only-a': { shape: '−', name: 'only A has it' },
  'only-b': { shape: '+', name: 'only B has it' },
  unreadable: { shape: '?', name: 'unreadable' },
};

function changeOf({ difference, a, b }: Row, terms: Terms): string {
  switch (difference.kind) {
    case 'greater':
    case 'less':
    case 'rounding': {
      const by = difference.kind === 'rounding' ? 'no more than rounding: ' : '';
      const at = difference.at === null ? '' : ` at ${sayNumber(difference.at * 100, 1)} % of the signal`;
      return `${by}${stepBetween(a?.plain, difference.by)}${at}`;
    }
    case 'cannot-be-told':
      return whyNot(difference.why, terms);
    case 'unreadable':
      return 'could not be read';
    case 'only-a':
      return 'only A has it';
    case 'only-b':
      return 'only B has it';
    case 'option':
      return 'another choice';
    case 'another-kind':
      return b?.plain.kind === 'choice' || a?.plain.kind === 'choice'
        ? 'off on one side'
        : 'another kind of value';
    case 'same':
      return 'same';
  }
}

/** By how much B is more; ramps as the time to the speed to which A counts. */
function stepBetween(plain: Plain | undefined, by: number): string {
  const sign = by > 0 ? '+' : '−';
  const size = Math.abs(by);
  const unit = plain?.kind === 'number' || plain?.kind === 'curve' ? plain.unit : '';
  if (unit !== 's/Hz') return `${sign}${round(size)}${unit === '' ? '' : ` ${unit}`}`;
  const to = plain?.kind === 'number' ? plain.how?.facts[0]?.value : undefined;
  return to === undefined
    ? `${sign}${round(size)} s for each Hz`
    : `${sign}${round(size * to)} s to ${round(to)} Hz`;
}

function whyNot(why: NotTold, terms: Terms): string {
  switch (why.code) {
    case 'untold':
      return `${why.side.toUpperCase()}: ${sayUntold(why.untold, termsIn(terms))}`;
    case 'beside':
      return `cannot be told: ${why.text}`;
    case 'maker-scale':
      return 'cannot be told: each maker has a scale of its own';
  }
}

/** Three digits that count: the values beside it have their own resolution. */
const round = (value: number): string => sayNumber(Number(value.toPrecision(3)), 0);
