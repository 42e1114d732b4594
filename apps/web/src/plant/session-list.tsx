// Where somebody is signed in: browser, machine, since when, last seen. Each can be ended.

import type { OpenSession } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { remove, type ProblemError } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { showAge, showTime } from '../words/dates.ts';

export function SessionList({
  sessions,
  path,
  refresh,
}: {
  sessions: readonly OpenSession[];
  /** Under which a session is ended. */
  path: string;
  /** What is asked for anew then. */
  refresh: string;
}) {
  const end = useMutation<undefined, ProblemError, string>({
    mutationFn: (id) => remove(`${path}/${id}`),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: [refresh] }),
  });
  return (
    <ul className="mt-1 text-sm">
      {sessions.map(({ id, browser, cameFrom, openedAt, seenAt, own }) => (
        <li key={id} className="flex flex-wrap items-center gap-x-3">
          <span className="text-soft">
            {browserName(browser)} at {cameFrom || 'an unknown machine'}, since {showTime(openedAt)}, used{' '}
            {showAge(seenAt)}
          </span>
          {own ? (
            <span>this one</span>
          ) : (
            <Button weight="quiet" disabled={end.isPending} onClick={() => end.mutate(id)}>
              End it
            </Button>
          )}
        </li>
      ))}
      {end.error && <ProblemNotice error={end.error} />}
    </ul>
  );
}

const BROWSERS = ['Firefox', 'Edg', 'OPR', 'Chrome', 'Safari'];
const SYSTEMS = ['Android', 'iPhone', 'iPad', 'Windows', 'Mac OS X', 'Linux'];

/** What a browser calls itself is long; the part that people know is enough. */
export function browserName(text: string): string {
  const found = (names: readonly string[]) => names.find((name) => text.includes(name));
  const browser = found(BROWSERS);
  if (!browser) return text === '' ? 'A program' : text.split('/')[0] || 'A program';
  const name = browser === 'Edg' ? 'Edge' : browser === 'OPR' ? 'Opera' : browser;
  const system = found(SYSTEMS);
  return system ? `${name} on ${system}` : name;
}
