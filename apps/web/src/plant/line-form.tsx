// Adds a line or changes one. It can be tried as it stands in the form, before it is kept.

import type { LineView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { post, put, type ProblemError } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { useSeenVersion } from '../ui/seen-version.ts';
import { LineTrialText, useTrial, type LineSettings } from './line-trial.tsx';

interface Fields {
  name: string;
  host: string;
  port: string;
  framing: 'tcp' | 'rtu';
  timeoutMs: string;
  retries: string;
  pauseMs: string;
  largestRead: string;
}

const FRAMINGS = [
  { id: 'tcp', name: 'Modbus TCP' },
  { id: 'rtu', name: 'RTU frames over TCP' },
] as const;

export function LineForm({ line, done }: { line?: LineView; done: () => void }) {
  const { register, handleSubmit, getValues, trigger, formState } = useForm<Fields>({
    defaultValues: fieldsOf(line),
  });
  const version = useSeenVersion(line?.version ?? 1, formState.isDirty);
  const trial = useTrial();
  const save = useMutation<LineView, ProblemError, Fields>({
    mutationFn: (fields) => {
      const wish = { name: fields.name.trim(), ...settingsOf(fields) };
      return line ? put(`lines/${line.id}`, { ...wish, version }) : post('lines', wish);
    },
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: ['lines'] });
      done();
    },
  });
  const number = { type: 'number', required: true, step: 1 } as const;
  return (
    <form
      className="my-3 rounded border border-rule bg-sheet p-4"
      onSubmit={(event) => void handleSubmit((fields) => save.mutate(fields))(event)}
    >
      <div className="grid gap-3 md:grid-cols-4">
        <Field
          label="Name"
          required
          maxLength={40}
          placeholder="Kiln hall"
          {...register('name', { required: true })}
        />
        <Field
          label="Address of the gateway"
          required
          maxLength={253}
          placeholder="10.0.4.21"
          {...register('host', { required: true })}
        />
        <Field
          label="Port"
          {...number}
          min={1}
          max={65535}
          {...register('port', { required: true, min: 1, max: 65535 })}
        />
        <Choice below label="Frames" options={FRAMINGS} {...register('framing')} />
        <Field label="Waits for an answer, ms" {...number} min={50} max={10000} {...register('timeoutMs')} />
        <Field label="Asks again, times" {...number} min={0} max={5} {...register('retries')} />
        <Field label="Pause between requests, ms" {...number} min={0} max={1000} {...register('pauseMs')} />
        <Field label="Registers at once" {...number} min={1} max={125} {...register('largestRead')} />
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button type="submit" weight="main" disabled={save.isPending}>
          {line ? 'Keep the changes' : 'Keep the line'}
        </Button>
        <Button
          disabled={trial.isPending}
          onClick={() => {
            void trigger(['host', 'port']).then((filled) => {
              if (filled) trial.mutate(settingsOf(getValues()));
            });
          }}
        >
          {trial.isPending ? 'Trying …' : 'Try it first'}
        </Button>
        <Button weight="quiet" onClick={done}>
          Not now
        </Button>
      </div>
      <LineTrialText trial={trial} />
      {save.error && (
        <div className="mt-2">
          <ProblemNotice error={save.error} />
        </div>
      )}
    </form>
  );
}

const fieldsOf = (line?: LineView): Fields => ({
  name: line?.name ?? '',
  host: line?.host ?? '',
  port: String(line?.port ?? 502),
  framing: line?.framing ?? 'tcp',
  timeoutMs: String(line?.timeoutMs ?? 1000),
  retries: String(line?.retries ?? 1),
  pauseMs: String(line?.pauseMs ?? 0),
  largestRead: String(line?.largestRead ?? 125),
});

const settingsOf = (fields: Fields): LineSettings => ({
  host: fields.host.trim(),
  port: Number(fields.port),
  framing: fields.framing,
  timeoutMs: Number(fields.timeoutMs),
  retries: Number(fields.retries),
  pauseMs: Number(fields.pauseMs),
  largestRead: Number(fields.largestRead),
});
