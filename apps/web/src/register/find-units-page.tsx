// Searching a line for units: what answers at which address, and whether the register knows it. From here a unit is
// taken into the register, or a swap is put on record.

import type { FoundKind, FoundUnitView, Role, ScanView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import { Link, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { queryClient, useLines, useScan, useScans, useSession } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showAge } from '../words/dates.ts';
import { Nothing, Unanswered } from '../ui/answer.tsx';

const FOUND: Readonly<Record<FoundKind, { readonly shape: string; readonly name: string }>> = {
  'other-serial': { shape: '!', name: 'other unit' },
  silent: { shape: '!', name: 'silent' },
  again: { shape: '=', name: 'the same unit' },
  elsewhere: { shape: '◆', name: 'elsewhere' },
  unknown: { shape: '＋', name: 'not registered' },
  'unknown-model': { shape: '?', name: 'unknown' },
  known: { shape: '✓', name: 'as registered' },
};
const WORST_FIRST = Object.keys(FOUND) as FoundKind[];

export function FindUnitsPage() {
  const [params, setParams] = useSearchParams();
  const { data: scans } = useScans();
  const shown = params.get('search') ?? scans?.[0]?.id;
  const { data: scan, error } = useScan(shown);
  const { data: session } = useSession();
  return (
    <Page title="Find units">
      <h1 className="text-2xl font-semibold">Find units on a line</h1>
      <p className="mt-1 mb-4 text-soft">
        Every address is asked who it is; nothing is written. Backups and other work on the line go on in
        between.
      </p>
      {session?.role !== 'viewer' && <StartPart open={(id) => setParams({ search: id })} />}
      {error && <ProblemNotice error={error} />}
      {scan && <Found scan={scan} role={session?.role ?? 'viewer'} mayAdd={session?.may.register ?? false} />}
      {scans && scans.length > 1 && (
        <SheetPart name="Searches before">
          <ul>
            {scans
              .filter(({ id }) => id !== scan?.id)
              .map((each) => (
                <li key={each.id}>
                  <Link to={`?search=${each.id}`} className="text-plum hover:underline">
                    {each.line}, {each.from} to {each.to}
                  </Link>{' '}
                  <span className="text-soft">
                    {showAge(each.startedAt)} by {each.startedBy}, {each.units.length} found
                  </span>
                </li>
              ))}
          </ul>
        </SheetPart>
      )}
    </Page>
  );
}

function StartPart({ open }: { open: (id: string) => void }) {
  const { data: lines, error } = useLines();
  const inUse = (lines ?? []).filter(({ retiredAt }) => retiredAt === null).map(({ name }) => name);
  return (
    <SheetPart name="Search">
      {!lines ? (
        <Unanswered error={error} what="the lines" />
      ) : inUse.length === 0 ? (
        <Nothing>
          There is no line yet on which units could be searched.{' '}
          <Link to="/lines?add=yes" className="text-plum underline">
            Add a line
          </Link>
        </Nothing>
      ) : (
        <StartForm lines={inUse} open={open} />
      )}
    </SheetPart>
  );
}

function StartForm({ lines, open }: { lines: readonly string[]; open: (id: string) => void }) {
  const [params] = useSearchParams();
  const { register, handleSubmit } = useForm({
    defaultValues: { line: params.get('line') ?? '', from: '1', to: '40' },
  });
  const start = useMutation<ScanView, ProblemError, { line: string; from: string; to: string }>({
    mutationFn: ({ line, from, to }) =>
      post('scans', { line: line || lines[0], from: Number(from), to: Number(to) }),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: ['scans'] });
      open(id);
    },
  });
  return (
    <>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => void handleSubmit((fields) => start.mutate(fields))(event)}
      >
        <div className="w-44">
          <Choice
            below
            label="Line"
            {...register('line')}
            options={lines.map((name) => ({ id: name, name }))}
          />
        </div>
        <div className="w-32">
          <Field label="First address" type="number" min={1} max={247} required {...register('from')} />
        </div>
        <div className="w-32">
          <Field label="Last address" type="number" min={1} max={247} required {...register('to')} />
        </div>
        <Button
          type="submit"
          weight="main"
          className="min-h-11"
          disabled={start.isPending || lines.length === 0}
        >
          Search this line
        </Button>
      </form>
      {start.error && (
        <div className="mt-2">
          <ProblemNotice error={start.error} />
        </div>
      )}
    </>
  );
}

function Found({ scan, role, mayAdd }: { scan: ScanView; role: Role; mayAdd: boolean }) {
  const span = scan.to - scan.from + 1;
  const running = scan.state === 'running';
  const units = [...scan.units].sort(
    (a, b) => WORST_FIRST.indexOf(a.found) - WORST_FIRST.indexOf(b.found) || a.address - b.address,
  );
  const stop = useMutation({
    mutationFn: () => post<ScanView>(`scans/${scan.id}/stop`),
    onSuccess: (now) => queryClient.setQueryData([`scans/${scan.id}`], now),
  });
  const known = units.filter(({ found }) => found === 'known').length;
  return (
    <SheetPart name={scan.line} state={`addresses ${scan.from} to ${scan.to}`}>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <progress
          value={scan.asked}
          max={span}
          aria-label="Addresses asked"
          className="h-2 w-48 accent-plum"
        />
        <span role="status">
          {scan.asked} of {span} asked, {units.length} found{known > 0 && `, ${known} as registered`}
          {scan.state === 'stopped' && ', stopped'}
          {scan.state === 'interrupted' && ', interrupted: search again'}
        </span>
        {running && role !== 'viewer' && <Button onClick={() => stop.mutate()}>Stop</Button>}
        <span className="text-sm text-soft">
          {showAge(scan.startedAt)} by {scan.startedBy}
        </span>
      </div>
      {scan.text && <Notice level="stop">{scan.text}</Notice>}
      <ul>
        {units.map((unit) => (
          <FoundLine key={unit.address} {...{ scan, unit, role, mayAdd }} />
        ))}
      </ul>
      {!running && units.length === 0 && <p className="text-soft">Nothing answers at these addresses.</p>}
    </SheetPart>
  );
}

interface FoundProps {
  readonly scan: ScanView;
  readonly unit: FoundUnitView;
  readonly role: Role;
  readonly mayAdd: boolean;
}

function FoundLine({ scan, unit, role, mayAdd }: FoundProps) {
  const { shape, name } = FOUND[unit.found];
  const quiet = unit.found === 'known';
  return (
    <li
      data-address={unit.address}
      className={`grid grid-cols-[3rem_9rem_1fr_auto] items-center gap-x-3 border-b border-rule py-1.5 ${quiet ? '' : 'bg-look-wash/60'}`}
    >
      <span className="text-right font-mono">{unit.address}</span>
      <span className={quiet ? 'text-soft' : 'font-semibold'}>
        <span aria-hidden="true">{shape}</span> {name}
      </span>
      <span className="min-w-0">
        {unit.tag && (
          <Link to={`/positions/${unit.tag}`} className="mr-2 font-mono text-plum hover:underline">
            {unit.tag}
          </Link>
        )}
        {unit.model && (
          <>
            {unit.model} {unit.rating}, serial <span className="font-mono">{unit.serial}</span>, firmware{' '}
            {unit.firmware}
          </>
        )}
        {!quiet && <span className="block text-sm">{unit.text}</span>}
      </span>
      <NextStep {...{ scan, unit, role, mayAdd }} />
    </li>
  );
}

function NextStep({ scan, unit, role, mayAdd }: FoundProps) {
  const facts = new URLSearchParams({
    dictionary: unit.dictionary ?? '',
    rating: unit.rating ?? '',
    serial: String(unit.serial ?? ''),
    firmware: unit.firmware,
    line: scan.line,
    lineAddress: String(unit.address),
  }).toString();
  const look = 'rounded border border-rule bg-sheet px-3 py-1 text-sm hover:border-plum max-lg:py-3';
  if (unit.found === 'unknown' && mayAdd)
    return (
      <Link to={`/positions/new?${facts}`} className={look}>
        Take into the register
      </Link>
    );
  if (unit.found === 'other-serial' && unit.tag && role !== 'viewer')
    return (
      <Link to={`/positions/${unit.tag}/record?${facts}`} className={look}>
        Record a swap
      </Link>
    );
  return <span />;
}
