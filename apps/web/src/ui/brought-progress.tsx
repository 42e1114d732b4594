/** How far a sheet is that is filled in at the cabinet, and whether the server has all of it. */
export function BroughtProgress({
  done,
  total,
  label,
  network,
  kept,
}: {
  done: number;
  total: number;
  label: string;
  network: 'there' | 'away';
  kept: string;
}) {
  return (
    <div className="sticky top-0 z-10 -mx-2 mt-2 border-b border-rule bg-ground px-2 py-2 print:hidden">
      <div className="flex items-center gap-3">
        <progress value={done} max={Math.max(1, total)} aria-label={label} className="h-2 flex-1" />
        <span className="whitespace-nowrap">
          <b>{done}</b> of {total}
        </span>
      </div>
      <p
        role="status"
        className={`text-sm ${network === 'away' ? 'rounded bg-look-wash px-2' : 'text-soft'}`}
      >
        {kept}
      </p>
    </div>
  );
}
