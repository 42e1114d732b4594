// What another model would make of a position: does it fit, what becomes of every setting and wire, does it do the same. Nothing
// is kept here; a replacement begins here.

import type { DryRunView, PositionDetailView, ReplacementView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import {
  queryClient,
  useCrossReference,
  useDictionary,
  useDryRunView,
  useHistory,
  useModels,
  usePosition,
  usePositionSite,
  useReplacements,
  useSession,
  useVocabulary,
} from '../api/queries.ts';
import { changed } from '../dry-run/changed-address.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { BehaviourPart } from './behaviour-part.tsx';
import { FitPart } from './fit-part.tsx';
import { SettingsPart } from './settings-part.tsx';
import { sumOf } from './summary.ts';
import { useSheet } from './use-sheet.ts';
import { WiresPart } from './wires-part.tsx';

export function SuccessorPage() {
  const { tag = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const position = usePosition(tag);
  const { data: view, error } = useDryRunView(tag, params.get('set') ?? 'newest');
  const { data: old } = useDictionary(view?.dictionary);
  const choose = (key: string, value: string) =>
    setParams((before) => changed(before, key, value), { replace: true });
  const { data: models } = useModels();
  const { data: begun } = useReplacements(tag);
  const model = params.get('model') ?? '';
  if (position.data && !view && error) return <NoSet tag={tag} error={error} choose={choose} />;
  if (!position.data || !view || !old)
    return <Unanswered error={position.error ?? error} what="this position" />;
  const others = (models ?? []).filter(({ id }) => id !== view.dictionary);
  const open = begun?.find(({ state }) => state === 'open');
  return (
    <Page title={`Successor of ${tag}`}>
      <h1 className="text-2xl font-semibold">
        Successor for{' '}
        <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
          {tag}
        </Link>
      </h1>
      <p className="mt-1 text-soft">
        {position.data.duty} · {old.maker} {old.name} {view.rating} · {view.title}
        {view.at !== null && `, ${showTime(view.at)}`}
        {view.wiringRevision === 0 ? ' · no wiring kept' : ` · wiring ${view.wiringRevision}`}
      </p>
      {open && (
        <div className="mt-3">
          <Notice level="look">
            A replacement of this position was begun by {open.startedBy}, {showTime(open.startedAt)}:{' '}
            <Link to={`/replacements/${open.id}`} className="text-plum underline">
              {open.from} by {open.to}
            </Link>
            . Go on there.
          </Notice>
        </div>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-4">
        <Choice
          label="Model"
          value={model}
          options={[
            { id: '', name: '…' },
            ...others.map(({ id, maker, name, version }) => ({
              id,
              name: `${maker} ${name}, version ${version}`,
            })),
          ]}
          onChange={({ target }) => choose('model', target.value)}
        />
        <SetChoice tag={tag} value={view.reference} choose={(set) => choose('set', set)} />
      </div>
      {model === '' ? (
        <p className="mt-6 text-soft">
          Choose a model. Its ratings are held against motor, wires and cabinet of this position, every
          setting and every wire gets its place, and both are walked through all that the devices can bring
          about.
        </p>
      ) : (
        <Against
          key={model}
          position={position.data}
          view={view}
          old={old}
          model={model}
          choose={choose}
          mayBegin={begun !== undefined && !open}
        />
      )}
    </Page>
  );
}

/** A dead unit may have no backup: another set can be its source. */
function NoSet({
  tag,
  error,
  choose,
}: {
  tag: string;
  error: Error;
  choose: (key: string, value: string) => void;
}) {
  return (
    <Page title={`Successor of ${tag}`}>
      <h1 className="text-2xl font-semibold">Successor for {tag}</h1>
      <div className="mt-3">
        <ProblemNotice error={error} />
      </div>
      <div className="mt-3">
        <SetChoice tag={tag} value="" choose={(set) => choose('set', set)} />
      </div>
    </Page>
  );
}

/** Older ones are chosen nowhere. */
const MOST_SETS = 20;

/** What the old unit held: it may be silent. */
export function SetChoice({
  tag,
  value,
  title,
  choose,
  disabled = false,
}: {
  tag: string;
  value: string;
  /** Of the set that is chosen, where it may be none of the choices any more. */
  title?: string;
  choose: (set: string) => void;
  disabled?: boolean;
}) {
  const { data: history } = useHistory(tag);
  const baselines = history?.baselines ?? [];
  const last = baselines.at(-1);
  const others = (history?.backups ?? []).filter(({ how, damaged }) => how !== 'read' && !damaged).reverse();
  const named = {
    'read-off': 'Read off',
    imported: 'File',
    'before-write': 'Before a write',
    'after-write': 'After a write',
  };
  return (
    <Choice
      label="From"
      disabled={disabled}
      value={value}
      options={[
        ...(title === undefined || others.slice(0, MOST_SETS).some(({ id }) => value === `backup:${id}`)
          ? []
          : [{ id: value, name: title }]),
        ...(history?.newest ? [{ id: 'newest', name: 'Newest backup' }] : []),
        ...(last ? [{ id: 'baseline', name: `Baseline, revision ${last.revision}` }] : []),
        ...others.slice(0, MOST_SETS).map(({ id, how, takenAt, reason }) => ({
          id: `backup:${id}`,
          name: `${how === 'read' ? 'Backup' : named[how]}, ${showTime(takenAt)} ${reason}`,
        })),
        { id: 'default', name: 'As delivered' },
      ]}
      onChange={({ target }) => choose(target.value)}
    />
  );
}

interface AgainstProps {
  readonly position: PositionDetailView;
  readonly view: DryRunView;
  readonly old: Dictionary;
  readonly model: string;
  readonly choose: (key: string, value: string) => void;
  readonly mayBegin: boolean;
}

function Against({ position, view, old, model, choose, mayBegin }: AgainstProps) {
  const [params] = useSearchParams();
  const { data: session } = useSession();
  const { data: fresh, error } = useDictionary(model);
  const { data: vocabulary } = useVocabulary();
  const { data: cross, error: noCross } = useCrossReference(old.model, fresh?.model);
  const rating = params.get('rating');
  const region = fresh?.regions.find(({ id }) => id === view.region) ?? fresh?.regions[0];
  const onLine = position.unit.line !== null;
  const { data: site } = usePositionSite(view.tag);
  const question = fresh &&
    vocabulary &&
    cross &&
    site &&
    fresh.ratings.length > 0 && {
      ...{ old, fresh, vocabulary, rating, onLine, cross: cross.text, sayings: [] },
      ambient: site.cabinet?.ambient ?? null,
      ...{ outfit: { rating: view.rating, region: view.region }, readings: view.readings },
      ...{ wiring: view.wiring, region: region?.id ?? '' },
    };
  const { data, error: failed } = useSheet([view, model, rating, cross?.revision], question || undefined);
  if (!fresh || !cross) return <Unanswered error={error ?? noCross} what="this model" />;
  if (fresh.ratings.length === 0)
    return <p className="mt-4">This model tells no rating: nothing can be worked out.</p>;
  if (failed && !data) return <p className="mt-4">It could not be worked out: {failed.message}.</p>;
  if (!data) return <p className="mt-4 text-soft">Every setting and every wire is being placed …</p>;
  const { sheet, faults } = data;
  return (
    <>
      <CrossNotices
        old={old}
        fresh={fresh}
        text={cross.text}
        faults={faults}
        unproven={sheet.unproven}
        lines={sheet.lines.length}
      />
      <p className="mt-4 text-2xl font-semibold">{sumOf(sheet)}.</p>
      {mayBegin && session && session.role !== 'viewer' && (
        <Begin
          tag={view.tag}
          wanted={{ dictionary: fresh.id, region: region?.id ?? '', rating, source: view.reference }}
          text={`${old.name} by ${fresh.name} ${sheet.rating}`}
        />
      )}
      <FitPart sheet={sheet} fixed={false} choose={(id) => choose('rating', id)} />
      <SettingsPart lines={sheet.lines} old={old} fresh={fresh} tag={view.tag} />
      <WiresPart sheet={sheet} old={old} fresh={fresh} hangs={false} />
      <BehaviourPart tag={view.tag} sheet={sheet} />
      <SheetPart name="Only looked at">
        <p className="text-sm text-soft">
          Nothing of this is kept: a replacement that is begun keeps what is said.
        </p>
      </SheetPart>
    </>
  );
}

export function CrossNotices({
  old,
  fresh,
  text,
  faults,
  unproven,
  lines,
}: {
  old: Dictionary;
  fresh: Dictionary;
  text: string | null;
  faults: readonly { readonly line: number; readonly text: string }[];
  unproven: number;
  lines: number;
}) {
  return (
    <div className="mt-3 space-y-2">
      {text === null && (
        <Notice level="look">
          Nobody has written a cross-reference from {old.name} to {fresh.name}: the bridge alone carries, and{' '}
          {unproven} of {lines} lines are unproven.
        </Notice>
      )}
      {faults.map((fault) => (
        <Notice key={`${fault.line} ${fault.text}`} level="stop">
          The cross-reference cannot be read and was left aside. Line {fault.line}: {fault.text}.
        </Notice>
      ))}
    </div>
  );
}

const LEAST_REASON = 3;

function Begin({ tag, wanted, text }: { tag: string; wanted: object; text: string }) {
  const navigate = useNavigate();
  const [why, setWhy] = useState('');
  const begin = useMutation<ReplacementView, ProblemError>({
    mutationFn: () => post(`positions/${tag}/replacements`, { ...wanted, why: why.trim() }),
    onSuccess: (made) => {
      void queryClient.invalidateQueries({ queryKey: [`replacements?tag=${tag}`] });
      return navigate(`/replacements/${made.id}`);
    },
  });
  return (
    <form
      className="my-3 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        begin.mutate();
      }}
    >
      <input
        aria-label="Why it is replaced"
        placeholder="Why it is replaced"
        maxLength={300}
        className="h-9 w-72 rounded border border-rule bg-sheet px-2 max-lg:h-12"
        value={why}
        onChange={({ target }) => setWhy(target.value)}
      />
      <Button type="submit" weight="main" disabled={begin.isPending || why.trim().length < LEAST_REASON}>
        Begin to replace {text}
      </Button>
      {begin.error && <ProblemNotice error={begin.error} />}
    </form>
  );
}
