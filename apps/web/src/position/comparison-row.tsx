import type { ComparisonRowView } from '@drive-keep/api';
import type { Dictionary, Parameter } from '@drive-keep/core/dictionary';
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
  marked,
  toggleMark,
}: {
  tag: string;
  dictionary: Dictionary;
  parameter: Parameter;
  row: ComparisonRowView;
  open: boolean;
  toggleOpen: () => void;
  /** Nothing where the row cannot be put back. */
  marked: boolean | null;
  toggleMark: () => void;
}) {
  const differs = row.difference.kind !== 'same' && row.difference.kind !== 'within-tolerance';
  const markable = marked !== null && differs && typeof row.a === 'number' && parameter.access !== 'read';
  return (
    <>
      <div
        role="row"
        tabIndex={0}
        data-code={row.code}
        aria-expanded={open}
        onClick={toggleOpen}
        className={`comparison-grid min-h-8 cursor-pointer items-center border-b border-rule hover:bg-plum-wash ${differs && !marked ? 'bg-look-wash/60' : ''} ${marked ? 'bg-plum-wash' : ''}`}
      >
        <span
          role="gridcell"
          onClick={(event) => event.stopPropagation()}
          className="grid place-items-center"
        >
          {markable && (
            <input
              type="checkbox"
              tabIndex={-1}
              checked={marked}
              onChange={toggleMark}
              aria-label={`Put ${row.code} ${parameter.name} back to A`}
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
        <span role="gridcell" className="truncate" title={row.change}>
          {differs && <DifferenceMark kind={row.difference.kind} />}{' '}
          {differs ? row.change : <span className="text-soft">same</span>}
        </span>
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
