// The record of a position: what is said of it and of its unit, the units before it, and the ways it changes. A unit
// that is replaced and a position that is given up are events of their own; what was kept stays.

import type { PositionDetailView } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { patch, post, put, remove, type ProblemError } from '../api/client.ts';
import { forgetPositions, useMotors, usePosition, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { PositionSite } from '../site/position-site.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { useSeenVersion } from '../ui/seen-version.ts';
import { showDate } from '../words/dates.ts';
import {
  PlaceInputs,
  placeOf,
  unitBody,
  UnitInputs,
  unitOf,
  type PlaceFields,
  type UnitFields,
} from './register-inputs.tsx';

export function RecordPage() {
  const { tag = '' } = useParams();
  const { data: position, error } = usePosition(tag);
  const { data: session } = useSession();
  if (!position || !session) return <Unanswered error={error} what="this position" />;
  const retired = position.retiredAt !== null;
  const engineer = session.may.register;
  return (
    <Page title={`Record of ${tag}`}>
      <h1 className="text-2xl font-semibold">
        Record of{' '}
        <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
          {tag}
        </Link>
      </h1>
      <p className="mt-1 mb-4 text-soft">
        The position and its history stay, whichever unit sits there. Nothing here is written to the unit.
      </p>
      {position.retiredAt && (
        <div className="mb-4">
          <Notice level="look">
            Retired on {showDate(position.retiredAt)}: {position.retiredWhy}
          </Notice>
        </div>
      )}
      <div key={position.tag}>
        {engineer && !retired && <PlacePart position={position} />}
        {session.role !== 'viewer' && !retired && <MotorPart position={position} />}
        {!retired && <PositionSite tag={position.tag} mayChange={engineer} />}
        {engineer && !retired && <UnitPart position={position} />}
        {session.role !== 'viewer' && <SwapPart position={position} />}
        <FormerUnits position={position} />
        {engineer && <RetirePart position={position} />}
      </div>
    </Page>
  );
}

function useChange(then: (position: PositionDetailView) => void = () => undefined) {
  return useMutation<PositionDetailView, ProblemError, () => Promise<PositionDetailView>>({
    mutationFn: (work) => work(),
    onSuccess: async (position) => {
      await forgetPositions();
      then(position);
    },
  });
}

/** What comes from the server fills a form, but for what somebody is typing. */
const KEEP_TYPED = { keepDirtyValues: true };

function PlacePart({ position }: { position: PositionDetailView }) {
  const form = useForm<PlaceFields>({ values: placeOf(position), resetOptions: KEEP_TYPED });
  const version = useSeenVersion(position.version, form.formState.isDirty);
  const navigate = useNavigate();
  const change = useChange(({ tag }) => void navigate(`/positions/${tag}/record`, { replace: true }));
  const send = form.handleSubmit((fields) =>
    change.mutate(() => patch(`positions/${position.tag}`, { ...fields, tag: fields.tag.trim(), version })),
  );
  return (
    <SheetPart
      name="Place and duty"
      state={form.formState.isDirty ? 'changed, not kept yet' : 'as registered'}
    >
      <form onSubmit={(event) => void send(event)}>
        <PlaceInputs form={form} />
        <Ending name="Keep these changes" disabled={!form.formState.isDirty} change={change} />
      </form>
    </SheetPart>
  );
}

function MotorPart({ position }: { position: PositionDetailView }) {
  const { data: motors, error } = useMotors();
  const assign = useMutation<unknown, ProblemError, string>({
    mutationFn: (id) => put(`positions/${position.tag}/motor`, { motor: id === '' ? null : id }),
    onSuccess: forgetPositions,
  });
  return (
    <SheetPart name="Motor" state={position.motorId ? 'of the library' : 'not in the library'}>
      {!motors && <Unanswered error={error} what="the motors of the library" />}
      <div className={motors ? 'flex flex-wrap items-center gap-3' : 'hidden'}>
        <Choice
          label="Motor of the library"
          hidden
          value={position.motorId ?? ''}
          onChange={({ target }) => assign.mutate(target.value)}
          options={[{ id: '', name: 'none of the library' }, ...(motors ?? [])]}
        />
        <span className="text-soft">{position.motor}</span>
        {position.motorId && (
          <Link to={`/motors/${position.motorId}`} className="text-plum hover:underline">
            Its plate
          </Link>
        )}
      </div>
      {assign.error && <ProblemNotice error={assign.error} />}
    </SheetPart>
  );
}

function UnitPart({ position }: { position: PositionDetailView }) {
  const form = useForm<UnitFields>({ values: unitOf(position), resetOptions: KEEP_TYPED });
  const version = useSeenVersion(position.unitVersion, form.formState.isDirty);
  const change = useChange();
  const send = form.handleSubmit((fields) =>
    change.mutate(() => put(`positions/${position.tag}/unit`, { ...unitBody(fields), version })),
  );
  return (
    <SheetPart name="Unit in place" state="corrections, new firmware, another address">
      <form onSubmit={(event) => void send(event)}>
        <UnitInputs form={form} />
        <Ending name="Keep what is said of the unit" disabled={!form.formState.isDirty} change={change} />
      </form>
    </SheetPart>
  );
}

function SwapPart({ position }: { position: PositionDetailView }) {
  const [known] = useSearchParams();
  const found = known.get('serial') !== null;
  const [open, setOpen] = useState(found || known.get('swap') !== null);
  const form = useForm<UnitFields & { reason: string }>({
    defaultValues: {
      ...unitOf(position),
      serial: '',
      reason: '',
      ...filledIn(known),
    },
  });
  const navigate = useNavigate();
  const swap = useChange(({ tag }) => {
    setOpen(false);
    void navigate(`/positions/${tag}/record`, { replace: true });
  });
  const send = form.handleSubmit(({ reason, ...fields }) =>
    swap.mutate(() => post(`positions/${position.tag}/swap`, { ...unitBody(fields), reason: reason.trim() })),
  );
  return (
    <SheetPart name="Swap the unit" state="another drive sits here from now on">
      {!open ? (
        <Button onClick={() => setOpen(true)}>Record a swap</Button>
      ) : (
        <form onSubmit={(event) => void send(event)}>
          {found && (
            <p className="mb-2 text-sm text-soft">Filled in from what answered on the line. Check it.</p>
          )}
          <UnitInputs form={form} />
          <Reason form={form.register('reason')} placeholder="Failed output stage" />
          <Ending name={`Swap the unit of ${position.tag}`} disabled={false} change={swap} />
        </form>
      )}
    </SheetPart>
  );
}

/** What the address brings along of another unit. */
function filledIn(known: URLSearchParams): Partial<UnitFields> {
  const fields = ['dictionary', 'rating', 'region', 'serial', 'firmware', 'line', 'lineAddress'] as const;
  return Object.fromEntries(fields.flatMap((name) => (known.has(name) ? [[name, known.get(name)]] : [])));
}

function FormerUnits({ position: { formerUnits } }: { position: PositionDetailView }) {
  return (
    <SheetPart name="Units before" state={formerUnits.length === 0 ? 'none' : `${formerUnits.length}`}>
      {formerUnits.length === 0 ? (
        <p className="text-soft">The unit in place is the first one. A swap puts it here.</p>
      ) : (
        <ul>
          {formerUnits.map((unit) => (
            <li key={`${unit.serial} ${unit.removedAt}`} className="border-b border-rule py-1">
              {unit.model} {unit.rating}, serial <span className="font-mono">{unit.serial}</span>, firmware{' '}
              {unit.firmware}{' '}
              <span className="text-soft">
                · from {showDate(unit.installedAt)} to {showDate(unit.removedAt)}
                {unit.why && ` · ${unit.why}`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </SheetPart>
  );
}

function RetirePart({ position }: { position: PositionDetailView }) {
  const form = useForm<{ reason: string }>({ defaultValues: { reason: '' } });
  const change = useChange();
  const { tag } = position;
  if (position.retiredAt !== null) {
    return (
      <SheetPart name="Bring back" state="with the unit that it had">
        <Button onClick={() => change.mutate(() => remove(`positions/${tag}/retirement`))}>
          Bring {tag} back
        </Button>
        {change.error && <ProblemNotice error={change.error} />}
      </SheetPart>
    );
  }
  const send = form.handleSubmit(({ reason }) =>
    change.mutate(async () => {
      await post('register/retire', { positions: [tag], reason: reason.trim() });
      return position;
    }),
  );
  return (
    <SheetPart name="Retire" state="nothing is there any more">
      <form onSubmit={(event) => void send(event)}>
        <p className="text-soft">
          The position leaves the register and the rounds. Its backups, baselines and logbook stay readable.
        </p>
        <Reason form={form.register('reason')} placeholder="Machine dismantled" />
        <Ending name={`Retire ${tag}`} disabled={false} change={change} />
      </form>
    </SheetPart>
  );
}

function Reason({ form, placeholder }: { form: object; placeholder: string }) {
  return (
    <label className="mt-3 block max-w-xl">
      <span className="mb-1 block text-sm font-medium">Reason, for the record</span>
      <input
        required
        maxLength={200}
        placeholder={placeholder}
        className="h-11 w-full rounded border border-rule bg-sheet px-3"
        {...form}
      />
    </label>
  );
}

function Ending({
  name,
  disabled,
  change,
}: {
  name: string;
  disabled: boolean;
  change: ReturnType<typeof useChange>;
}) {
  return (
    <div className="mt-3 space-y-2">
      <Button type="submit" disabled={disabled || change.isPending}>
        {name}
      </Button>
      {change.error && <ProblemNotice error={change.error} />}
    </div>
  );
}
