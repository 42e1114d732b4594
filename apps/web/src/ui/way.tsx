import { Link } from 'react-router';

/** A link that leads to work and looks like a button. */
export function Way({ to, children }: { to: string; children: string }) {
  return (
    <Link
      to={to}
      className="inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
    >
      {children}
    </Link>
  );
}
