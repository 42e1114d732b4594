// One's own account: where one is signed in, and a new password.

import { useMutation } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { put, type ProblemError } from '../api/client.ts';
import { queryClient, useOwnSessions, useSession } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { SessionList } from './session-list.tsx';

interface Passwords {
  oldPassword: string;
  newPassword: string;
}

export function OwnAccountPage() {
  const { data: session } = useSession();
  const { data: sessions, error } = useOwnSessions();
  const { register, handleSubmit, reset } = useForm<Passwords>({
    defaultValues: { oldPassword: '', newPassword: '' },
  });
  const change = useMutation<undefined, ProblemError, Passwords>({
    mutationFn: (passwords) => put('session/password', passwords),
    onSuccess: async () => {
      reset();
      await queryClient.invalidateQueries({ queryKey: ['session/all'] });
    },
  });
  if (!sessions || !session) return <Unanswered error={error} what="your account" />;
  return (
    <Page title="Your account">
      <h1 className="mb-3 text-2xl font-semibold">{session.person}</h1>
      <SheetPart name="Account">
        You sign in as <span className="font-mono">{session.signInName}</span> and are {session.role} here.
      </SheetPart>
      <SheetPart
        name="Signed in"
        state={sessions.length === 1 ? 'here alone' : `at ${sessions.length} places`}
      >
        <SessionList sessions={sessions} path="session/all" refresh="session/all" />
      </SheetPart>
      <SheetPart name="Password">
        <form
          className="grid items-end gap-3 md:grid-cols-3"
          onSubmit={(event) => void handleSubmit((fields) => change.mutate(fields))(event)}
        >
          <Field
            label="Present password"
            type="password"
            required
            autoComplete="current-password"
            {...register('oldPassword')}
          />
          <Field
            label="New password"
            type="password"
            required
            minLength={10}
            autoComplete="new-password"
            {...register('newPassword')}
          />
          <Button type="submit" className="min-h-11 justify-center" disabled={change.isPending}>
            Change it
          </Button>
        </form>
        <p className="mt-1 text-sm text-soft">
          Ten characters or more. You are signed out everywhere else then.
        </p>
        {change.isSuccess && (
          <p role="status" className="text-sm">
            ✓ Changed
          </p>
        )}
        {change.error && <ProblemNotice error={change.error} />}
      </SheetPart>
    </Page>
  );
}
