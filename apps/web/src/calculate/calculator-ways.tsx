import { Link } from 'react-router';

/** Both calculators with the values of a position filled in, by one of its sets. */
export function CalculatorWays({ tag, set = 'newest' }: { tag: string; set?: string }) {
  const query = `position=${encodeURIComponent(tag)}${set === 'newest' ? '' : `&set=${encodeURIComponent(set)}`}`;
  return (
    <span className="flex gap-4 text-sm print:hidden">
      <Link
        to={`/calculate/signal?${query}`}
        className="inline-flex min-h-9 items-center text-plum underline max-lg:min-h-12"
      >
        Signal calculator
      </Link>
      <Link
        to={`/calculate/motor?${query}`}
        className="inline-flex min-h-9 items-center text-plum underline max-lg:min-h-12"
      >
        Motor calculator
      </Link>
    </span>
  );
}
