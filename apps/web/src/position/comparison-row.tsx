import type { ComparisonRowView, DecisionView, DifferenceOrigin } from '@drive-keep/api';
import { faultIn, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import type { Reading } from '@drive-keep/core/values';
import { showDate } from '../words/dates.ts';
import { describeDecision } from './decision-words.ts';
import { DifferenceMark } from './difference-mark.tsx';
import { RangeStrip } from './range-strip.tsx';
import { RowDetail } from './row-detail.tsx';
import { ValueText } from './value-text.tsx';
import { Link } from 'react-router';
import type { Waiting } from './waiting.ts';

export function ComparisonRow({
  tag,
  dictionary,
  parameter,
  row,
  open,
  toggleOpen,
  decision,
  origin,
  does,
  waits,
  chosen,
  toggleChosen,
}: {
  tag: string;
  dictionary: Dictionary;
  parameter: Parameter;
  row: ComparisonRowView;
  open: boolean;
  toggleOpen: () => void;
  decision: DecisionView | undefined;
  origin: DifferenceOrigin | undefined;
  /** What the difference does with the contacts; nothing while that is not known. */
  does: string | undefined;
  /** What it was decided to do with it, and is not done yet. */
  waits: Waiting | undefined;
  /** Nothing where nothing is decided. */
  chosen: boolean | null;
  toggleChosen: () => void;
}) {
  const differs = isDifference(row);
  const ground = chosen ? 'bg-plum-wash' : differs && !decision && !waits ? 'bg-look-wash/60' : '';
  return (
    <>
      {/* The keys of all rows are the table's. */}
      {/* eslint-disable-next-line jsx-a11y/click-events-have-key-events */}
      <div
        role="row"
        tabIndex={0}
        data-code={row.code}
        aria-expanded={open}
        onClick={({ target }) => !(target as Element).closest('[data-choose]') && toggleOpen()}
        className={`comparison-grid min-h-8 cursor-pointer items-center border-b border-rule hover:bg-plum-wash ${ground}`}
      >
        <span role="gridcell" data-choose className="grid place-items-center">
          {chosen !== null && differs && (
            <Chosen name={`${row.code} ${parameter.name}`} chosen={chosen} toggle={toggleChosen} />
          )}
        </span>
        <span role="gridcell" className="font-mono">
          {row.code}
        </span>
        <span role="gridcell" className="truncate" title={parameter.name}>
          {parameter.name}
        </span>
        <SideCell className="max-md:before:content-['A']" {...{ dictionary, parameter }} reading={row.a} />
        <SideCell
          className="max-md:before:text-plum max-md:before:content-['B']"
          {...{ dictionary, parameter }}
          reading={row.b}
        />
        <span role="gridcell">
          <RangeStrip form={parameter.form} row={row} />
        </span>
        <ChangeCell
          row={row}
          differs={differs}
          decision={decision}
          origin={origin}
          does={does}
          waits={waits}
        />
      </div>
      {open && (
        <div role="row">
          <div role="gridcell">
            <RowDetail tag={tag} dictionary={dictionary} parameter={parameter} row={row} does={does} />
          </div>
        </div>
      )}
    </>
  );
}

const isDifference = ({ difference: { kind } }: ComparisonRowView): boolean =>
  kind !== 'same' && kind !== 'within-tolerance';

const Chosen = ({ name, chosen, toggle }: { name: string; chosen: boolean; toggle: () => void }) => (
  <input
    type="checkbox"
    tabIndex={-1}
    checked={chosen}
    onChange={toggle}
    aria-label={`Choose ${name}`}
    className="size-4.5 accent-plum"
  />
);

function ChangeCell({
  row,
  differs,
  decision,
  origin,
  does,
  waits,
}: {
  row: ComparisonRowView;
  differs: boolean;
  decision: DecisionView | undefined;
  origin: DifferenceOrigin | undefined;
  does: string | undefined;
  waits: Waiting | undefined;
}) {
  return (
    <span role="gridcell" className="truncate py-0.5" title={row.change}>
      {differs && <DifferenceMark kind={row.difference.kind} />}{' '}
      {differs ? row.change : <span className="text-soft">same</span>}
      {differs && origin && (
        <span className="ml-2 text-xs text-soft" title={`${origin.by}: ${origin.reason}`}>
          since {showDate(origin.since)}
          {origin.atSigning && ', at the signing already'}
        </span>
      )}
      {differs && does !== undefined && (
        <span className="block truncate text-xs" title={does}>
          {does}
        </span>
      )}
      {differs && waits && (
        <Link
          to={waits.to}
          className="block truncate text-xs text-plum underline"
          onClick={(event) => event.stopPropagation()}
        >
          waits: {waits.text}
        </Link>
      )}
      {decision && (
        <span className="block truncate text-xs text-soft" title={describeDecision(decision)}>
          {describeDecision(decision)}
        </span>
      )}
    </span>
  );
}

/** On a phone no heading says which side it is: a letter before the value does. */
const SideCell = ({
  className,
  dictionary,
  parameter,
  reading,
}: {
  className: string;
  dictionary: Dictionary;
  parameter: Parameter;
  reading: Reading | null;
}) => (
  <span
    role="gridcell"
    className={`min-w-0 max-md:flex max-md:items-baseline max-md:gap-2 max-md:before:text-xs max-md:before:font-bold max-md:[&>*]:min-w-0 ${className}`}
  >
    {/* The number of a fault says nothing to whoever has not the manual by heart. */}
    <ValueText
      form={parameter.form}
      reading={reading}
      named={typeof reading === 'number' ? faultIn(dictionary, parameter, reading)?.name : undefined}
    />
  </span>
);
