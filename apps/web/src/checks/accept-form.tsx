import type { CheckFindingView, ChecksView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { post, type ProblemError } from '../api/client.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';

const DAYS = 90;
const DAY_MS = 86_400_000;

/** A day as the field has it. */
const daysAhead = (): string => new Date(Date.now() + DAYS * DAY_MS).toISOString().slice(0, 10);

interface Fields {
  readonly reason: string;
  readonly until: string;
}

/** A finding is accepted with these values, for a while and with a reason. */
export function AcceptForm({
  tag,
  finding: { identity, signature, text },
  done,
}: {
  tag: string;
  finding: CheckFindingView;
  done: (view: ChecksView) => void;
}) {
  const [open, setOpen] = useState(false);
  const [usual] = useState(daysAhead);
  const form = useForm<Fields>({
    defaultValues: { reason: '', until: usual },
  });
  const accept = useMutation<ChecksView, ProblemError, Fields>({
    mutationFn: (fields) => post(`positions/${tag}/accepted-findings`, { identity, signature, ...fields }),
    onSuccess: (view) => {
      setOpen(false);
      done(view);
    },
  });
  if (!open)
    return (
      <Button weight="quiet" aria-label={`Accept: ${text}`} onClick={() => setOpen(true)}>
        Accept for a while
      </Button>
    );
  const submit = form.handleSubmit((fields) => {
    if (!accept.isPending) accept.mutate(fields);
  });
  return (
    <form className="flex w-full flex-wrap items-end gap-3" onSubmit={(event) => void submit(event)}>
      <label className="flex min-w-64 grow flex-col gap-1 text-sm">
        <span className="text-soft">Why it may stay so</span>
        <input
          {...form.register('reason', { required: true })}
          maxLength={300}
          autoComplete="off"
          className="min-h-9 rounded border border-rule bg-sheet px-2 max-lg:min-h-12"
        />
      </label>
      <label className="flex flex-col gap-1 text-sm">
        <span className="text-soft">Until</span>
        <input
          type="date"
          {...form.register('until', { required: true })}
          className="min-h-9 rounded border border-rule bg-sheet px-2 max-lg:min-h-12"
        />
      </label>
      <Button type="submit" disabled={accept.isPending}>
        Accept
      </Button>
      <Button weight="quiet" onClick={() => setOpen(false)}>
        Not now
      </Button>
      {accept.error && <ProblemNotice error={accept.error} />}
    </form>
  );
}
