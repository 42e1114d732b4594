// What is made of the draft: kept as a revision, a key-in sheet or a write plan for a unit that is there, its baseline, its wiring;
// and the way to another model or size.

import type { DraftUse, PositionDetailView, SettingsDraftView } from '@drive-keep/api';
import type { DraftSheet } from '@drive-keep/core/start';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useDictionary, useModels, usePosition } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { FileMenu } from '../ui/file-menu.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { PositionField } from '../ui/position-field.tsx';
import { Way } from '../ui/way.tsx';
import { showTime } from '../words/dates.ts';
import { takeView } from './take-view.ts';

const USE_NAMES: Readonly<Record<DraftUse, string>> = {
  'key-in': 'Key-in sheet',
  'write-plan': 'Write plan',
  baseline: 'Baseline to be signed',
  wiring: 'Wiring kept',
};

interface Props {
  readonly view: SettingsDraftView;
  readonly sheet: DraftSheet;
  readonly may: boolean;
  /** Something is typed that the server has not kept yet. */
  readonly waits: boolean;
  readonly change: (wanted: object) => void;
}

export function UsesPart({ view, sheet, may, waits, change }: Props) {
  const [why, setWhy] = useState('');
  const keep = useMutation<SettingsDraftView, ProblemError>({
    mutationFn: () => post(`drafts/${view.id}/revisions`, { why: why.trim() }),
    onSuccess: async (fresh) => {
      await takeView(fresh);
      setWhy('');
    },
  });
  return (
    <>
      <SheetPart
        narrow
        name="Kept"
        state={view.revisions.length === 0 ? 'no revision yet' : `${view.revisions.length}`}
      >
        {may && (
          <div className="flex flex-wrap items-center gap-2 pb-2">
            <input
              aria-label="Why it is kept"
              placeholder="why it is kept, for the record"
              value={why}
              onChange={({ target }) => setWhy(target.value)}
              className="h-9 w-72 rounded border border-rule bg-sheet px-2 text-sm max-lg:h-12"
            />
            <Button disabled={why.trim().length < 3 || waits || keep.isPending} onClick={() => keep.mutate()}>
              Keep it as it stands
            </Button>
          </div>
        )}
        {keep.error && <ProblemNotice error={keep.error} />}
        <Revisions view={view} />
      </SheetPart>
      <SheetPart
        narrow
        name="Made of it"
        state={view.uses.length === 0 ? 'nothing yet' : `${view.uses.length}`}
      >
        {may && <Making view={view} sheet={sheet} waits={waits} change={change} />}
        <Made view={view} />
      </SheetPart>
      {may && <OtherUnit view={view} />}
    </>
  );
}

function Revisions({ view }: { view: SettingsDraftView }) {
  return (
    <table className="w-full text-left text-sm">
      <tbody>
        {view.revisions.map(({ id, revision, why, by, at, rating, changes }) => (
          <tr key={id} className="border-b border-rule">
            <td className="py-1 pr-3">Revision {revision}</td>
            <td className="py-1 pr-3">
              {rating}, {changes} settings otherwise than delivered
            </td>
            <td className="py-1 pr-3">
              {by}, {showTime(at)}: {why}
            </td>
            <td className="py-1 text-right">
              <FileMenu
                name="Papers and files"
                label={`Papers and files of revision ${revision}`}
                files={[
                  ...(['pdf', 'xlsx', 'csv'] as const).map((format) => ({
                    name: `What was chosen and why, ${format.toUpperCase()}`,
                    href: `/api/draft-revisions/${id}/draft-record?format=${format}`,
                  })),
                  ...(['json', 'csv', 'xlsx', 'dcf'] as const).map((format) => ({
                    name: `The set, ${format.toUpperCase()}`,
                    href: `/api/draft-revisions/${id}/file?format=${format}`,
                  })),
                ]}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** For a position that has its unit. */
function Making({ view, sheet, waits, change }: Omit<Props, 'may'>) {
  const navigate = useNavigate();
  const { data: position } = usePosition(view.tag ?? '', view.tag !== null);
  const [accepted, setAccepted] = useState('');
  const stops =
    sheet.findings.filter(({ attention }) => attention === 'stop').length +
    sheet.table.filter(({ passed }) => !passed).length;
  const make = useMutation<SettingsDraftView, ProblemError, DraftUse>({
    mutationFn: (kind) =>
      post(`drafts/${view.id}/uses`, {
        ...{ kind, tag: view.tag, why: `First settings of ${view.tag ?? ''}` },
        ...(accepted.trim().length >= 3 ? { accepted: accepted.trim() } : {}),
      }),
    onSuccess: async (fresh, kind) => {
      await takeView(fresh);
      const made = fresh.uses.find((each) => each.kind === kind)?.madeId;
      if (kind === 'key-in' && made) void navigate(`/key-in/${made}`);
      if (kind === 'write-plan' && made) void navigate(`/write-plans/${made}`);
    },
  });
  const blocked = waits || make.isPending || sheet.open > 0 || (stops > 0 && accepted.trim().length < 3);
  return (
    <>
      <For view={view} position={position} change={change} />
      {stops > 0 && sheet.open === 0 && (
        <label className="mb-2 flex flex-wrap items-center gap-2 text-sm">
          {stops} to stop at. Why it is right all the same
          <input
            value={accepted}
            onChange={({ target }) => setAccepted(target.value)}
            className="h-9 w-80 rounded border border-rule bg-sheet px-2 max-lg:h-12"
          />
        </label>
      )}
      {view.tag !== null && (
        <div className="flex flex-wrap items-center gap-2 pb-2">
          <Button weight="main" disabled={blocked} onClick={() => make.mutate('key-in')}>
            Make the key-in sheet
          </Button>
          {position?.unit.line && (
            <Button disabled={blocked} onClick={() => make.mutate('write-plan')}>
              Plan the writes
            </Button>
          )}
          <Button
            disabled={blocked || sheet.wiring.devices.length === 0}
            onClick={() => make.mutate('wiring')}
          >
            Keep its wires at {view.tag}
          </Button>
          <Button disabled={blocked} onClick={() => make.mutate('baseline')}>
            Propose it as the baseline
          </Button>
          <Way to={`/positions/${view.tag}/proofs`}>Proof run</Way>
        </div>
      )}
      {sheet.open > 0 && <p className="pb-2 text-sm text-soft">What is open has to be told first.</p>}
      {make.error && <ProblemNotice error={make.error} />}
    </>
  );
}

function For({
  view,
  position,
  change,
}: Pick<Props, 'view' | 'change'> & { position: PositionDetailView | undefined }) {
  // Chosen once: the field tells its choice again while the server has not answered.
  const [chosen, setChosen] = useState(view.tag ?? '');
  const choose = (tag: string) => {
    if (tag === chosen) return;
    setChosen(tag);
    change({ tag: tag === '' ? null : tag });
  };
  return (
    <div className="flex flex-wrap items-center gap-3 pb-2">
      <PositionField label="For the position" tag={chosen} choose={choose} />
      {view.tag === null && (
        <span className="text-sm text-soft">
          A unit that is still in its box has no position yet.{' '}
          <Link to="/positions/new" className="text-plum underline">
            Add one
          </Link>{' '}
          when it comes in.
        </span>
      )}
      {position && (
        <span className="text-sm text-soft">
          {position.duty}: {position.unit.maker} {position.unit.model} {position.unit.rating}, serial{' '}
          {position.unit.serial}
        </span>
      )}
    </div>
  );
}

function Made({ view: { uses } }: { view: SettingsDraftView }) {
  const wayTo = ({ kind, tag, madeId }: SettingsDraftView['uses'][number]): string =>
    kind === 'key-in'
      ? `/key-in/${madeId ?? ''}`
      : kind === 'write-plan'
        ? `/write-plans/${madeId ?? ''}`
        : kind === 'wiring'
          ? `/positions/${tag}/wiring`
          : `/positions/${tag}`;
  return (
    <ul className="text-sm">
      {uses.map((each) => (
        <li key={`${each.kind} ${each.at}`} className="border-b border-rule py-1">
          <Link to={wayTo(each)} className="text-plum underline">
            {USE_NAMES[each.kind]} for {each.tag}
          </Link>{' '}
          <span className="text-soft">
            of revision {each.revision}, {each.by}, {showTime(each.at)}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** The same duty on another model or size: a draft of its own. */
function OtherUnit({ view }: { view: SettingsDraftView }) {
  const navigate = useNavigate();
  const { data: models } = useModels();
  const [model, setModel] = useState('');
  const { data: dictionary } = useDictionary(model === '' ? undefined : model);
  const region =
    dictionary && (dictionary.regions.find(({ id }) => id === view.region) ?? dictionary.regions[0])?.id;
  const carry = useMutation<SettingsDraftView, ProblemError>({
    mutationFn: () =>
      post(`drafts/${view.id}/copies`, {
        ...{
          name: `${view.name}, ${dictionary?.name ?? ''}`.slice(0, 80),
          dictionary: model,
          region,
          rating: null,
        },
      }),
    onSuccess: ({ id }) => navigate(`/drafts/${id}`),
  });
  return (
    <SheetPart narrow name="On another model" state="">
      <div className="flex flex-wrap items-center gap-3">
        <Choice
          label="Model"
          value={model}
          options={[
            { id: '', name: 'choose …' },
            ...(models ?? []).map(({ id, maker, name, version }) => ({
              id,
              name: `${maker} ${name}${version > 1 ? `, version ${version}` : ''}`,
            })),
          ]}
          onChange={({ target }) => setModel(target.value)}
        />
        <Button disabled={!dictionary || carry.isPending} onClick={() => carry.mutate()}>
          Carry the draft over
        </Button>
        <span className="text-sm text-soft">
          It becomes a draft of its own, with all that is said in the words of the trade; codes and terminals
          are of one model and stay here.
        </span>
      </div>
      {carry.error && <ProblemNotice error={carry.error} />}
    </SheetPart>
  );
}
