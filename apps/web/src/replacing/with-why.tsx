// Something that asks for its reason before it is done.

import { useState } from 'react';
import { Button } from '../ui/button.tsx';

const LEAST_REASON = 3;

export function WithWhy({
  what,
  note,
  busy,
  act,
}: {
  what: string;
  note: string;
  busy: boolean;
  act: (why: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState('');
  if (!open) return <Button onClick={() => setOpen(true)}>{what} …</Button>;
  return (
    <form
      className="w-full rounded border border-rule bg-sheet p-3"
      onSubmit={(event) => {
        event.preventDefault();
        act(why.trim());
        setOpen(false);
      }}
    >
      <p className="text-sm">{note}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <input
          autoFocus
          aria-label="Why"
          placeholder="Why"
          maxLength={200}
          className="h-9 w-72 rounded border border-rule bg-sheet px-2 max-lg:h-12"
          value={why}
          onChange={({ target }) => setWhy(target.value)}
        />
        <Button type="submit" disabled={busy || why.trim().length < LEAST_REASON}>
          {what}
        </Button>
        <Button weight="quiet" onClick={() => setOpen(false)}>
          Not now
        </Button>
      </div>
    </form>
  );
}
