// What holds for the whole plant: its name, its mains, how its people work with its drives.

import type { PlantView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useForm, type UseFormRegister } from 'react-hook-form';
import { post, put, type ProblemError } from '../api/client.ts';
import { queryClient, usePlant, useSession } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { AskOnce } from '../ui/ask-once.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { useSeenVersion } from '../ui/seen-version.ts';

interface Fields {
  name: string;
  address: string;
  mainsVoltage: string;
  mainsFrequency: '' | '50' | '60';
  nightlyAt: string;
  overdueHours: string;
  secondSignature: 'yes' | 'no';
  write: 'technician' | 'engineer';
  register: 'technician' | 'engineer';
  timeZone: string;
  decimalMark: 'point' | 'comma';
}

export function SettingsPage() {
  const { data: plant, error } = usePlant();
  const { data: session } = useSession();
  if (!plant || !session) return <Unanswered error={error} what="the plant" />;
  return (
    <Page title="The plant">
      <h1 className="mb-3 text-2xl font-semibold">The plant</h1>
      {plant.isCopy && <CopyPart engineer={session.role === 'engineer'} />}
      <SettingsForm plant={plant} disabled={session.role !== 'engineer'} />
    </Page>
  );
}

function CopyPart({ engineer }: { engineer: boolean }) {
  const become = useMutation<PlantView, ProblemError>({
    mutationFn: () => post('plant/no-copy'),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  return (
    <div className="mb-4">
      <Notice level="look">
        This is a restored copy. It asks no unit anything, so that two installations never work on the same
        drives.
        {engineer
          ? ' When the other one is gone for good, say so here.'
          : ' An engineer says when it is the one.'}
      </Notice>
      {engineer && (
        <div className="mt-2">
          <AskOnce
            what="This is the plant from now on"
            question="Is the other installation switched off for good?"
            note="This one then reads and writes the units of the plant again, and its rounds begin. Two that do so disturb each other."
            yes="It is off: this is the one"
            disabled={become.isPending}
            confirm={() => become.mutate()}
          />
        </div>
      )}
      {become.error && <ProblemNotice error={become.error} />}
    </div>
  );
}

const ZONES = Intl.supportedValuesOf('timeZone');

function SettingsForm({ plant, disabled }: { plant: PlantView; disabled: boolean }) {
  const { register, handleSubmit, formState, reset } = useForm<Fields>({ defaultValues: fieldsOf(plant) });
  const version = useSeenVersion(plant.version, formState.isDirty);
  const save = useMutation<PlantView, ProblemError, Fields>({
    mutationFn: (fields) => put('plant', { ...settingsOf(fields), version }),
    onSuccess: async (fresh) => {
      queryClient.setQueryData(['plant'], fresh);
      reset(fieldsOf(fresh));
      await queryClient.invalidateQueries({ queryKey: ['session'] });
      await queryClient.invalidateQueries({ queryKey: ['first-steps'] });
    },
  });
  return (
    <form onSubmit={(event) => void handleSubmit((fields) => save.mutate(fields))(event)}>
      <fieldset disabled={disabled}>
        <Parts register={register} />
      </fieldset>
      {!disabled && (
        <SheetPart name="Keep">
          <Button type="submit" weight="main" disabled={save.isPending || !formState.isDirty}>
            Keep the changes
          </Button>
          {save.isSuccess && !formState.isDirty && (
            <span role="status" className="ml-3 text-sm">
              ✓ Kept
            </span>
          )}
          {save.error && (
            <div className="mt-2">
              <ProblemNotice error={save.error} />
            </div>
          )}
        </SheetPart>
      )}
    </form>
  );
}

function Parts({ register }: { register: UseFormRegister<Fields> }) {
  return (
    <>
      <SheetPart name="Name">
        <div className="grid gap-3 md:grid-cols-2">
          <Field label="Name of the plant" required maxLength={80} {...register('name')} />
          <Field
            label="Address at which people reach it, for labels"
            placeholder="https://drives.plant.local:8420"
            maxLength={120}
            {...register('address')}
          />
        </div>
      </SheetPart>
      <SheetPart name="Mains">
        <div className="grid gap-3 md:grid-cols-4">
          <Field label="Voltage, V" type="number" min={100} max={1000} {...register('mainsVoltage')} />
          <Choice
            below
            label="Frequency"
            options={[
              { id: '', name: 'not told' },
              { id: '50', name: '50 Hz' },
              { id: '60', name: '60 Hz' },
            ]}
            {...register('mainsFrequency')}
          />
        </div>
      </SheetPart>
      <SheetPart name="Backups">
        <div className="grid gap-3 md:grid-cols-4">
          <Field label="New rounds begin at" type="time" required {...register('nightlyAt')} />
          <Field
            label="Overdue after, h"
            type="number"
            min={1}
            max={10000}
            required
            {...register('overdueHours')}
          />
        </div>
        <p className="mt-1 text-sm text-soft">
          Units on a line. Those with a keypad alone are overdue after a year.
        </p>
      </SheetPart>
      <SheetPart name="Who may what">
        <div className="grid gap-3 md:grid-cols-3">
          <Choice below label="Write to units" options={GIVEN_TO} {...register('write')} />
          <Choice below label="Change the register" options={GIVEN_TO} {...register('register')} />
          <Choice
            below
            label="A baseline is signed by"
            options={[
              { id: 'no', name: 'any engineer' },
              { id: 'yes', name: 'another person than who proposed it' },
            ]}
            {...register('secondSignature')}
          />
        </div>
      </SheetPart>
      <TimePart register={register} />
    </>
  );
}

function TimePart({ register }: { register: UseFormRegister<Fields> }) {
  return (
    <SheetPart name="Time and numbers">
      <div className="grid gap-3 md:grid-cols-3">
        <Choice
          below
          label="Time zone of the rounds and papers"
          options={[{ id: '', name: 'that of the server' }, ...ZONES.map((id) => ({ id, name: id }))]}
          {...register('timeZone')}
        />
        <Choice
          below
          label="Decimals are written with a"
          options={[
            { id: 'point', name: 'point (12.50 s)' },
            { id: 'comma', name: 'comma (12,50 s)' },
          ]}
          {...register('decimalMark')}
        />
      </div>
      <p className="mt-1 text-sm text-soft">Files that leave always have a point.</p>
    </SheetPart>
  );
}

const GIVEN_TO = [
  { id: 'technician', name: 'technicians and engineers' },
  { id: 'engineer', name: 'engineers alone' },
] as const;

const fieldsOf = (plant: PlantView): Fields => ({
  name: plant.name,
  address: plant.address,
  mainsVoltage: plant.mainsVoltage === null ? '' : String(plant.mainsVoltage),
  mainsFrequency: plant.mainsFrequency === null ? '' : plant.mainsFrequency === 50 ? '50' : '60',
  nightlyAt: plant.nightlyAt,
  overdueHours: String(plant.overdueHours),
  secondSignature: plant.secondSignature ? 'yes' : 'no',
  write: plant.may.write,
  register: plant.may.register,
  timeZone: plant.timeZone,
  decimalMark: plant.decimalMark,
});

const settingsOf = (fields: Fields): Omit<PlantView, 'version' | 'isCopy'> => ({
  name: fields.name.trim(),
  address: fields.address.trim().replace(/\/+$/, ''),
  mainsVoltage: fields.mainsVoltage === '' ? null : Number(fields.mainsVoltage),
  mainsFrequency: fields.mainsFrequency === '' ? null : fields.mainsFrequency === '50' ? 50 : 60,
  nightlyAt: fields.nightlyAt,
  overdueHours: Number(fields.overdueHours),
  secondSignature: fields.secondSignature === 'yes',
  may: { write: fields.write, register: fields.register },
  timeZone: fields.timeZone,
  decimalMark: fields.decimalMark,
});
