// What is said of a position and of the unit that sits there, as fields of a form.

import type { LineView, PositionDetailView } from '@drive-keep/api';
import { useEffect } from 'react';
import type { FieldValues, UseFormRegister, UseFormReturn } from 'react-hook-form';
import { useDictionary, useLines, useModels, useOutline } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Choice } from '../ui/choice.tsx';
import { Unanswered } from '../ui/answer.tsx';

export interface PlaceFields {
  tag: string;
  duty: string;
  area: string;
  machine: string;
  criticality: 'low' | 'middle' | 'high';
  motor: string;
}

export interface UnitFields {
  dictionary: string;
  rating: string;
  region: string;
  serial: string;
  firmware: string;
  line: string;
  lineAddress: string;
}

export const placeOf = (position: PositionDetailView): PlaceFields => ({
  tag: position.tag,
  duty: position.duty,
  area: position.area,
  machine: position.machine,
  criticality: position.criticality,
  motor: position.motor,
});

export const unitOf = ({ unit }: PositionDetailView): UnitFields => ({
  dictionary: unit.dictionary,
  rating: unit.rating,
  region: unit.region,
  serial: String(unit.serial),
  firmware: unit.firmware,
  line: unit.line?.name ?? '',
  lineAddress: unit.line ? String(unit.line.address) : '',
});

/** As the server takes it: a keypad-only unit has neither line nor address. */
export function unitBody({ serial, line, lineAddress, ...fields }: UnitFields): object {
  const onLine = line === '' ? {} : { line, lineAddress: Number(lineAddress) };
  return { ...fields, serial: Number(serial), ...onLine };
}

export function PlaceInputs<T extends PlaceFields & FieldValues>({ form }: { form: UseFormReturn<T> }) {
  const register = form.register as unknown as UseFormRegister<PlaceFields>;
  const { data: plant } = useOutline();
  const areas = plant?.areas ?? [];
  return (
    <>
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
    </>
  );
}

export function UnitInputs<T extends UnitFields & FieldValues>({ form }: { form: UseFormReturn<T> }) {
  const { register, watch, setValue, getValues } = form as unknown as UseFormReturn<UnitFields>;
  const dictionaryId = watch('dictionary');
  const { data: models, error: noModels } = useModels();
  const { data: lines, error: noLines } = useLines();
  const { data: dictionary, error: noDictionary } = useDictionary(dictionaryId || models?.[0]?.id);
  // Another model has ratings and regions of its own; the form has to know what is shown of them.
  useEffect(() => {
    if (!dictionary) return;
    setValue('dictionary', dictionary.id);
    const { rating, region } = getValues();
    const keep = (id: string, known: readonly { readonly id: string }[]) =>
      known.some((each) => each.id === id) ? id : (known[0]?.id ?? '');
    setValue('rating', keep(rating, dictionary.ratings));
    setValue('region', keep(region, dictionary.regions));
  }, [dictionary, setValue, getValues]);
  // A form is drawn when its choices are there: a list without its value would show another one.
  if (!models || !lines || !dictionary)
    return (
      <Unanswered
        error={noModels ?? noLines ?? noDictionary}
        what="models, ratings and lines to choose from"
      />
    );
  return (
    <>
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
        <Choice below label="Rating" {...register('rating')} options={dictionary.ratings} />
        <Choice below label="Region" {...register('region')} options={dictionary.regions} />
        <Field label="Serial number" required inputMode="numeric" pattern="[0-9]+" {...register('serial')} />
        <Field label="Firmware" required {...register('firmware')} placeholder="2.07" />
        <Choice
          below
          label="Line"
          {...register('line')}
          options={[
            { id: '', name: 'none: keypad only' },
            ...lines.filter(({ retiredAt }) => retiredAt === null).map(lineNamed),
          ]}
        />
        <Field
          label="Address on the line"
          inputMode="numeric"
          pattern="[0-9]+"
          {...register('lineAddress')}
        />
      </div>
    </>
  );
}

const lineNamed = ({ name }: LineView) => ({ id: name, name });
const named = (name: string) => ({ id: name, name });
