// One motor of the library, or a new one that may start from the plate of another and then gets a name of its own. Every
// number may be written with its unit, as on the plate.

import type { MotorBody, MotorView } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { BRAKE_FIELDS, CONNECTIONS, MOTOR_FIELDS, RATING_FIELDS, SENSORS } from '@drive-keep/core/motor';
import { useMutation, type UseMutationResult } from '@tanstack/react-query';
import { useFieldArray, useForm, type UseFormReturn } from 'react-hook-form';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { post, put, remove, type ProblemError } from '../api/client.ts';
import { queryClient, useMotors, useSession } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showDate } from '../words/dates.ts';

interface Fields {
  name: string;
  ratings: Record<string, string>[];
  motor: Record<string, string>;
  brake: Record<string, string>;
}

const SENSOR_NAMES: Readonly<Record<(typeof SENSORS)[number], string>> = {
  none: 'none',
  ptc: 'PTC',
  kty: 'KTY',
  pt1000: 'Pt1000',
  switch: 'bimetal switch',
};

export function MotorPage() {
  const { id = 'new' } = useParams();
  const [params] = useSearchParams();
  const { data: motors, error } = useMotors();
  if (!motors) return <Unanswered error={error} what="this motor" />;
  const motor = motors.find((each) => each.id === id);
  if (id !== 'new' && !motor)
    return (
      <Page title="Motor">
        <Notice level="look">
          This motor is not in the library any more.{' '}
          <Link to="/motors" className="text-plum underline">
            All motors
          </Link>
        </Notice>
      </Page>
    );
  const from = motors.find((each) => each.id === params.get('from'));
  return <MotorSheet key={`${id} ${from?.id ?? ''}`} motor={motor} from={from} motors={motors} />;
}

function MotorSheet({
  motor,
  from,
  motors,
}: {
  motor: MotorView | undefined;
  from: MotorView | undefined;
  motors: readonly MotorView[];
}) {
  const { data: session } = useSession();
  const navigate = useNavigate();
  const text = (motor ?? from)?.text ?? { ratings: [{}], motor: {}, brake: {} };
  const form = useForm<Fields>({
    defaultValues: {
      name: motor?.name ?? '',
      ratings: text.ratings.map((rating) => ({ ...rating })),
      motor: { ...text.motor },
      brake: { ...text.brake },
    },
  });
  const done = async () => {
    await queryClient.invalidateQueries();
    void navigate('/motors');
  };
  const keep = useMutation<unknown, ProblemError, Fields>({
    mutationFn: ({ name, ...plate }) => {
      const body: MotorBody = { name: name.trim(), plate };
      return motor
        ? put(`motors/${motor.id}`, { ...body, version: motor.version })
        : post('motors', { ...body, ...(from ? { startedFrom: from.id } : {}) });
    },
    onSuccess: done,
  });
  const mayChange = motor ? session?.role === 'engineer' : session?.role !== 'viewer';
  return (
    <Page title={motor?.name ?? 'Add a motor'}>
      <h1 className="text-2xl font-semibold">{motor?.name ?? 'Add a motor'}</h1>
      {motor && (
        <Link to={`/calculate/motor?motor=${motor.id}`} className="text-sm text-plum underline">
          Motor calculator
        </Link>
      )}
      <p className="mt-1 mb-4 text-soft">
        {motor
          ? `Changed ${showDate(motor.changedAt)} by ${motor.changedBy}${motor.startedFrom && `; started from ${motor.startedFrom}`}.`
          : from
            ? `Started from the plate of ${from.name}. Give it a name of its own.`
            : 'Numbers as on the plate, with or without their unit: 1.5, 1500 W, 2 hp.'}
      </p>
      <form onSubmit={(event) => void form.handleSubmit((fields) => keep.mutate(fields))(event)}>
        <fieldset disabled={!mayChange}>
          <SheetPart name="Name">
            <div className="flex flex-wrap items-end gap-3">
              <div className="w-96 max-w-full">
                <Field label="Name, one motor each" required maxLength={80} {...form.register('name')} />
              </div>
              {!motor && <StartFrom motors={motors} from={from} />}
            </div>
          </SheetPart>
          <RatingsPart form={form} />
          <MotorPart form={form} />
        </fieldset>
        <KeepPart motor={motor} mayChange={mayChange} keep={keep} done={() => void done()} />
      </form>
      {motor && motor.positions.length > 0 && (
        <SheetPart name="Positions">
          <p className="flex flex-wrap gap-x-4">
            {motor.positions.map((tag) => (
              <Link key={tag} to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
                {tag}
              </Link>
            ))}
          </p>
        </SheetPart>
      )}
    </Page>
  );
}

function MotorPart({ form }: { form: UseFormReturn<Fields> }) {
  return (
    <>
      <SheetPart name="Motor" state="what is the same on every supply">
        <div className="grid gap-3 md:grid-cols-5">
          {Object.entries(MOTOR_FIELDS).map(([key, { name, unit }]) => (
            <Field key={key} label={labelOf(name, unit)} {...form.register(`motor.${key}`)} />
          ))}
          <Choice
            below
            label="Temperature sensor"
            options={[{ id: '', name: 'not told' }, ...SENSORS.map((id) => ({ id, name: SENSOR_NAMES[id] }))]}
            {...form.register('motor.sensor')}
          />
          <div className="md:col-span-2">
            <Field
              label="Feedback"
              placeholder="none, resolver, encoder 1024 …"
              {...form.register('motor.feedback')}
            />
          </div>
        </div>
      </SheetPart>
      <SheetPart name="Brake" state="empty where there is none">
        <div className="grid gap-3 md:grid-cols-5">
          {Object.entries(BRAKE_FIELDS).map(([key, { name, unit }]) => (
            <Field
              key={key}
              label={labelOf(
                name.replace('Brake ', '').replace(/^./, (first) => first.toUpperCase()),
                unit,
              )}
              {...form.register(`brake.${key}`)}
            />
          ))}
        </div>
      </SheetPart>
    </>
  );
}

const labelOf = (name: string, unit: string): string => (unit === '' ? name : `${name}, ${unit}`);

function StartFrom({ motors, from }: { motors: readonly MotorView[]; from: MotorView | undefined }) {
  const navigate = useNavigate();
  return (
    <Choice
      below
      label="Start from the plate of"
      value={from?.id ?? ''}
      onChange={({ target }) =>
        void navigate(target.value === '' ? '/motors/new' : `/motors/new?from=${target.value}`, {
          replace: true,
        })
      }
      options={[{ id: '', name: 'an empty plate' }, ...motors]}
    />
  );
}

function RatingsPart({ form }: { form: UseFormReturn<Fields> }) {
  const ratings = useFieldArray({ control: form.control, name: 'ratings' });
  return (
    <SheetPart name="Ratings" state="one line for each supply on the plate">
      <div className="space-y-3">
        {ratings.fields.map((rating, at) => (
          <div key={rating.id} className="grid items-end gap-3 md:grid-cols-[repeat(7,1fr)_auto]">
            {Object.entries(RATING_FIELDS).map(([key, { name, unit }]) => (
              <Field key={key} label={labelOf(name, unit)} {...form.register(`ratings.${at}.${key}`)} />
            ))}
            <Choice
              below
              label="Connection"
              options={[{ id: '', name: 'not told' }, ...CONNECTIONS.map((id) => ({ id, name: id }))]}
              {...form.register(`ratings.${at}.connection`)}
            />
            <Button weight="quiet" disabled={ratings.fields.length === 1} onClick={() => ratings.remove(at)}>
              Take out
            </Button>
          </div>
        ))}
        <Button onClick={() => ratings.append({})}>Another supply</Button>
      </div>
    </SheetPart>
  );
}

function KeepPart({
  motor,
  mayChange,
  keep,
  done,
}: {
  motor: MotorView | undefined;
  mayChange: boolean;
  keep: UseMutationResult<unknown, ProblemError, Fields>;
  done: () => void;
}) {
  return (
    <SheetPart name={motor ? 'Keep' : 'Add'} state={motor && usedBy(motor)}>
      {mayChange ? (
        <div className="flex flex-wrap gap-3">
          <Button type="submit" weight="main" disabled={keep.isPending}>
            {motor ? 'Keep the changes' : 'Add the motor'}
          </Button>
          {motor && <MotorActions motor={motor} done={done} />}
        </div>
      ) : (
        <p className="text-soft">An engineer changes motors of the library.</p>
      )}
      {keep.error && (
        <div className="mt-2">
          <ProblemNotice error={keep.error} />
        </div>
      )}
    </SheetPart>
  );
}

const usedBy = ({ positions }: MotorView): string =>
  positions.length === 1 ? 'one position has it' : `${positions.length} positions have it`;

function MotorActions({ motor, done }: { motor: MotorView; done: () => void }) {
  const take = useMutation<unknown, ProblemError>({
    mutationFn: () => remove(`motors/${motor.id}`),
    onSuccess: done,
  });
  return (
    <>
      <Link
        to={`/motors/new?from=${motor.id}`}
        className="inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
      >
        Another one like it
      </Link>
      <Button weight="quiet" onClick={() => take.mutate()}>
        Remove it
      </Button>
      {take.error && <ProblemNotice error={take.error} />}
    </>
  );
}
