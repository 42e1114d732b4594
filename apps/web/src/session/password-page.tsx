import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { put } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { Field } from './field.tsx';

interface Passwords {
  oldPassword: string;
  newPassword: string;
}

/** The one-time password has to be replaced before anything else. */
export function PasswordPage() {
  const { register, handleSubmit, formState } = useForm<Passwords>();
  const [error, setError] = useState<Error>();
  const change = handleSubmit(async (body) => {
    try {
      await put('session/password', body);
      await queryClient.invalidateQueries({ queryKey: ['session'] });
    } catch (problem) {
      setError(problem as Error);
    }
  });
  return (
    <Page title="Choose a password">
      <form onSubmit={(event) => void change(event)} className="mx-auto mt-[14vh] max-w-sm space-y-4">
        <h1 className="text-2xl font-semibold">Choose a password of your own</h1>
        <p className="text-soft">The one-time password works only for this. Use at least 10 characters.</p>
        <Field
          label="One-time password"
          type="password"
          autoComplete="current-password"
          {...register('oldPassword')}
        />
        <Field
          label="New password"
          type="password"
          autoComplete="new-password"
          {...register('newPassword')}
        />
        {error && <ProblemNotice error={error} />}
        <Button type="submit" weight="main" disabled={formState.isSubmitting}>
          Keep the new password
        </Button>
      </form>
    </Page>
  );
}
