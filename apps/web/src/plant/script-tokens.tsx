// Tokens with which scripts sign their requests: named, with a role and an end, shown once.

import type { Role, ScriptTokenView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { post, remove, type ProblemError } from '../api/client.ts';
import { queryClient, useScriptTokens } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { showAge, showDate } from '../words/dates.ts';

interface Fields {
  name: string;
  role: Role;
  days: string;
}

const ROLES = ['viewer', 'technician', 'engineer'].map((id) => ({ id, name: id }));

export function ScriptTokensPart() {
  const { data: tokens, error } = useScriptTokens();
  const [token, setToken] = useState<string>();
  const { register, handleSubmit, reset } = useForm<Fields>({
    defaultValues: { name: '', role: 'viewer', days: '365' },
  });
  const make = useMutation<{ token: string; made: ScriptTokenView }, ProblemError, Fields>({
    mutationFn: ({ name, role, days }) =>
      post('script-tokens', { name: name.trim(), role, days: Number(days) }),
    onSuccess: async (made) => {
      setToken(made.token);
      reset();
      await queryClient.invalidateQueries({ queryKey: ['script-tokens'] });
    },
  });
  return (
    <SheetPart name="Scripts" state="the API by a token">
      {token && (
        <Notice level="look">
          <span className="font-mono break-all">{token}</span> is shown only now. A script sends it as{' '}
          <span className="font-mono">Authorization: Bearer …</span>.{' '}
          <Button onClick={() => setToken(undefined)}>It is noted</Button>
        </Notice>
      )}
      <form
        className="mt-2 grid items-end gap-3 md:grid-cols-4"
        onSubmit={(event) => void handleSubmit((fields) => make.mutate(fields))(event)}
      >
        <Field label="Name of the script" required maxLength={60} {...register('name')} />
        <Choice below label="Role" options={ROLES} {...register('role')} />
        <Field label="Ends after, days" type="number" min={1} max={3660} required {...register('days')} />
        <Button type="submit" className="min-h-11 justify-center" disabled={make.isPending}>
          Make a token
        </Button>
      </form>
      {make.error && <ProblemNotice error={make.error} />}
      {!tokens ? (
        <Unanswered error={error} what="the tokens" />
      ) : (
        <ul className="mt-2">
          {tokens.map((each) => (
            <TokenRow key={each.id} token={each} />
          ))}
        </ul>
      )}
    </SheetPart>
  );
}

function TokenRow({ token }: { token: ScriptTokenView }) {
  const end = useMutation<undefined, ProblemError>({
    mutationFn: () => remove(`script-tokens/${token.id}`),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['script-tokens'] }),
  });
  const { name, role, madeBy, madeAt, expiresAt, usedAt, endedAt } = token;
  const over = endedAt !== null || new Date(expiresAt) <= new Date();
  return (
    <li
      className={`flex flex-wrap items-center gap-x-3 border-b border-rule py-1.5 ${over ? 'text-soft' : ''}`}
    >
      <b>{name}</b>
      <span className="text-sm text-soft">
        {role}, made by {madeBy} on {showDate(madeAt)}, {usedAt ? `used ${showAge(usedAt)}` : 'not used yet'},{' '}
        {endedAt ? `ended on ${showDate(endedAt)}` : `${over ? 'ran out' : 'ends'} on ${showDate(expiresAt)}`}
      </span>
      {!over && (
        <Button weight="quiet" disabled={end.isPending} onClick={() => end.mutate()}>
          End it
        </Button>
      )}
      {end.error && <ProblemNotice error={end.error} />}
    </li>
  );
}
