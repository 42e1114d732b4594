// A position with the unit that sits there. The server checks everything; what it refuses is said and nothing is lost.

import type { PositionDetailView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useForm, type UseFormRegister, type UseFormSetValue } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { forgetPositions, useDictionary, useLines, useModels, useRegister } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';

interface Fields {
  tag: string;
  duty: string;
  area: string;
  machine: string;
  criticality: 'low' | 'middle' | 'high';
  motor: string;
  dictionary: string;
  rating: string;
  region: string;
  serial: string;
  firmware: string;
  line: string;
  lineAddress: string;
}

export function NewPositionPage() {
  const { register, handleSubmit, watch, setValue } = useForm<Fields>({
    defaultValues: { criticality: 'middle' },
  });
  const navigate = useNavigate();
  const add = useMutation<PositionDetailView, ProblemError, Fields>({
    mutationFn: (fields) => post('positions', bodyOf(fields)),
    onSuccess: async ({ tag }) => {
      await forgetPositions();
      void navigate(`/positions/${tag}`);
    },
  });
  return (
    <Page title="Add a position">
      <h1 className="mb-3 text-2xl font-semibold">Add a position</h1>
      <form onSubmit={(event) => void handleSubmit((fields) => add.mutate(fields))(event)}>
        <PlacePart register={register} />
        <UnitPart register={register} setValue={setValue} dictionaryId={watch('dictionary')} />
        <SheetPart name="Add">
          <Button type="submit" weight="main" disabled={add.isPending}>
            Add the position
          </Button>
          {add.error && (
            <div className="mt-2">
              <ProblemNotice error={add.error} />
            </div>
          )}
        </SheetPart>
      </form>
    </Page>
  );
}

function PlacePart({ register }: { register: UseFormRegister<Fields> }) {
  const { data: plant } = useRegister();
  const areas = plant?.areas ?? [];
  return (
    <SheetPart name="Place and duty">
      <div className="grid gap-3 md:grid-cols-4">
        <Field label="Tag" required {...register('tag')} placeholder="KL2-RD-01" />
        <div className="md:col-span-3">
          <Field label="Duty" required {...register('duty')} placeholder="Kiln 2 roller section 1" />
        </div>
        <Field label="Area" required list="areas" {...register('area')} />
        <Field label="Machine" required list="machines" {...register('machine')} />
        <Choice
          below
          label="Criticality"
          {...register('criticality')}
          options={['low', 'middle', 'high'].map(named)}
        />
        <Field label="Motor" {...register('motor')} placeholder="1.5 kW, 400 V star, 3.6 A" />
      </div>
      <datalist id="areas">
        {areas.map(({ name }) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <datalist id="machines">
        {areas
          .flatMap(({ machines }) => machines)
          .map(({ name }) => (
            <option key={name} value={name} />
          ))}
      </datalist>
    </SheetPart>
  );
}

function UnitPart({
  register,
  setValue,
  dictionaryId,
}: {
  register: UseFormRegister<Fields>;
  setValue: UseFormSetValue<Fields>;
  dictionaryId: string | undefined;
}) {
  const { data: models = [] } = useModels();
  const { data: lines = [] } = useLines();
  const { data: dictionary } = useDictionary(dictionaryId || models[0]?.id);
  // Lists that arrive later show their first line; the form has to know it, too.
  useEffect(() => {
    if (!dictionary) return;
    setValue('dictionary', dictionary.id);
    setValue('rating', dictionary.ratings[0]?.id ?? '');
    setValue('region', dictionary.regions[0]?.id ?? '');
  }, [dictionary, setValue]);
  return (
    <SheetPart name="Unit">
      <div className="grid gap-3 md:grid-cols-4">
        <Choice
          below
          label="Model"
          {...register('dictionary')}
          options={models.map(({ id, maker, name, firmware }) => ({
            id,
            name: `${maker} ${name}, firmware ${firmware.from} to ${firmware.to}`,
          }))}
        />
        <Choice below label="Rating" {...register('rating')} options={dictionary?.ratings ?? []} />
        <Choice below label="Region" {...register('region')} options={dictionary?.regions ?? []} />
        <Field label="Serial number" required inputMode="numeric" pattern="[0-9]+" {...register('serial')} />
        <Field label="Firmware" required {...register('firmware')} placeholder="2.07" />
        <Choice
          below
          label="Line"
          {...register('line')}
          options={[{ id: '', name: 'none: keypad only' }, ...lines.map(named)]}
        />
        <Field
          label="Address on the line"
          inputMode="numeric"
          pattern="[0-9]+"
          {...register('lineAddress')}
        />
      </div>
    </SheetPart>
  );
}

const named = (name: string) => ({ id: name, name });

function bodyOf({ serial, line, lineAddress, ...fields }: Fields): object {
  const onLine = line === '' ? {} : { line, lineAddress: Number(lineAddress) };
  return { ...fields, tag: fields.tag.trim(), serial: Number(serial), ...onLine };
}
