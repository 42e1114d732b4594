import { asTyped, forPeople, parseDecimal, toNumber } from '@drive-keep/core/values';
import { useId } from 'react';

/** A number that somebody types, as the address holds it; nothing where it is empty, a fault where it is no number. */
export type TypedNumber = { readonly value: number | undefined; readonly fault: string };

const MOST_DIGITS = 12;

export function readTyped(text: string): TypedNumber {
  const trimmed = text.trim();
  if (trimmed === '') return { value: undefined, fault: '' };
  const read = parseDecimal(asTyped(trimmed).replace('−', '-'));
  if (read.ok) return { value: toNumber(read.value), fault: '' };
  return { value: undefined, fault: 'No number' };
}

/** As somebody would type it here: with the mark of the plant, without binary fractions. */
export const typedOf = (value: number | null | undefined): string =>
  value === undefined || value === null ? '' : forPeople(String(Number(value.toPrecision(6))));

/** To be read, not typed: with a true minus. */
export const shownOf = (value: number): string => typedOf(value).replace('-', '−');

/** A number with its unit. What comes from a position stands there until somebody types another one. */
export function NumberField({
  label,
  unit,
  value,
  change,
  fault = '',
  changed = false,
}: {
  label: string;
  unit: string;
  value: string;
  change: (text: string) => void;
  fault?: string;
  /** Typed, where another value came along. */
  changed?: boolean;
}) {
  const id = useId();
  return (
    <div className="flex flex-col gap-0.5">
      <label htmlFor={id} className="text-sm text-soft">
        {label}
        {changed && <span className="text-plum"> · typed</span>}
      </label>
      <span className="flex items-baseline gap-1">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          maxLength={MOST_DIGITS}
          value={value}
          aria-invalid={fault !== ''}
          onChange={({ target }) => change(target.value)}
          className={`h-9 w-24 rounded border bg-sheet px-2 text-right font-mono max-lg:h-12 ${fault ? 'border-stop' : changed ? 'border-plum' : 'border-rule'}`}
        />
        <span className="text-sm text-soft">{unit}</span>
      </span>
      {fault && (
        <span role="alert" className="text-sm text-stop">
          {fault}
        </span>
      )}
    </div>
  );
}
