import type { ButtonHTMLAttributes } from 'react';

type Weight = 'main' | 'plain' | 'quiet';

const LOOKS: Readonly<Record<Weight, string>> = {
  main: 'bg-plum text-on-plum border-plum hover:opacity-90',
  plain: 'bg-sheet text-ink border-rule hover:border-plum',
  quiet: 'bg-transparent text-plum border-transparent hover:underline',
};

export function Button({
  weight = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { weight?: Weight }) {
  const base =
    'inline-flex min-h-9 items-center gap-2 rounded border px-3 py-1 text-sm font-medium disabled:cursor-not-allowed disabled:opacity-50 max-lg:min-h-12';
  return <button type="button" className={`${base} ${LOOKS[weight]} ${className}`} {...rest} />;
}
