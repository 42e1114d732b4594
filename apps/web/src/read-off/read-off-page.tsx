// Reading off a keypad-only unit in the order of its menus, on a phone at the open cabinet: the default is shown, "as
// default" is one touch, for a line or for the rest of a group. It goes on without a network.

import type { ImportedBackup, PositionDetailView } from '@drive-keep/api';
import {
  defaultOf,
  factsOf,
  isNoise,
  type Dictionary,
  type Facts,
  type Parameter,
} from '@drive-keep/core/dictionary';
import { showRaw } from '@drive-keep/core/values';
import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, remove, type ProblemError } from '../api/client.ts';
import { forgetPositions, useDictionary, usePosition } from '../api/queries.ts';
import { BroughtProgress } from '../ui/brought-progress.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { Conflicts } from './conflicts.tsx';
import { useReadOffStore } from './read-off-store.ts';
import { useReadOff, type ReadOffState } from './use-read-off.ts';
import { ValuePad } from './value-pad.tsx';
import { Unanswered } from '../ui/answer.tsx';

export function ReadOffPage() {
  const { tag = '' } = useParams();
  const { data: position, error } = usePosition(tag);
  const { data: dictionary } = useDictionary(position?.unit.dictionary);
  if (!position || !dictionary) return <Unanswered error={error} what="this position" />;
  return <Sheet position={position} dictionary={dictionary} />;
}

interface Menu {
  readonly name: string;
  readonly parameters: readonly Parameter[];
}

/** By the first two steps of the menu path, in the order of the keypad. */
function menusOf({ parameters }: Dictionary): readonly Menu[] {
  const menus: { name: string; parameters: Parameter[] }[] = [];
  for (const parameter of parameters) {
    if (isNoise(parameter)) continue;
    const name = parameter.menu.slice(0, 2).join(' › ');
    const open = menus.at(-1);
    if (open?.name === name) open.parameters.push(parameter);
    else menus.push({ name, parameters: [parameter] });
  }
  return menus;
}

function Sheet({ position, dictionary }: { position: PositionDetailView; dictionary: Dictionary }) {
  const { tag, unit } = position;
  const facts = useMemo(() => factsOf(dictionary, unit) ?? {}, [dictionary, unit]);
  const menus = useMemo(() => menusOf(dictionary), [dictionary]);
  const state = useReadOff(tag, unit.serial);
  const enter = useReadOffStore((store) => store.enter);
  const [openCode, setOpenCode] = useState<string>();
  const { entries } = state.own;
  const codes = menus.flatMap(({ parameters }) => parameters.map(({ code }) => code as string));
  const done = codes.filter((code) => code in entries).length;
  const goOn = (after: string) => {
    const read = useReadOffStore.getState().byTag[tag]?.entries ?? {};
    const left = codes.slice(codes.indexOf(after) + 1).find((code) => !(code in read));
    setOpenCode(left);
    if (left)
      requestAnimationFrame(() =>
        document.getElementById(`line-${left}`)?.scrollIntoView({ block: 'center' }),
      );
  };
  return (
    <Page title={`Read off ${tag}`}>
      <div className="mx-auto max-w-3xl">
        <h1 className="text-xl font-semibold">
          Read off{' '}
          <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
            {tag}
          </Link>
        </h1>
        <p className="text-soft">
          {position.duty} · {unit.maker} {unit.model} {unit.rating}, serial{' '}
          <b className="font-mono text-ink">{unit.serial}</b>. Compare it with the plate of the unit first.
        </p>
        <BroughtProgress
          done={done}
          total={codes.length}
          label="Read off so far"
          network={state.network}
          kept={keptText(done, state)}
        />
        <Conflicts tag={tag} conflicts={state.own.conflicts} dictionary={dictionary} />
        {state.error && <ProblemNotice error={state.error} />}
        {menus.map((menu) => (
          <MenuPart
            key={menu.name}
            menu={menu}
            facts={facts}
            entries={entries}
            openCode={openCode}
            open={setOpenCode}
            enter={(values, last) => {
              enter(tag, unit.serial, values);
              if (last) goOn(last);
            }}
          />
        ))}
        <KeepPart tag={tag} done={done} total={codes.length} state={state} />
      </div>
    </Page>
  );
}

function keptText(done: number, { waiting, network }: ReadOffState): string {
  if (network === 'away')
    return `No network: ${waiting} on this device only. Go on; they are sent when it is back.`;
  if (done === 0) return 'Every value is kept on this device at once.';
  return waiting > 0 ? `${waiting} being sent` : 'All of it is on the server.';
}

function MenuPart({
  menu,
  facts,
  entries,
  openCode,
  open,
  enter,
}: {
  menu: Menu;
  facts: Facts;
  entries: ReadOffState['own']['entries'];
  openCode: string | undefined;
  open: (code: string | undefined) => void;
  enter: (values: Readonly<Record<string, number>>, last?: string) => void;
}) {
  const left = menu.parameters.filter(({ code }) => !(code in entries));
  const defaults = left.flatMap((parameter) => {
    const raw = defaultOf(parameter, facts);
    return raw === undefined ? [] : [[parameter.code, raw] as const];
  });
  return (
    <section className="mt-4">
      <div className="flex items-center gap-3 border-b-2 border-rule pb-1">
        <h2 className="min-w-0 flex-1 truncate font-semibold">{menu.name}</h2>
        {defaults.length > 0 ? (
          <Button className="min-h-12" onClick={() => enter(Object.fromEntries(defaults))}>
            {left.length === menu.parameters.length ? 'All' : `The other ${defaults.length}`} as default
          </Button>
        ) : (
          <span className="py-3 text-sm text-soft">✓ all read</span>
        )}
      </div>
      <ul>
        {menu.parameters.map((parameter) => (
          <Line
            key={parameter.code}
            parameter={parameter}
            facts={facts}
            present={entries[parameter.code]?.raw}
            isOpen={openCode === parameter.code}
            open={open}
            enter={enter}
          />
        ))}
      </ul>
    </section>
  );
}

function Line({
  parameter,
  facts,
  present,
  isOpen,
  open,
  enter,
}: {
  parameter: Parameter;
  facts: Facts;
  present: number | undefined;
  isOpen: boolean;
  open: (code: string | undefined) => void;
  enter: (values: Readonly<Record<string, number>>, last?: string) => void;
}) {
  const { code, form } = parameter;
  const usual = defaultOf(parameter, facts);
  const asDefault = present !== undefined && present === usual;
  return (
    <li id={`line-${code}`} data-code={code} className="border-b border-rule">
      <div className="flex min-h-14 items-stretch gap-2">
        <button
          type="button"
          aria-expanded={isOpen}
          onClick={() => open(isOpen ? undefined : code)}
          className="grid min-w-0 flex-1 grid-cols-[4.2rem_1fr] items-center gap-x-2 text-left"
        >
          <span className="font-mono text-lg">{code}</span>
          <span className="min-w-0">
            <span className="block truncate">{parameter.name}</span>
            {present === undefined ? (
              <span className="block truncate text-sm text-soft">
                default {usual === undefined ? 'none' : showRaw(form, usual)}
              </span>
            ) : (
              <span className={`block truncate font-mono ${asDefault ? 'text-soft' : 'font-semibold'}`}>
                ✓ {showRaw(form, present)}
                {asDefault && <span className="font-sans"> (default)</span>}
              </span>
            )}
          </span>
        </button>
        {present === undefined && usual !== undefined && (
          <Button
            className="my-1 min-h-12 shrink-0"
            aria-label={`${code} as default`}
            onClick={() => enter({ [code]: usual }, code)}
          >
            as default
          </Button>
        )}
      </div>
      {isOpen && (
        <div className="pb-3">
          <ValuePad
            key={code}
            parameter={parameter}
            facts={facts}
            present={present}
            usual={usual}
            enter={(raw) => enter({ [code]: raw }, code)}
          />
        </div>
      )}
    </li>
  );
}

function KeepPart({
  tag,
  done,
  total,
  state,
}: {
  tag: string;
  done: number;
  total: number;
  state: ReadOffState;
}) {
  const [reason, setReason] = useState('Read off at the keypad');
  const forget = useReadOffStore((store) => store.forget);
  const navigate = useNavigate();
  const keep = useMutation<ImportedBackup, ProblemError>({
    mutationFn: async () => {
      await state.sendNow();
      return post(`positions/${tag}/read-off/keep`, { reason: reason.trim() });
    },
    onSuccess: async ({ backupId }) => {
      forget(tag);
      await forgetPositions();
      void navigate(`/positions/${tag}?b=backup:${backupId}`);
    },
  });
  const drop = useMutation<unknown, ProblemError>({
    mutationFn: () => remove(`positions/${tag}/read-off`),
    onSettled: () => forget(tag),
  });
  const waits = state.network === 'away' || state.waiting > 0 || state.own.conflicts.length > 0;
  if (done === 0) return null;
  return (
    <section className="mt-6 space-y-3 border-t-2 border-plum pt-4">
      {done < total && (
        <Notice level="look">
          {total - done} are not read off yet. They would be kept as not read, never as their default.
        </Notice>
      )}
      <label className="block">
        <span className="mb-1 block text-sm font-medium">Reason, for the record</span>
        <input
          value={reason}
          maxLength={200}
          onChange={({ target }) => setReason(target.value)}
          className="h-12 w-full rounded border border-rule bg-sheet px-3"
        />
      </label>
      <div className="flex flex-wrap gap-3">
        <Button
          weight="main"
          className="min-h-14 text-base"
          disabled={waits || keep.isPending || reason.trim() === ''}
          onClick={() => keep.mutate()}
        >
          Keep {done} values as a backup
        </Button>
        <Button className="min-h-14" disabled={state.network === 'away'} onClick={() => drop.mutate()}>
          Drop them all
        </Button>
      </div>
      {waits && (
        <p className="text-sm text-soft">
          {state.own.conflicts.length > 0
            ? 'First choose between the values that two people entered.'
            : 'It becomes a backup when the network is back.'}
        </p>
      )}
      {keep.error && <ProblemNotice error={keep.error} />}
    </section>
  );
}
