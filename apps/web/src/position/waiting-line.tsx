import { Link } from 'react-router';
import { useWaiting } from './waiting.ts';

/** Under the head line: what was decided before and waits for somebody. */
export function WaitingLine({ tag }: { tag: string }) {
  const waiting = useWaiting(tag) ?? [];
  if (waiting.length === 0) return null;
  return (
    <p className="mt-2 flex flex-wrap gap-x-4 border-l-4 border-plum px-3 py-1 text-sm">
      <b>Waits:</b>
      {waiting.map(({ to, text, codes }) => (
        <Link key={to} to={to} className="text-plum underline max-lg:py-3">
          {text}
          {codes.length > 0 && `, ${codes.length === 1 ? codes[0] : `${codes.length} values`}`}
        </Link>
      ))}
    </p>
  );
}
