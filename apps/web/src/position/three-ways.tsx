// Three ways: what the baseline wants, what was held before, what is held now; for every difference when it came about
// and whether it was there when the baseline was signed.

import type { ThreeWayView } from '@drive-keep/api';
import type { ThreeWay } from '@drive-keep/core/compare';
import { Unanswered } from '../ui/answer.tsx';
import { findParameter, PURPOSES, type Dictionary } from '@drive-keep/core/dictionary';
import { useDictionary, useThreeWays } from '../api/queries.ts';
import { showDate, showTime } from '../words/dates.ts';
import { PURPOSE_NAMES } from '@drive-keep/api';
import { showReading } from '../words/readings.ts';

const WAYS: Readonly<
  Record<ThreeWay, { readonly shape: string; readonly text: string; readonly look: boolean }>
> = {
  new: { shape: '◆', text: 'came since', look: true },
  moved: { shape: '◆', text: 'differed before, and has changed again', look: true },
  standing: { shape: '◇', text: 'differed before already', look: true },
  mended: { shape: '✓', text: 'differed before, is as signed again', look: false },
  same: { shape: '', text: 'same', look: false },
};

const GRID =
  'grid min-w-[70rem] grid-cols-[4rem_minmax(10rem,1.1fr)_minmax(8rem,1fr)_minmax(8rem,1fr)_minmax(8rem,1fr)_minmax(14rem,1.2fr)] gap-x-3';

export function ThreeWays({ tag, before, now }: { tag: string; before: string; now: string }) {
  const { data, error } = useThreeWays(tag, before, now);
  const { data: dictionary } = useDictionary(data?.dictionary);
  if (!data || !dictionary) return <Unanswered error={error} what="the three sets" />;
  const lines = data.rows.flatMap((row) => {
    const parameter = findParameter(dictionary, row.code);
    return parameter ? [{ row, parameter }] : [];
  });
  const groups = PURPOSES.map((purpose) => ({
    purpose,
    own: lines.filter(({ parameter }) => parameter.purpose === purpose),
  })).filter(({ own }) => own.length > 0);
  return (
    <div role="table" aria-label="Three ways" className="mt-2 overflow-x-auto">
      <div role="row" className={`${GRID} border-b border-rule pb-1 text-sm text-soft`}>
        <span role="columnheader">Code</span>
        <span role="columnheader">Parameter</span>
        <Side name="Baseline wants" side={data.baseline} />
        <Side name="Before" side={data.before} />
        <Side name="Now" side={data.now} />
        <span role="columnheader">What happened</span>
      </div>
      {groups.length === 0 && <p className="py-6 text-soft">All three hold the same.</p>}
      {groups.map(({ purpose, own }) => (
        <div key={purpose} role="rowgroup">
          <div role="row" className="pt-3 pb-1 font-semibold">
            <span role="rowheader">{PURPOSE_NAMES[purpose]}</span>
          </div>
          {own.map(({ row, parameter }) => (
            <Row key={row.code} row={row} parameter={parameter} />
          ))}
        </div>
      ))}
    </div>
  );
}

function Side({ name, side }: { name: string; side: ThreeWayView['baseline'] }) {
  return (
    <span role="columnheader" title={side.title}>
      {name} {side.at && <span className="block text-xs">{showTime(side.at)}</span>}
    </span>
  );
}

function Row({
  row,
  parameter,
}: {
  row: ThreeWayView['rows'][number];
  parameter: Dictionary['parameters'][number];
}) {
  const way = WAYS[row.way];
  const value = (reading: (typeof row)['now']) => (
    <span role="cell" className="truncate font-mono" title={showReading(parameter, reading)}>
      {showReading(parameter, reading)}
    </span>
  );
  return (
    <div
      role="row"
      data-code={row.code}
      className={`${GRID} items-center border-b border-rule py-1 ${way.look ? 'bg-look-wash/60' : ''}`}
    >
      <span role="cell" className="font-mono">
        {row.code}
      </span>
      <span role="cell" className="truncate" title={parameter.name}>
        {parameter.name}
      </span>
      {value(row.baseline)}
      {value(row.before)}
      {value(row.now)}
      <span role="cell" className="text-sm">
        <span aria-hidden="true">{way.shape}</span> {way.text}
        {row.origin && (
          <span className="block text-xs text-soft">
            since {showDate(row.origin.since)}, {row.origin.by}: {row.origin.reason}
            {row.origin.atSigning && '; it was there at the signing'}
          </span>
        )}
      </span>
    </div>
  );
}
