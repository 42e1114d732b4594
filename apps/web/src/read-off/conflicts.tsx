import type { ReadOffConflict } from '@drive-keep/api';
import { findParameter, type Dictionary } from '@drive-keep/core/dictionary';
import { showRaw } from '@drive-keep/core/values';
import { Button } from '../ui/button.tsx';
import { Notice } from '../ui/notice.tsx';
import { useReadOffStore } from './read-off-store.ts';

/** Two people read different values off the same keypad: somebody has to look again and choose. */
export function Conflicts({
  tag,
  conflicts,
  dictionary,
}: {
  tag: string;
  conflicts: readonly ReadOffConflict[];
  dictionary: Dictionary;
}) {
  const settle = useReadOffStore((store) => store.settle);
  if (conflicts.length === 0) return null;
  return (
    <div className="mt-3">
      <Notice level="look">
        <b>Two people have entered different values.</b> Look at the keypad again and choose.
        <ul className="mt-2">
          {conflicts.map((conflict) => {
            const { code, mine, theirs } = conflict;
            const parameter = findParameter(dictionary, code);
            if (!parameter) return null;
            return (
              <li key={code} data-conflict={code} className="border-t border-rule py-2">
                <div>
                  <span className="font-mono font-semibold">{code}</span> {parameter.name}
                </div>
                <div className="mt-1 flex flex-wrap gap-2">
                  <Button className="min-h-12" onClick={() => settle(tag, conflict, true)}>
                    Mine: {showRaw(parameter.form, mine)}
                  </Button>
                  <Button className="min-h-12" onClick={() => settle(tag, conflict, false)}>
                    {theirs.by}: {showRaw(parameter.form, theirs.raw)}
                  </Button>
                </div>
              </li>
            );
          })}
        </ul>
      </Notice>
    </div>
  );
}
