// Supplies and cabinets of the plant. What a supply is nominally and what is measured there are two things: the measured
// voltages stand as a series, each with its time and who took it.

import type { CabinetView, MeasurementView, SiteView, SupplyView } from '@drive-keep/api';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { asTyped, forPeople } from '@drive-keep/core/values';
import { post, put, type ProblemError } from '../api/client.ts';
import { useSession, useSite } from '../api/queries.ts';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showDate } from '../words/dates.ts';
import { NumberField, SelectField, TextField } from './site-fields.tsx';

export function SitePage() {
  const { data: site, error } = useSite();
  const { data: session } = useSession();
  if (!site || !session) return <Unanswered error={error} what="supplies and cabinets" />;
  const mayWrite = session.role !== 'viewer';
  return (
    <Page title="Supplies and cabinets">
      <h1 className="text-2xl font-semibold">Supplies and cabinets</h1>
      <p className="mt-1 mb-3 text-soft">
        What the mains are nominally, what was measured, and how warm it gets. To which of them a position
        belongs stands on its record.
      </p>
      {site.supplies.length === 0 && (
        <Nothing>No supply yet. Add the first one: its name, and what it is nominally.</Nothing>
      )}
      {site.supplies.map((supply) => (
        <SupplyPart key={supply.id} supply={supply} mayWrite={mayWrite} mayChange={session.may.register} />
      ))}
      {session.may.register && (
        <SheetPart name="A further supply" state="">
          <SupplyForm name="Add the supply" send={(wish) => post('site/supplies', wish)} />
        </SheetPart>
      )}
      <SheetPart name="Cabinets" state={`${site.cabinets.length}`}>
        {site.cabinets.length === 0 && <Nothing>No cabinet yet.</Nothing>}
        <ul>
          {site.cabinets.map((cabinet) => (
            <CabinetRow key={cabinet.id} cabinet={cabinet} mayChange={session.may.register} />
          ))}
        </ul>
        {session.may.register && (
          <div className="mt-2">
            <CabinetForm name="Add the cabinet" send={(wish) => post('site/cabinets', wish)} />
          </div>
        )}
      </SheetPart>
    </Page>
  );
}

interface SupplyFields {
  readonly name: string;
  readonly nominalVolts: string;
  readonly frequency: string;
  /** Empty where nobody has said. */
  readonly residual: string;
}

function useSiteChange(then: () => void) {
  const queries = useQueryClient();
  return useMutation<SiteView, ProblemError, () => Promise<SiteView>>({
    mutationFn: (work) => work(),
    onSuccess: (site) => {
      queries.setQueryData(['site'], site);
      then();
    },
  });
}

function SupplyForm({
  name,
  supply,
  send,
  done = () => undefined,
}: {
  name: string;
  supply?: SupplyView;
  send: (wish: object) => Promise<SiteView>;
  done?: () => void;
}) {
  const form = useForm<SupplyFields>({
    values: {
      name: supply?.name ?? '',
      nominalVolts: String(supply?.nominalVolts ?? 400),
      frequency: String(supply?.frequency ?? 50),
      residual: String(supply?.residualMilliamps ?? ''),
    },
  });
  const change = useSiteChange(() => {
    form.reset();
    done();
  });
  const submit = form.handleSubmit(({ name: own, nominalVolts, frequency, residual }) => {
    const wish = {
      ...{ name: own.trim(), nominalVolts: Number(nominalVolts), frequency: Number(frequency) },
      residualMilliamps: asWhole(residual),
    };
    if (!change.isPending) change.mutate(() => send(supply ? { ...wish, version: supply.version } : wish));
  });
  return (
    <form className="flex flex-wrap items-end gap-3" onSubmit={(event) => void submit(event)}>
      <TextField label="Name" {...form.register('name', { required: true })} />
      <NumberField label="Nominal, V" {...form.register('nominalVolts', { required: true })} />
      <NumberField label="Residual current, mA" title="0 for none" {...form.register('residual')} />
      <SelectField label="Frequency" options={{ 50: '50 Hz', 60: '60 Hz' }} {...form.register('frequency')} />
      <Button type="submit" disabled={change.isPending}>
        {name}
      </Button>
      {change.error && <ProblemNotice error={change.error} />}
    </form>
  );
}

function SupplyPart({
  supply,
  mayWrite,
  mayChange,
}: {
  supply: SupplyView;
  mayWrite: boolean;
  mayChange: boolean;
}) {
  const [open, setOpen] = useState(false);
  const [newest] = supply.measurements;
  return (
    <SheetPart name={supply.name} state={positionsText(supply.positions)}>
      <p>
        Nominal <b>{supply.nominalVolts} V</b> {supply.frequency} Hz.{' '}
        {newest ? (
          <>
            Measured <b>{volts(newest)}</b> on {showDate(newest.at)}, {againstNominal(supply, newest)}.
          </>
        ) : (
          'Nobody has measured it yet.'
        )}{' '}
        {residualText(supply)}{' '}
        {mayChange && (
          <Button weight="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            Change
          </Button>
        )}
      </p>
      {open && (
        <SupplyForm
          name="Keep the change"
          supply={supply}
          send={(wish) => put(`site/supplies/${supply.id}`, wish)}
          done={() => setOpen(false)}
        />
      )}
      {supply.measurements.length > 0 && (
        <table className="mt-2 text-left text-sm" aria-label={`Measured at ${supply.name}`}>
          <thead className="border-b border-rule text-soft max-sm:hidden">
            <tr className="[&>th]:py-1 [&>th]:pr-5 [&>th]:font-normal">
              <th>Measured</th>
              <th>Against nominal</th>
              <th>When</th>
              <th>By whom</th>
              <th>Note</th>
            </tr>
          </thead>
          <tbody>
            {supply.measurements.map((each) => (
              <tr
                key={`${each.at} ${each.volts} ${each.person}`}
                className="border-b border-rule max-sm:flex max-sm:flex-wrap [&>td]:py-1 [&>td]:pr-5"
              >
                <td className="font-mono whitespace-nowrap">{volts(each)}</td>
                <td className="font-mono whitespace-nowrap">{againstNominal(supply, each)}</td>
                <td className="whitespace-nowrap">{showDate(each.at)}</td>
                <td className="whitespace-nowrap">{each.person}</td>
                <td>{each.note}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {mayWrite && <MeasurementForm supply={supply} />}
    </SheetPart>
  );
}

const positionsText = (count: number): string => (count === 1 ? '1 position' : `${count} positions`);

const volts = ({ volts: value }: MeasurementView): string => `${forPeople(value.toFixed(1))} V`;

function againstNominal({ nominalVolts }: SupplyView, { volts: value }: MeasurementView): string {
  const share = (value / nominalVolts - 1) * 100;
  return `${share >= 0 ? '+' : '−'}${forPeople(Math.abs(share).toFixed(1))} %`;
}

function MeasurementForm({ supply }: { supply: SupplyView }) {
  const form = useForm({ defaultValues: { volts: '', note: '' } });
  const change = useSiteChange(() => form.reset());
  const submit = form.handleSubmit(({ volts: typed, note }) => {
    const value = Number(asTyped(typed.trim()));
    if (change.isPending) return;
    if (!/^\d+([.,]\d)?$/.test(typed.trim()) || !Number.isFinite(value))
      form.setError('volts', { message: 'Type volts with at most one decimal.' });
    else
      change.mutate(() =>
        post(`site/supplies/${supply.id}/measurements`, { volts: value, note: note.trim() }),
      );
  });
  const trouble = form.formState.errors.volts?.message;
  return (
    <form className="mt-2 flex flex-wrap items-end gap-3" onSubmit={(event) => void submit(event)}>
      <NumberField
        label={`Measured now at ${supply.name}, V`}
        {...form.register('volts', { required: true })}
      />
      <TextField label="Note" {...form.register('note')} />
      <Button type="submit" disabled={change.isPending}>
        Keep the measurement
      </Button>
      {trouble && <span role="alert">{trouble}</span>}
      {change.error && <ProblemNotice error={change.error} />}
    </form>
  );
}

function CabinetForm({
  name,
  cabinet,
  send,
  done = () => undefined,
}: {
  name: string;
  cabinet?: CabinetView;
  send: (wish: object) => Promise<SiteView>;
  done?: () => void;
}) {
  const form = useForm({
    values: {
      name: cabinet?.name ?? '',
      ambient: cabinet?.ambient === null ? '' : String(cabinet?.ambient ?? ''),
    },
  });
  const change = useSiteChange(() => {
    form.reset();
    done();
  });
  const submit = form.handleSubmit(({ name: own, ambient }) => {
    const wish = { name: own.trim(), ambient: ambient.trim() === '' ? null : Number(ambient) };
    if (!change.isPending) change.mutate(() => send(cabinet ? { ...wish, version: cabinet.version } : wish));
  });
  return (
    <form className="flex flex-wrap items-end gap-3" onSubmit={(event) => void submit(event)}>
      <TextField label="Name of the cabinet" {...form.register('name', { required: true })} />
      <NumberField label="Warmest in it, °C" {...form.register('ambient')} />
      <Button type="submit" disabled={change.isPending}>
        {name}
      </Button>
      {change.error && <ProblemNotice error={change.error} />}
    </form>
  );
}

function CabinetRow({ cabinet, mayChange }: { cabinet: CabinetView; mayChange: boolean }) {
  const [open, setOpen] = useState(false);
  return (
    <li className="border-b border-rule py-1">
      <span className="inline-block min-w-72">{cabinet.name}</span>
      <span className="inline-block min-w-44">
        {cabinet.ambient === null ? (
          <span className="text-soft">temperature not told</span>
        ) : (
          `up to ${cabinet.ambient} °C`
        )}
      </span>
      <span className="text-soft">{positionsText(cabinet.positions)}</span>
      {mayChange && (
        <Button weight="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          Change
        </Button>
      )}
      {open && (
        <CabinetForm
          name="Keep the change"
          cabinet={cabinet}
          send={(wish) => put(`site/cabinets/${cabinet.id}`, wish)}
          done={() => setOpen(false)}
        />
      )}
    </li>
  );
}

/** What is no number goes to the server as it is, and is refused there. */
const asWhole = (text: string): number | string | null =>
  text.trim() === '' ? null : Number.isFinite(Number(text)) ? Number(text) : text;

const residualText = ({ residualMilliamps: trips }: SupplyView): string =>
  trips === null
    ? 'Whether a residual-current device stands before it, nobody has said.'
    : trips === 0
      ? 'No residual-current device.'
      : `Residual-current device of ${trips} mA.`;
