import type { RoundScope, RoundSettings, RoundView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useForm, type UseFormRegister } from 'react-hook-form';
import { post, put, type ProblemError } from '../api/client.ts';
import { queryClient, useModels, useOutline, usePlant } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { useSeenVersion } from '../ui/seen-version.ts';
import { Unanswered } from '../ui/answer.tsx';

interface Fields {
  name: string;
  at: string;
  days: string;
  area: string;
  model: string;
  criticality: string;
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
  const { data: plant, error: unanswered } = usePlant();
  if (!plant) return <Unanswered error={unanswered} what="the plant’s nightly time" />;
  return <RoundFormAt round={round} done={done} usualAt={plant.nightlyAt} />;
}

function RoundFormAt({
  round,
  done,
  usualAt,
}: {
  round: RoundView | undefined;
  done: () => void;
  usualAt: string;
}) {
  const form = useForm<Fields>({ defaultValues: { ...fieldsOf(round), at: round?.at ?? usualAt } });
  const version = useSeenVersion(round?.version ?? 1, form.formState.isDirty);
  const save = useMutation<RoundView, ProblemError, Fields>({
    mutationFn: (fields) =>
      round
        ? put(`rounds/${round.id}`, { ...settingsOf(fields), version })
        : post('rounds', settingsOf(fields)),
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
  const { data: plant, error: noPlant } = useOutline();
  const { data: models, error: noModels } = useModels();
  // A list without its choices would show another value than the round has.
  if (!plant || !models)
    return <Unanswered error={noPlant ?? noModels} what="areas and models to choose from" />;
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
        options={[
          { id: '', name: 'all areas' },
          ...severalOf(round?.scope.areas),
          ...plant.areas.map(({ name }) => named(name)),
        ]}
        {...register('area')}
      />
      <Choice
        below
        label="Model"
        options={[
          { id: '', name: 'all models' },
          ...severalOf(round?.scope.models),
          ...names.map(([id, name]) => ({ id, name })),
        ]}
        {...register('model')}
      />
      <Choice
        below
        label="Criticality"
        options={[
          { id: '', name: 'any' },
          ...severalOf(round?.scope.criticalities),
          ...['low', 'middle', 'high'].map(named),
        ]}
        {...register('criticality')}
      />
      <Field label="Quiet from" type="time" {...register('quietFrom')} />
      <Field label="Quiet to" type="time" {...register('quietTo')} />
    </div>
  );
}

const named = (name: string) => ({ id: name, name });

/** A round may cover several of a kind, made elsewhere: they are one choice of its own, which stays. */
const BETWEEN = '\n';
const severalOf = (kept: readonly string[] = []) =>
  kept.length > 1 ? [{ id: kept.join(BETWEEN), name: kept.join(', ') }] : [];

const fieldsOf = (round: RoundView | undefined): Fields => ({
  name: round?.name ?? '',
  at: round?.at ?? '02:00',
  days: (round?.days ?? [0, 1, 2, 3, 4, 5, 6]).join(','),
  area: (round?.scope.areas ?? []).join(BETWEEN),
  model: (round?.scope.models ?? []).join(BETWEEN),
  criticality: (round?.scope.criticalities ?? []).join(BETWEEN),
  retries: String(round?.retries ?? 2),
  quietFrom: round?.quiet?.from ?? '',
  quietTo: round?.quiet?.to ?? '',
  enabled: round?.enabled === false ? 'no' : 'yes',
});

const chosen = (text: string): string[] => (text === '' ? [] : text.split(BETWEEN));

const settingsOf = (fields: Fields): RoundSettings => ({
  name: fields.name.trim(),
  at: fields.at,
  days: fields.days.split(',').map(Number),
  scope: {
    areas: chosen(fields.area),
    models: chosen(fields.model),
    criticalities: chosen(fields.criticality) as RoundScope['criticalities'],
  },
  retries: Number(fields.retries),
  // Half of them is refused by the server, and not taken for none.
  quiet: fields.quietFrom || fields.quietTo ? { from: fields.quietFrom, to: fields.quietTo } : null,
  enabled: fields.enabled === 'yes',
});
