import { useId, type Ref, type SelectHTMLAttributes } from 'react';

export interface Choosable {
  readonly id: string;
  readonly name: string;
}

/**
 * A labelled list to choose one from; beside its label, or below it in a form. A value that is not among the choices, because
 * they are still asked for or because it is gone, stands there itself: the list never shows another one in its place.
 */
export function Choice({
  label,
  options,
  below = false,
  hidden = false,
  wide = false,
  ref,
  ...rest
}: SelectHTMLAttributes<HTMLSelectElement> & {
  label: string;
  options: readonly Choosable[];
  below?: boolean;
  /** The label is for screen readers alone: the options say it themselves. */
  hidden?: boolean;
  /** For names that are long. */
  wide?: boolean;
  ref?: Ref<HTMLSelectElement>;
}) {
  const id = useId();
  const { value } = rest;
  const known = typeof value !== 'string' || options.some((option) => option.id === value);
  return (
    <div className={below ? '' : 'flex items-center gap-2'}>
      <label
        htmlFor={id}
        className={hidden ? 'sr-only' : below ? 'mb-1 block text-sm font-medium' : 'text-sm'}
      >
        {label}
      </label>
      <select
        id={id}
        ref={ref}
        className={`rounded border border-rule bg-sheet px-2 ${below ? 'h-11 w-full' : `h-9 ${wide ? 'max-w-96' : 'max-w-60'} text-sm max-lg:h-12`}`}
        {...rest}
      >
        {!known && <option value={value}>{value === '' ? '…' : value}</option>}
        {options.map(({ id: value, name }) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}
