// What stands in the place of an answer: that it is being asked for, and after a second for how long; that asking failed, with
// another try; or that the answer is "nothing", which only the server can say. Used by every screen and list.

import { useEffect, useState, type ReactNode } from 'react';
import { queryClient } from '../api/queries.ts';
import { Button } from './button.tsx';
import { ProblemNotice } from './notice.tsx';

/** An answer that takes longer is told with its seconds. */
const QUIET_SECONDS = 1;

/** No answer yet, or none to be had. `what` completes "Asking for …". */
export function Unanswered({ error, what }: { error?: Error | null | undefined; what: string }) {
  if (error)
    return (
      <div className="mx-auto w-full max-w-[1400px] p-4">
        <ProblemNotice error={error} />
        <div className="mt-2">
          <Button onClick={() => void queryClient.refetchQueries({ type: 'active' })}>Ask again</Button>
        </div>
      </div>
    );
  return <Asking what={what} />;
}

/** Says that something is being asked for, and for how long. */
export function Asking({ what }: { what: string }) {
  const seconds = useSeconds();
  return (
    <p role="status" aria-live="polite" className="mx-auto w-full max-w-[1400px] p-4 text-soft">
      Asking for {what} …{seconds > QUIET_SECONDS && ` ${seconds} s so far`}
    </p>
  );
}

/** The server has answered, and there is nothing: what will be here, and how to get it. */
export const Nothing = ({ children }: { children: ReactNode }) => (
  <p className="py-4 text-soft">{children}</p>
);

/** What is shown is from before: asking anew has failed. */
export function Stale({ error }: { error: Error | null | undefined }) {
  if (!error) return null;
  return (
    <p role="status" className="mb-2 border-l-4 border-look bg-look-wash px-3 py-1 text-sm">
      This is what was known before; asking anew failed. {error.message}
    </p>
  );
}

function useSeconds(): number {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setSeconds((before) => before + 1), 1000);
    return () => clearInterval(timer);
  }, []);
  return seconds;
}
