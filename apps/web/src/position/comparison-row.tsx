import type { ComparisonRowView, DecisionView, DifferenceOrigin } from '@drive-keep/api';
import type { Dictionary, Parameter } from '@drive-keep/core/dictionary';
import { showDate } from '../words/dates.ts';
import { describeDecision } from './decision-words.ts';
import { DifferenceMark } from './difference-mark.tsx';
import { RangeStrip } from './range-strip.tsx';
import { RowDetail } from './row-detail.tsx';
import { ValueText } from './value-text.tsx';

export function ComparisonRow({
  tag,
  dictionary,
  parameter,
  row,
  open,
  toggleOpen,
  decision,
  origin,
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
  /** Nothing where nothing is decided. */
  chosen: boolean | null;
  toggleChosen: () => void;
}) {
  const differs = row.difference.kind !== 'same' && row.difference.kind !== 'within-tolerance';
  const ground = chosen ? 'bg-plum-wash' : differs && !decision ? 'bg-look-wash/60' : '';
  return (
    <>
      <div
        role="row"
        tabIndex={0}
        data-code={row.code}
        aria-expanded={open}
        onClick={toggleOpen}
        className={`comparison-grid min-h-8 cursor-pointer items-center border-b border-rule hover:bg-plum-wash ${ground}`}
      >
        <span
          role="gridcell"
          onClick={(event) => event.stopPropagation()}
          className="grid place-items-center"
        >
          {chosen !== null && differs && (
            <input
              type="checkbox"
              tabIndex={-1}
              checked={chosen}
              onChange={toggleChosen}
              aria-label={`Choose ${row.code} ${parameter.name}`}
              className="size-4.5 accent-plum"
            />
          )}
        </span>
        <span role="gridcell" className="font-mono">
          {row.code}
        </span>
        <span role="gridcell" className="truncate" title={parameter.name}>
          {parameter.name}
        </span>
        <span role="gridcell" className="min-w-0">
          <ValueText form={parameter.form} reading={row.a} />
        </span>
        <span role="gridcell" className="min-w-0">
          <ValueText form={parameter.form} reading={row.b} />
        </span>
        <span role="gridcell">
          <RangeStrip form={parameter.form} row={row} />
        </span>
        <ChangeCell row={row} differs={differs} decision={decision} origin={origin} />
      </div>
      {open && (
        <div role="row">
          <div role="gridcell">
            <RowDetail tag={tag} dictionary={dictionary} parameter={parameter} row={row} />
          </div>
        </div>
      )}
    </>
  );
}

function ChangeCell({
  row,
  differs,
  decision,
  origin,
}: {
  row: ComparisonRowView;
  differs: boolean;
  decision: DecisionView | undefined;
  origin: DifferenceOrigin | undefined;
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
      {decision && (
        <span className="block truncate text-xs text-soft" title={describeDecision(decision)}>
          {describeDecision(decision)}
        </span>
      )}
    </span>
  );
}
