import type { UntoldCheckView } from '@drive-keep/api';
import { SheetPart } from '../ui/page.tsx';

/** Checks that found nothing because they were not told all that they ask for, by what is missing. */
export function UntoldChecks({ untold }: { untold: readonly UntoldCheckView[] }) {
  if (untold.length === 0) return null;
  const byMissing = new Map<string, string[]>();
  for (const { name, missing } of untold)
    for (const each of missing) byMissing.set(each, [...(byMissing.get(each) ?? []), name]);
  const lines = [...byMissing].sort((a, b) => b[1].length - a[1].length);
  return (
    <SheetPart name="Could not be told" state={`${untold.length} checks`}>
      <p className="mb-1 text-sm text-soft">
        Nothing was found here because something is not known. That is not the same as nothing wrong.
      </p>
      <ul className="text-sm">
        {lines.map(([missing, names]) => (
          <li
            key={missing}
            className="grid gap-x-4 border-b border-rule py-1 md:grid-cols-[minmax(14rem,1fr)_2fr]"
          >
            <span>{missing}</span>
            <span className="text-soft">{names.join(', ')}</span>
          </li>
        ))}
      </ul>
    </SheetPart>
  );
}
