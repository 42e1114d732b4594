import type { ComponentProps } from 'react';

const FIELD = 'min-h-9 rounded border border-rule bg-sheet px-2 max-lg:min-h-12';

const Labelled = ({ label, children }: { label: string; children: React.ReactNode }) => (
  <label className="flex flex-col gap-1 text-sm">
    <span className="text-soft">{label}</span>
    {children}
  </label>
);

export const TextField = ({ label, ...rest }: ComponentProps<'input'> & { label: string }) => (
  <Labelled label={label}>
    <input {...rest} maxLength={200} autoComplete="off" className={`${FIELD} w-64`} />
  </Labelled>
);

export const NumberField = ({ label, ...rest }: ComponentProps<'input'> & { label: string }) => (
  <Labelled label={label}>
    <input
      {...rest}
      inputMode="decimal"
      maxLength={8}
      autoComplete="off"
      className={`${FIELD} w-28 font-mono`}
    />
  </Labelled>
);

export const SelectField = ({
  label,
  options,
  ...rest
}: ComponentProps<'select'> & { label: string; options: Readonly<Record<string, string>> }) => (
  <Labelled label={label}>
    <select {...rest} className={FIELD}>
      {Object.entries(options).map(([value, name]) => (
        <option key={value} value={value}>
          {name}
        </option>
      ))}
    </select>
  </Labelled>
);
