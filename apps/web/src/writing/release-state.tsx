// A statement that the machine is stopped: by whom, until when, and that it has run out once it has.

import { useEffect, useState } from 'react';
import { showTime } from '../words/dates.ts';

interface Stated {
  readonly by: string;
  readonly until: string;
}

/** True once its time is over, at the moment it is. */
export function useRanOut(release: Stated | null): boolean {
  const [now, setNow] = useState(() => Date.now());
  const left = release ? Date.parse(release.until) - now : 0;
  useEffect(() => {
    if (left <= 0) return undefined;
    const timer = setTimeout(() => setNow(Date.now()), left + 50);
    return () => clearTimeout(timer);
  }, [left]);
  return release !== null && left <= 0;
}

export function ReleaseState({ release, ranOut }: { release: Stated | null; ranOut: boolean }) {
  if (!release) return null;
  return (
    <p className={ranOut ? 'text-soft' : undefined}>
      {release.by} stated that the machine is stopped and safe to write to.{' '}
      {ranOut
        ? `That held until ${showTime(release.until)} and has run out: nothing is written on it any more.`
        : `The statement holds until ${showTime(release.until)}.`}
    </p>
  );
}
