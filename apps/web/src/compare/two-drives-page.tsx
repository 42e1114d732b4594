// Two drives side by side by what their parameters mean, also where they are of different makers. What the two count in
// different ways is shown with both values and never called equal or different.

import type { AcrossSideView, AcrossView } from '@drive-keep/api';
import type { AcrossDifference } from '@drive-keep/core/compare';
import { findParameter, PURPOSES, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import { Link, useSearchParams } from 'react-router';
import { useAcross, useDictionary } from '../api/queries.ts';
import { AddressField, AddressSwitch } from '../ui/address-inputs.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Page } from '../ui/page.tsx';
import { showAge } from '../words/dates.ts';
import { PURPOSE_NAMES } from '@drive-keep/api';
import { showReading } from '../words/readings.ts';
import { CompareHead } from './compare-head.tsx';
import { PositionField } from '../ui/position-field.tsx';

type Row = AcrossView['rows'][number];

const GRID =
  'grid min-w-[66rem] grid-cols-[minmax(13rem,1.2fr)_minmax(9rem,1fr)_1.5rem_minmax(9rem,1fr)_minmax(13rem,1.2fr)_minmax(11rem,1fr)] items-center gap-x-3';

export function TwoDrivesPage() {
  const [params, setParams] = useSearchParams();
  const [a, b] = [params.get('a') ?? '', params.get('b') ?? ''];
  const { data, error } = useAcross(a, b);
  const { data: left } = useDictionary(data?.a.dictionary);
  const { data: right } = useDictionary(data?.b.dictionary);
  const alone = params.get('alone') === 'yes';
  const find = params.get('find') ?? '';
  const change = (changes: Record<string, string>) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [key, value] of Object.entries(changes)) {
          if (value === '') next.delete(key);
          else next.set(key, value);
        }
        return next;
      },
      { replace: true },
    );
  return (
    <Page title="Compare two drives">
      <CompareHead>
        <PositionField label="A" tag={a} choose={(tag) => change({ a: tag })} />
        <PositionField label="B" tag={b} choose={(tag) => change({ b: tag })} />
      </CompareHead>
      {a !== '' && b !== '' && (!data || !left || !right) && (
        <Unanswered error={error} what={`${a} and ${b}`} />
      )}
      {(a === '' || b === '') && (
        <p className="mt-6 text-soft">
          Choose two drives. They may be of different models: values are compared by what they mean, in
          seconds, hertz, amperes and kilowatts.
        </p>
      )}
      {data && left && right && (
        <>
          <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
            <AddressField
              value={find}
              change={(text) => change({ find: text })}
              aria-label="Filter rows"
              placeholder="Filter: code, name"
              className="w-56"
            />
            <AddressSwitch
              label="what only one of them has"
              on={alone}
              set={(on) => change({ alone: on ? 'yes' : '' })}
            />
            <span className="text-sm text-soft">
              {data.same} mean the same{ownOnes(data)}
            </span>
          </div>
          <Table data={data} left={left} right={right} alone={alone} find={find} />
        </>
      )}
    </Page>
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
    const one = row.a && findParameter(left, row.a.code);
    const other = row.b && findParameter(right, row.b.code);
    const parameter = one ?? other;
    if (!parameter || (!alone && isAlone(row))) return [];
    const text = [one, other]
      .flatMap((each) => (each ? [each.code, each.name] : []))
      .join(' ')
      .toLowerCase();
    return words.every((word) => text.includes(word)) ? [{ row, one, other, parameter }] : [];
  });
  const groups = PURPOSES.map((purpose) => ({
    purpose,
    own: lines.filter(({ parameter }) => parameter.purpose === purpose),
  })).filter(({ own }) => own.length > 0);
  if (groups.length === 0) return <Nothing>Nothing differs among what both of them have.</Nothing>;
  return (
    <div role="table" aria-label="Two drives" className="mt-2 overflow-x-auto">
      <div role="row" className={`${GRID} border-b border-rule pb-1 text-sm`}>
        <Head side={data.a} letter="A" />
        <span role="columnheader" className="text-right text-soft">
          A holds
        </span>
        <span role="columnheader" aria-label="Difference" />
        <span role="columnheader" className="text-soft">
          B holds
        </span>
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
            <Line
              key={`${row.meaning} ${row.a?.code ?? ''} ${row.b?.code ?? ''}`}
              row={row}
              one={one}
              other={other}
            />
          ))}
        </div>
      ))}
    </div>
  );
}

/** Parameters of which no dictionary says what they mean are left out, and said to be. */
function ownOnes({ withoutMeaning: { a, b } }: AcrossView): string {
  return a + b === 0 ? '' : `; ${a} of A and ${b} of B are the maker’s own and stand for themselves`;
}

const isAlone = ({ difference: { kind } }: Row): boolean => kind === 'only-a' || kind === 'only-b';

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
}: {
  row: Row;
  one: Parameter | null | undefined;
  other: Parameter | null | undefined;
}) {
  const { kind } = row.difference;
  const sure = kind !== 'counts-otherwise' && kind !== 'other-words';
  const { shape, name } = MARKS[kind];
  return (
    <div
      role="row"
      data-meaning={row.meaning}
      className={`${GRID} min-h-8 border-b border-rule py-0.5 ${sure && !isAlone(row) ? 'bg-look-wash/60' : ''}`}
    >
      <Name parameter={one} />
      <span role="cell" className="truncate text-right font-mono">
        {one ? showReading(one, row.a?.reading ?? null) : ''}
      </span>
      <span role="cell" className="text-center" title={name}>
        <span role="img" aria-label={name}>
          {shape}
        </span>
      </span>
      <span role="cell" className="truncate font-mono">
        {other ? showReading(other, row.b?.reading ?? null) : ''}
      </span>
      <Name parameter={other} />
      <span role="cell" className={`text-sm ${sure ? '' : 'text-soft'}`}>
        {changeOf(row, one)}
      </span>
    </div>
  );
}

function Name({ parameter }: { parameter: Parameter | null | undefined }) {
  if (!parameter)
    return (
      <span role="cell" className="text-soft italic">
        not on this model
      </span>
    );
  return (
    <span role="cell" className="truncate" title={parameter.name}>
      <span className="font-mono">{parameter.code}</span> {parameter.name}
    </span>
  );
}

const MARKS: Readonly<Record<AcrossDifference['kind'], { readonly shape: string; readonly name: string }>> = {
  same: { shape: '', name: 'same' },
  greater: { shape: '▲', name: 'greater' },
  less: { shape: '▼', name: 'less' },
  option: { shape: '◆', name: 'another option' },
  'other-words': { shape: '≈', name: 'other words' },
  'counts-otherwise': { shape: '≈', name: 'counts otherwise' },
  'only-a': { shape: '−', name: 'only A has it' },
  'only-b': { shape: '+', name: 'only B has it' },
  unreadable: { shape: '?', name: 'unreadable' },
};

function changeOf({ difference, countsTo }: Row, one: Parameter | null | undefined): string {
  const reference = countsTo ? `; A counts to ${round(countsTo.a)} Hz, B to ${round(countsTo.b)} Hz` : '';
  switch (difference.kind) {
    case 'greater':
    case 'less': {
      const unit = one?.form.kind === 'number' ? ` ${one.form.unit}` : '';
      const sign = difference.by > 0 ? '+' : '−';
      return `${sign}${round(Math.abs(difference.by))}${unit}${reference}`;
    }
    case 'counts-otherwise':
      return 'counted in another way: compare by hand';
    case 'other-words':
      return 'other words: may mean the same';
    case 'unreadable':
      return 'could not be read';
    case 'only-a':
      return 'only A has it';
    case 'only-b':
      return 'only B has it';
    case 'option':
      return 'another choice';
    case 'same':
      return `same${reference}`;
  }
}

/** Three digits that count: the values beside it have their own resolution. */
const round = (value: number): string => String(Number(value.toPrecision(3)));
