import { useId, type InputHTMLAttributes, type Ref } from 'react';

/** A labelled text field. */
export function Field({
  label,
  ref,
  ...rest
}: InputHTMLAttributes<HTMLInputElement> & { label: string; ref?: Ref<HTMLInputElement> }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-sm font-medium">
        {label}
      </label>
      <input id={id} ref={ref} className="h-11 w-full rounded border border-rule bg-sheet px-3" {...rest} />
    </div>
  );
}
