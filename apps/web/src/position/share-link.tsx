import type { ComparisonView } from '@drive-keep/api';
import { Link2 } from 'lucide-react';
import { useState } from 'react';

/**
 * Copies an address that goes on meaning these very sets: "newest" and "baseline" move on, the colleague shall see what
 * one sees now.
 */
export function ShareLink({ comparison }: { comparison: ComparisonView }) {
  const [copied, setCopied] = useState('');
  const copy = async () => {
    const url = new URL(window.location.href);
    url.searchParams.set('a', comparison.a.lastingReference);
    url.searchParams.set('b', comparison.b.lastingReference);
    await navigator.clipboard?.writeText(url.href).catch(() => undefined);
    setCopied(url.href);
  };
  return (
    <>
      <button
        type="button"
        onClick={() => void copy()}
        className="inline-flex min-h-8 items-center gap-1.5 rounded border border-rule bg-sheet px-2 text-sm hover:border-plum max-lg:min-h-12"
      >
        <Link2 className="size-3.5" /> Link
      </button>
      {copied !== '' && (
        <input
          readOnly
          aria-label="Link to this comparison"
          value={copied}
          ref={(field) => field?.select()}
          onBlur={() => setCopied('')}
          className="h-8 w-72 rounded border border-rule bg-sheet px-2 font-mono text-xs"
        />
      )}
    </>
  );
}
