import type { RoundSettings, RoundView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useForm, type UseFormRegister } from 'react-hook-form';
import { post, put, type ProblemError } from '../api/client.ts';
import { queryClient, useModels, useOutline } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';

interface Fields {
  name: string;
  at: string;
  days: string;
  area: string;
  model: string;
  criticality: '' | 'low' | 'middle' | 'high';
  retries: string;
  quietFrom: string;
  quietTo: string;
  enabled: 'yes' | 'no';
}

const DAY_CHOICES = [
  { id: '0,1,2,3,4,5,6', name: 'every day' },
  { id: '1,2,3,4,5', name: 'Monday to Friday' },
  { id: '0', name: 'Sundays' },
  { id: '1', name: 'Mondays' },
];

/** Makes a round, or changes one. */
export function RoundForm({ round, done }: { round?: RoundView; done: () => void }) {
  const form = useForm<Fields>({ defaultValues: fieldsOf(round) });
  const save = useMutation<RoundView, ProblemError, Fields>({
    mutationFn: (fields) =>
      round ? put(`rounds/${round.id}`, settingsOf(fields)) : post('rounds', settingsOf(fields)),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: ['rounds'] });
      done();
    },
  });
  return (
    <form
      className="mt-3 rounded border border-rule bg-sheet p-4"
      onSubmit={(event) => void form.handleSubmit((fields) => save.mutate(fields))(event)}
    >
      <RoundFields register={form.register} round={round} />
      <div className="mt-3 flex gap-2">
        <Button type="submit" weight="main" disabled={save.isPending}>
          {round ? 'Keep the changes' : 'Make it'}
        </Button>
        <Button weight="quiet" onClick={done}>
          Not now
        </Button>
      </div>
      {save.error && (
        <div className="mt-2">
          <ProblemNotice error={save.error} />
        </div>
      )}
    </form>
  );
}

function RoundFields({
  register,
  round,
}: {
  register: UseFormRegister<Fields>;
  round: RoundView | undefined;
}) {
  const { data: plant } = useOutline();
  const { data: models = [] } = useModels();
  const known = DAY_CHOICES.some(({ id }) => id === fieldsOf(round).days);
  const names = [...new Map(models.map(({ model, maker, name }) => [model, `${maker} ${name}`]))];
  return (
    <div className="grid gap-3 md:grid-cols-5">
      <Field label="Name" required {...register('name')} />
      <Field label="At" type="time" required {...register('at')} />
      <Choice
        below
        label="On"
        options={known ? DAY_CHOICES : [{ id: fieldsOf(round).days, name: 'days as before' }, ...DAY_CHOICES]}
        {...register('days')}
      />
      <Choice
        below
        label="Retries"
        options={['0', '1', '2', '3', '4', '5'].map(named)}
        {...register('retries')}
      />
      <Choice
        below
        label="Switched"
        options={[
          { id: 'yes', name: 'on' },
          { id: 'no', name: 'off' },
        ]}
        {...register('enabled')}
      />
      <Choice
        below
        label="Area"
        options={[{ id: '', name: 'all areas' }, ...(plant?.areas ?? []).map(({ name }) => named(name))]}
        {...register('area')}
      />
      <Choice
        below
        label="Model"
        options={[{ id: '', name: 'all models' }, ...names.map(([id, name]) => ({ id, name }))]}
        {...register('model')}
      />
      <Choice
        below
        label="Criticality"
        options={[{ id: '', name: 'any' }, ...['low', 'middle', 'high'].map(named)]}
        {...register('criticality')}
      />
      <Field label="Quiet from" type="time" {...register('quietFrom')} />
      <Field label="Quiet to" type="time" {...register('quietTo')} />
    </div>
  );
}

const named = (name: string) => ({ id: name, name });

const fieldsOf = (round: RoundView | undefined): Fields => ({
  name: round?.name ?? '',
  at: round?.at ?? '02:00',
  days: (round?.days ?? [0, 1, 2, 3, 4, 5, 6]).join(','),
  area: round?.scope.areas[0] ?? '',
  model: round?.scope.models[0] ?? '',
  criticality: round?.scope.criticalities[0] ?? '',
  retries: String(round?.retries ?? 2),
  quietFrom: round?.quiet?.from ?? '',
  quietTo: round?.quiet?.to ?? '',
  enabled: round?.enabled === false ? 'no' : 'yes',
});

const settingsOf = (fields: Fields): RoundSettings => ({
  name: fields.name.trim(),
  at: fields.at,
  days: fields.days.split(',').map(Number),
  scope: {
    areas: fields.area === '' ? [] : [fields.area],
    models: fields.model === '' ? [] : [fields.model],
    criticalities: fields.criticality === '' ? [] : [fields.criticality],
  },
  retries: Number(fields.retries),
  quiet: fields.quietFrom && fields.quietTo ? { from: fields.quietFrom, to: fields.quietTo } : null,
  enabled: fields.enabled === 'yes',
});
