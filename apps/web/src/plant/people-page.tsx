// The people of the plant: who may sign in and as what, where they are signed in, and tokens for scripts.

import type { OneTimePassword, PersonView, Role } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { post, put, type ProblemError } from '../api/client.ts';
import { queryClient, usePeople, useSession } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Stale, Unanswered } from '../ui/answer.tsx';
import { AskOnce } from '../ui/ask-once.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showDate } from '../words/dates.ts';
import { ScriptTokensPart } from './script-tokens.tsx';
import { SessionList } from './session-list.tsx';

export const ROLE_CHOICES: readonly { readonly id: Role; readonly name: string }[] = [
  { id: 'viewer', name: 'viewer: looks and prints' },
  { id: 'technician', name: 'technician: backs up, writes' },
  { id: 'engineer', name: 'engineer: signs, sets up' },
];

export function PeoplePage() {
  const { data: session } = useSession();
  const { data: people, error } = usePeople(session?.role === 'engineer');
  const [given, setGiven] = useState<OneTimePassword>();
  if (session && session.role !== 'engineer')
    return (
      <Page title="People">
        <p className="mt-6">The people of the plant are looked after by engineers.</p>
      </Page>
    );
  if (!people || !session) return <Unanswered error={error} what="the people" />;
  const active = people.filter(({ disabledAt }) => disabledAt === null);
  const disabled = people.filter(({ disabledAt }) => disabledAt !== null);
  return (
    <Page title="People">
      <h1 className="mb-3 text-2xl font-semibold">People</h1>
      <Stale error={error} />
      {given && <Given given={given} done={() => setGiven(undefined)} />}
      <AddPart give={setGiven} />
      <SheetPart name="May sign in" state={`${active.length} people`}>
        <ul>
          {active.map((person) => (
            <PersonRow key={person.id} person={person} give={setGiven} own={session.signInName} />
          ))}
        </ul>
      </SheetPart>
      {disabled.length > 0 && (
        <SheetPart name="Disabled" state="their names stay">
          <ul>
            {disabled.map((person) => (
              <PersonRow key={person.id} person={person} give={setGiven} own={session.signInName} />
            ))}
          </ul>
        </SheetPart>
      )}
      <ScriptTokensPart />
    </Page>
  );
}

/** A password that is shown once: it is nowhere else. */
function Given({ given, done }: { given: OneTimePassword; done: () => void }) {
  return (
    <div className="mb-3">
      <Notice level="look">
        One-time password of <b>{given.person.person}</b>, who signs in as{' '}
        <span className="font-mono font-semibold">{given.person.signInName}</span>:{' '}
        <span className="font-mono text-lg font-semibold" data-password>
          {given.password}
        </span>
        . It is shown only now; a password of their own is chosen at the first sign-in.{' '}
        <Button className="ml-2" onClick={done}>
          It is noted
        </Button>
      </Notice>
    </div>
  );
}

/** The name, as it will stand in the logbook; taken over when the field is left. */
function NameField({
  person,
  disabled,
  take,
}: {
  person: PersonView;
  disabled: boolean;
  take: (name: string) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const leave = () => {
    const name = typed?.trim();
    if (name && name !== person.person) take(name);
    setTyped(undefined);
  };
  return (
    <input
      aria-label={`Name of ${person.signInName}`}
      value={typed ?? person.person}
      disabled={disabled}
      maxLength={60}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={leave}
      onKeyDown={({ key }) => {
        if (key === 'Enter') leave();
      }}
      className="h-9 w-full rounded border border-transparent bg-transparent px-1 font-semibold hover:border-rule focus:border-rule max-lg:h-12"
    />
  );
}

interface NewPerson {
  person: string;
  signInName: string;
  role: Role;
}

const afterChange = async (): Promise<void> => {
  await queryClient.invalidateQueries({ queryKey: ['people'] });
  await queryClient.invalidateQueries({ queryKey: ['first-steps'] });
};

function AddPart({ give }: { give: (given: OneTimePassword) => void }) {
  const { register, handleSubmit, reset } = useForm<NewPerson>({
    defaultValues: { person: '', signInName: '', role: 'technician' },
  });
  const add = useMutation<OneTimePassword, ProblemError, NewPerson>({
    mutationFn: ({ person, signInName, role }) =>
      post('people', { person: person.trim(), signInName: signInName.trim(), role }),
    onSuccess: async (given) => {
      give(given);
      reset();
      await afterChange();
    },
  });
  return (
    <SheetPart name="Add somebody">
      <form
        className="grid items-end gap-3 md:grid-cols-4"
        onSubmit={(event) => void handleSubmit((fields) => add.mutate(fields))(event)}
      >
        <Field label="Name, as it stands in the logbook" required maxLength={60} {...register('person')} />
        <Field label="Signs in as" required maxLength={40} autoComplete="off" {...register('signInName')} />
        <Choice below label="Role" options={ROLE_CHOICES} {...register('role')} />
        <Button type="submit" weight="main" className="min-h-11 justify-center" disabled={add.isPending}>
          Add
        </Button>
      </form>
      {add.error && (
        <div className="mt-2">
          <ProblemNotice error={add.error} />
        </div>
      )}
    </SheetPart>
  );
}

function PersonRow({
  person,
  give,
  own,
}: {
  person: PersonView;
  give: (given: OneTimePassword) => void;
  own: string;
}) {
  const change = useMutation<
    PersonView,
    ProblemError,
    Partial<{ person: string; role: Role; disabled: boolean }>
  >({
    mutationFn: (more) =>
      put(`people/${person.id}`, {
        ...{ person: person.person, role: person.role, version: person.version },
        ...{ disabled: person.disabledAt !== null, ...more },
      }),
    onSuccess: afterChange,
  });
  const fresh = useMutation<OneTimePassword, ProblemError>({
    mutationFn: () => post(`people/${person.id}/password`),
    onSuccess: async (given) => {
      give(given);
      await afterChange();
    },
  });
  const self = person.signInName === own;
  const gone = person.disabledAt !== null;
  return (
    <li data-person={person.signInName} className="border-b border-rule py-2">
      <div className="grid items-center gap-x-4 gap-y-2 lg:grid-cols-[14rem_16rem_1fr]">
        <div>
          <NameField
            person={person}
            disabled={change.isPending}
            take={(name) => change.mutate({ person: name })}
          />
          <span className="block text-sm text-soft">
            <span className="font-mono">{person.signInName}</span>
            {person.mustChangePassword && ', one-time password not used yet'}
            {gone && `, disabled on ${showDate(person.disabledAt ?? '')}`}
          </span>
        </div>
        <Choice
          label={`Role of ${person.person}`}
          hidden
          value={person.role}
          options={ROLE_CHOICES}
          disabled={change.isPending || gone}
          onChange={({ target }) => change.mutate({ role: target.value as Role })}
        />
        <div className="flex flex-wrap gap-2 lg:justify-end">
          {!gone && !self && (
            <AskOnce
              what="New password"
              weight="plain"
              note={`${person.person} is signed out everywhere and gets a one-time password.`}
              yes="Give a new one"
              disabled={fresh.isPending}
              confirm={() => fresh.mutate()}
            />
          )}
          <Button disabled={change.isPending} onClick={() => change.mutate({ disabled: !gone })}>
            {gone ? 'Let sign in again' : 'Disable'}
          </Button>
        </div>
      </div>
      {(change.error ?? fresh.error) && (
        <ProblemNotice error={(change.error ?? fresh.error) as ProblemError} />
      )}
      <SessionList sessions={person.sessions} path="people/sessions" refresh="people" />
    </li>
  );
}
