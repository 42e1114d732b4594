// Inputs whose value lives in the address bar. The address follows a moment later than the fingers, so the browser's
// own input holds what is typed; a change of the address from elsewhere is taken over when nobody is typing.

import { useEffect, useRef, type InputHTMLAttributes, type Ref } from 'react';

export function AddressField({
  value,
  change,
  className = '',
  inputRef,
  ...rest
}: {
  value: string;
  change: (value: string) => void;
  inputRef?: Ref<HTMLInputElement>;
} & Omit<InputHTMLAttributes<HTMLInputElement>, 'onChange' | 'value'>) {
  const own = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (own.current && own.current !== document.activeElement) own.current.value = value;
  }, [value]);
  const hold = (element: HTMLInputElement | null) => {
    own.current = element;
    if (typeof inputRef === 'object' && inputRef) inputRef.current = element;
  };
  return (
    <input
      ref={hold}
      type="search"
      defaultValue={value}
      onChange={(event) => change(event.target.value)}
      className={`h-9 rounded border border-rule bg-sheet px-3 max-lg:h-12 ${className}`}
      {...rest}
    />
  );
}

export function AddressSwitch({
  label,
  on,
  set,
}: {
  label: string;
  on: boolean;
  set: (on: boolean) => void;
}) {
  const own = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (own.current) own.current.checked = on;
  }, [on]);
  return (
    <label className="flex items-center gap-2 text-sm max-lg:min-h-12">
      <input
        ref={own}
        type="checkbox"
        defaultChecked={on}
        onChange={(event) => set(event.target.checked)}
        className="size-4.5 accent-plum"
      />
      {label}
    </label>
  );
}
