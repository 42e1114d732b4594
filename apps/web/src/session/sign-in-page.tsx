import type { SessionView } from '@drive-keep/api';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { post } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { Field } from './field.tsx';

interface SignIn {
  name: string;
  password: string;
}

export function SignInPage() {
  const { register, handleSubmit, formState } = useForm<SignIn>();
  const [error, setError] = useState<Error>();
  const signIn = handleSubmit(async (body) => {
    try {
      queryClient.setQueryData(['session'], await post<SessionView>('session', body));
    } catch (problem) {
      setError(problem as Error);
    }
  });
  return (
    <Page title="Sign in">
      <form onSubmit={(event) => void signIn(event)} className="mx-auto mt-[14vh] max-w-sm space-y-4">
        <div className="flex items-center gap-3">
          <img src="/mark.svg" alt="" className="size-10" />
          <h1 className="text-2xl font-semibold">Drive Keep</h1>
        </div>
        <p className="text-soft">
          Keeps the parameter sets of this plant’s drives. Sign in with the name you were given.
        </p>
        <Field label="Name" autoComplete="username" autoFocus {...register('name', { required: true })} />
        <Field
          label="Password"
          type="password"
          autoComplete="current-password"
          {...register('password', { required: true })}
        />
        {error && <ProblemNotice error={error} />}
        <Button
          type="submit"
          weight="main"
          disabled={formState.isSubmitting}
          className="w-full justify-center"
        >
          Sign in
        </Button>
      </form>
    </Page>
  );
}
