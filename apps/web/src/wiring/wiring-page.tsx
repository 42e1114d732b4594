// The field wiring of a position: drawn as a strip, typed as tables, checked at every keystroke against the chart of the
// model and against what electricity allows. It is kept in revisions, each with its reason.

import type { WiringView } from '@drive-keep/api';
import { describe, type Finding } from '@drive-keep/core/findings';
import type { Dictionary, TerminalChart } from '@drive-keep/core/dictionary';
import {
  checkWiring,
  connectionsOf,
  DEVICE_KINDS,
  parseFacts,
  type DeviceKind,
} from '@drive-keep/core/wiring';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { put, type ProblemError } from '../api/client.ts';
import { useDictionary, usePosition, useSession, useWiring } from '../api/queries.ts';
import { CalculatorWays } from '../calculate/calculator-ways.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showDate } from '../words/dates.ts';
import {
  emptyRow,
  isBlank,
  partOf,
  rowsToKeep,
  useWiringDraft,
  type Part,
  type Row,
  type WiringDraft,
} from './use-wiring-draft.ts';
import { WiringFiles } from './wiring-files.tsx';
import { WiringDrawing } from './wiring-drawing.tsx';
import { WiringPhotos } from './wiring-photos.tsx';
import { WiringSignature } from './wiring-signature.tsx';
import { WiringRows, type EditedColumn } from './wiring-rows.tsx';

export function WiringPage() {
  const { tag = '' } = useParams();
  const [params] = useSearchParams();
  const revision = params.get('revision') ?? '';
  const { data: view, error } = useWiring(tag, revision);
  const { data: position, error: positionError } = usePosition(tag);
  const { data: dictionary, error: dictionaryError } = useDictionary(view?.dictionary);
  const { data: session } = useSession();
  if (!view || !position || !dictionary || !session)
    return <Unanswered error={error ?? positionError ?? dictionaryError} what={`the wiring of ${tag}`} />;
  const older = revision !== '';
  return (
    <Page title={`Wiring of ${tag}`}>
      <h1 className="text-2xl font-semibold">
        Wiring of{' '}
        <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
          {tag}
        </Link>{' '}
        <span className="text-lg font-normal">{position.duty}</span>
      </h1>
      <CalculatorWays tag={tag} />
      <Editor
        key={`${tag} ${revision}`}
        view={view}
        dictionary={dictionary}
        mayWrite={session.role !== 'viewer' && position.retiredAt === null && !older}
      />
    </Page>
  );
}

function Editor({
  view,
  dictionary,
  mayWrite,
}: {
  view: WiringView;
  dictionary: Dictionary;
  mayWrite: boolean;
}) {
  const draft = useWiringDraft(view);
  const { rows, wiring } = draft;
  const found = wiring ? checkWiring(dictionary, wiring) : draft.troubles;
  const chart = dictionary.terminals;
  const troubles = troublesByRow(draft, found);
  const whole = found.filter(({ line }) => line === undefined);
  const part = (wanted: Part) => rows.flatMap((row, at) => (partOf(row) === wanted ? [{ row, at }] : []));
  const edit = {
    troubles,
    mayWrite,
    change: (at: number, row: Row) => draft.change(rows.map((each, place) => (place === at ? row : each))),
    remove: (at: number) => draft.change(rows.filter((_, place) => place !== at)),
  };
  const add = (kind: string) => () => draft.change([...rows, emptyRow(kind)]);
  return (
    <>
      <p className="mt-1 text-soft">
        {view.revision === 0
          ? 'No wiring was kept yet. '
          : `Revision ${view.revision}${view.madeFor === dictionary.id ? '' : `, made for ${view.madeFor ?? 'no model'}`}. `}
        {draft.changed && <b className="text-ink">Changed, not kept yet. </b>}
        {saidOf(found, chart !== null)}
      </p>
      <WiringSignature view={view} mayWrite={mayWrite} />
      <Whole
        findings={whole.map((each) => describe(each))}
        stops={whole.map(({ attention }) => attention === 'stop')}
      />
      {chart && wiring && (
        <section aria-label="Drawing" className="mt-3">
          <WiringDrawing chart={chart} wiring={wiring} />
        </section>
      )}
      <Devices
        rows={part('devices')}
        view={view}
        edit={edit}
        add={add('contact')}
        insert={(row) => draft.change([...rows, row])}
      />
      <SheetPart name="Wires" state={`${part('wires').length}`}>
        <datalist id="wire-ends">
          {endsIn(chart, rows).map((end) => (
            <option key={end} value={end} />
          ))}
        </datalist>
        <WiringRows label="Wires" columns={WIRE_COLUMNS} rows={part('wires')} {...edit} add={add('wire')} />
        {mayWrite && <Button onClick={add('wire')}>Add a wire</Button>}
      </SheetPart>
      <SheetPart name="Links" state={`${part('links').length}`}>
        <WiringRows label="Links" columns={LINK_COLUMNS} rows={part('links')} {...edit} add={add('link')} />
        {mayWrite && (
          <Button onClick={() => draft.change([...rows, { ...emptyRow('link'), facts: 'drive' }])}>
            Add a link
          </Button>
        )}
      </SheetPart>
      {chart && <Board chart={chart} draft={draft} mayWrite={mayWrite} />}
      <WiringPhotos tag={view.tag} mayWrite={mayWrite} />
      <Keeping view={view} draft={draft} mayWrite={mayWrite} />
      <Revisions view={view} />
    </>
  );
}

function saidOf(found: readonly Finding[], checked: boolean): string {
  const stops = found.filter(({ attention }) => attention === 'stop').length;
  if (stops > 0) return `${stops} to mend.`;
  if (found.length > 0 && checked) return `${found.length} to look at.`;
  return checked ? 'Nothing of it is against chart or electricity.' : 'Nothing checks it.';
}

const KIND_CHOICES: Readonly<Record<string, string>> = Object.fromEntries(
  Object.keys(DEVICE_KINDS).map((kind) => [kind, kind.replace('-', ' ')]),
);
const DEVICE_COLUMNS: readonly EditedColumn[] = [
  { column: 'name', name: 'Name', width: 'w-20' },
  { column: 'row', name: 'Kind', width: 'w-32', choices: KIND_CHOICES },
  {
    column: 'facts',
    name: 'Contacts, place by place, or electrical facts',
    width: 'sm:min-w-72',
    long: true,
    hint: ({ row }) => DEVICE_KINDS[row as DeviceKind],
  },
  { column: 'what', name: 'What it is for', width: 'w-44' },
];
const WIRE_COLUMNS: readonly EditedColumn[] = [
  { column: 'name', name: 'Number', width: 'w-28' },
  { column: 'from', name: 'From', width: 'w-40', list: 'wire-ends', hint: () => '12 or S2:13' },
  { column: 'to', name: 'To', width: 'w-40', list: 'wire-ends', hint: () => 'S2:14' },
  { column: 'colour', name: 'Colour', width: 'w-32' },
];
const LINK_COLUMNS: readonly EditedColumn[] = [
  { column: 'from', name: 'One terminal', width: 'w-40', list: 'wire-ends' },
  { column: 'to', name: 'The other', width: 'w-40', list: 'wire-ends' },
  {
    column: 'facts',
    name: 'Where it sits',
    width: 'w-64',
    choices: { drive: 'at the drive’s terminals', plug: 'in the plug: it stays when the drive goes' },
  },
];

type Edit = Pick<Parameters<typeof WiringRows>[0], 'troubles' | 'mayWrite' | 'change' | 'remove'>;

function Devices({
  rows,
  view,
  edit,
  add,
  insert,
}: {
  rows: readonly { readonly row: Row; readonly at: number }[];
  view: WiringView;
  edit: Edit;
  add: () => void;
  insert: (row: Row) => void;
}) {
  const own = new Map(rows.map(({ row }) => [row.name, row]));
  const others = view.elsewhere.filter(({ name }) => !own.has(name));
  const unlike = view.elsewhere.filter(({ name, kind, facts }) => {
    const here = own.get(name);
    return here !== undefined && (here.row !== kind || here.facts !== facts);
  });
  return (
    <SheetPart name="Devices in the field" state={`${rows.length}`}>
      {unlike.map(({ tag, name, kind, facts }) => (
        <p key={`${tag} ${name}`} className="mb-1 border-l-4 border-look bg-look-wash px-3 py-1">
          {name} stands otherwise in the wiring of {tag}: {kind}, {facts}. It is one device of this machine.
        </p>
      ))}
      <WiringRows label="Devices" columns={DEVICE_COLUMNS} rows={rows} {...edit} add={add} />
      {edit.mayWrite && (
        <span className="mt-1 flex flex-wrap gap-2">
          <Button onClick={add}>Add a device</Button>
          {others.map(({ tag, name, kind, facts, what }) => (
            <Button key={`${tag} ${name}`} onClick={() => insert({ ...emptyRow(kind), name, facts, what })}>
              {name} of {tag}
            </Button>
          ))}
        </span>
      )}
    </SheetPart>
  );
}

/** Board switches and the supply arrangement; what is not chosen stands as delivered. */
function Board({ chart, draft, mayWrite }: { chart: TerminalChart; draft: WiringDraft; mayWrite: boolean }) {
  const { rows } = draft;
  const placeOf = (name: string) =>
    rows.find(({ row, name: own }) => row === 'switch' && own === name)?.facts ?? '';
  const arrangement = rows.find(({ row }) => row === 'arrangement')?.name ?? '';
  const choose = (of: Row, gone: (row: Row) => boolean, chosen: string) =>
    draft.change([...rows.filter((row) => !gone(row)), ...(chosen === '' ? [] : [of])]);
  return (
    <SheetPart name="Board and supply" state={arrangement === '' ? 'as delivered' : arrangement}>
      <div className="flex flex-wrap gap-x-6 gap-y-2">
        <label className="flex flex-col gap-1 text-sm">
          <span className="text-soft">How the contacts are fed</span>
          <select
            value={arrangement}
            disabled={!mayWrite}
            className="min-h-9 rounded border border-rule bg-sheet px-2 max-lg:min-h-12"
            onChange={({ target: { value } }) =>
              choose({ ...emptyRow('arrangement'), name: value }, ({ row }) => row === 'arrangement', value)
            }
          >
            <option value="">
              as delivered: {chart.arrangements.find(({ factory }) => factory)?.name ?? 'not told'}
            </option>
            {chart.arrangements.map(({ name }) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </select>
        </label>
        {chart.switches.map(({ id, name, places, factory }) => (
          <label key={id} className="flex flex-col gap-1 text-sm">
            <span className="text-soft">
              Switch {id}, {name}
            </span>
            <select
              value={placeOf(id)}
              disabled={!mayWrite}
              className="min-h-9 rounded border border-rule bg-sheet px-2 max-lg:min-h-12"
              onChange={({ target: { value } }) =>
                choose(
                  { ...emptyRow('switch'), name: id, facts: value },
                  (row) => row.row === 'switch' && row.name === id,
                  value,
                )
              }
            >
              <option value="">as delivered: {factory}</option>
              {places.map((place) => (
                <option key={place.name} value={place.name}>
                  {place.name}: {place.does}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
    </SheetPart>
  );
}

function Keeping({ view, draft, mayWrite }: { view: WiringView; draft: WiringDraft; mayWrite: boolean }) {
  const { tag } = view;
  const [why, setWhy] = useState('');
  const sending = useRef(false);
  const queries = useQueryClient();
  const keep = useMutation<WiringView, ProblemError>({
    mutationFn: () => put(`positions/${tag}/wiring`, { rows: rowsToKeep(draft.rows), why, seen: draft.seen }),
    onSuccess: async (kept) => {
      setWhy('');
      draft.giveUp();
      queries.setQueryData([`positions/${tag}/wiring`], kept);
      await queries.invalidateQueries({ queryKey: [`positions/${tag}/wiring`] });
    },
  });
  const ready = draft.changed && why.trim() !== '' && draft.wiring !== undefined && !keep.isPending;
  return (
    <SheetPart name="Keep it" state={draft.changed ? 'not kept yet' : 'as kept'}>
      {mayWrite && (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            // Two quick clicks are one wish.
            if (!ready || sending.current) return;
            sending.current = true;
            keep.mutate(undefined, { onSettled: () => (sending.current = false) });
          }}
        >
          <label className="flex min-w-72 flex-1 flex-col gap-1 text-sm">
            <span className="text-soft">Why it is another than before</span>
            <input
              value={why}
              maxLength={300}
              className="min-h-9 rounded border border-rule bg-sheet px-2 max-lg:min-h-12"
              onChange={({ target: { value } }) => setWhy(value)}
            />
          </label>
          <Button type="submit" weight="main" disabled={!ready}>
            Keep as revision {draft.seen + 1}
          </Button>
          {draft.changed && <Button onClick={() => draft.giveUp()}>Give the changes up</Button>}
        </form>
      )}
      {keep.error && <ProblemNotice error={keep.error} />}
      <WiringFiles tag={tag} draft={draft} mayWrite={mayWrite} />
    </SheetPart>
  );
}

function Revisions({ view }: { view: WiringView }) {
  if (view.revisions.length === 0) return null;
  return (
    <SheetPart name="Revisions" state={`${view.revisions.length}`}>
      <ul>
        {view.revisions.map(({ revision, savedAt, savedBy, why }) => (
          <li key={revision} className="border-b border-rule py-1">
            <Link
              to={revision === view.revisions[0]?.revision ? '.' : `?revision=${revision}`}
              aria-current={revision === view.revision ? 'true' : undefined}
              className={`text-plum hover:underline ${revision === view.revision ? 'font-semibold' : ''}`}
            >
              Revision {revision}
            </Link>{' '}
            {showDate(savedAt)}, {savedBy}: {why}
          </li>
        ))}
      </ul>
    </SheetPart>
  );
}

function Whole({ findings, stops }: { findings: readonly string[]; stops: readonly boolean[] }) {
  if (findings.length === 0) return null;
  return (
    <ul className="mt-2" aria-label="What is wrong with it">
      {findings.map((text, at) => (
        <li
          key={text}
          className={`mb-1 border-l-4 px-3 py-1 ${stops[at] ? 'border-stop bg-stop-wash' : 'border-look bg-look-wash'}`}
        >
          {text}
        </li>
      ))}
    </ul>
  );
}

/** Terminals, and the connections of every device that is understood, also while another row is still being typed. */
function endsIn(chart: TerminalChart | null, rows: readonly Row[]): readonly string[] {
  const terminals = chart?.strips.flatMap(({ terminals: each }) => each.map(({ id }) => id)) ?? [];
  const connections = rows.flatMap((row) => {
    if (partOf(row) !== 'devices') return [];
    const facts = parseFacts(row.row as DeviceKind, row.facts);
    return facts.ok ? connectionsOf(facts.value).map((connection) => `${row.name}:${connection}`) : [];
  });
  return [...new Set([...terminals, ...connections])];
}

/** What is wrong by its row. Findings of the check count within their part; those of the reading in the whole table. */
function troublesByRow(
  { rows, wiring }: WiringDraft,
  found: readonly Finding[],
): ReadonlyMap<number, readonly Finding[]> {
  const byRow = new Map<number, Finding[]>();
  const parts: Readonly<Record<string, Part>> = { device: 'devices', wire: 'wires', link: 'links' };
  for (const each of found) {
    if (each.line === undefined) continue;
    const part = wiring ? parts[String(each.column)] : undefined;
    const typed = rows.flatMap((row, at) => (part && partOf(row) === part && !isBlank(row) ? [at + 1] : []));
    const line = part ? typed[each.line - 1] : each.line;
    if (line !== undefined) byRow.set(line, [...(byRow.get(line) ?? []), each]);
  }
  return byRow;
}
