// The sheet of a replacement: every section visible, its state in the margin, done in any order that makes sense, by several
// people. What is said is kept as it is said.

import type { ReplacementView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import type { ReplacementSheet } from '@drive-keep/core/replace';
import type { TableFacts } from '@drive-keep/core/tables';
import { useMutation } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { patch, type ProblemError } from '../api/client.ts';
import {
  queryClient,
  useDictionary,
  useModels,
  useReplacement,
  useReplacementRecord,
  useSession,
  useVocabulary,
} from '../api/queries.ts';
import { Asking, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { FileMenu } from '../ui/file-menu.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { BehaviourPart } from './behaviour-part.tsx';
import { ChecksPart } from './checks-part.tsx';
import { DoingPart, EndPart, tickedOf } from './doing-part.tsx';
import { FitPart } from './fit-part.tsx';
import { OutsidePart } from './outside-part.tsx';
import { SpeakingOf } from './saying.tsx';
import { SettingsPart } from './settings-part.tsx';
import { CrossNotices, SetChoice } from './successor-page.tsx';
import { sumOf } from './summary.ts';
import { questionOf, useSheet } from './use-sheet.ts';
import { TablesPart } from './tables-part.tsx';
import { WiresPart } from './wires-part.tsx';

export function ReplacementPage() {
  const { id = '' } = useParams();
  const { data: view, error } = useReplacement(id);
  const { data: old, error: noOld } = useDictionary(view?.oldDictionary);
  const { data: fresh, error: noFresh } = useDictionary(view?.fresh.dictionary);
  if (!view || !old || !fresh)
    return <Unanswered error={error ?? noOld ?? noFresh} what="this replacement" />;
  if (view.state === 'closed') return <Closed view={view} old={old} fresh={fresh} />;
  return <Open view={view} old={old} fresh={fresh} />;
}

interface SheetProps {
  readonly view: ReplacementView;
  readonly old: Dictionary;
  readonly fresh: Dictionary;
}

function Open({ view, old, fresh }: SheetProps) {
  const { data: vocabulary } = useVocabulary();
  const { key, question } = questionOf(view, old, fresh, vocabulary);
  const { data, error } = useSheet(key, question);
  return (
    <Page title={`Replace ${view.tag}`}>
      <Head view={view} fresh={fresh} />
      {error && !data && <Notice level="stop">The sheet could not be worked out: {error.message}.</Notice>}
      {!data && !error && <Asking what="every setting and every wire" />}
      {data && (
        <>
          <CrossNotices
            old={old}
            fresh={fresh}
            text={view.cross.text}
            faults={data.faults}
            unproven={data.sheet.unproven}
            lines={data.sheet.lines.length}
          />
          <Sheet view={view} old={old} fresh={fresh} sheet={data.sheet} motor={data.motor} />
        </>
      )}
    </Page>
  );
}

/** As it was when it was closed: nothing of it is worked out anew. */
function Closed({ view, old, fresh }: SheetProps) {
  const { data: record, error } = useReplacementRecord(view.id);
  return (
    <Page title={`Replacement of ${view.tag}`}>
      <Head view={record?.view ?? view} fresh={fresh} ended={view.ended} />
      {record ? (
        <Sheet view={{ ...record.view, state: 'closed' }} old={old} fresh={fresh} sheet={record.sheet} />
      ) : (
        <Unanswered error={error} what="the sheet as it was closed" />
      )}
    </Page>
  );
}

const papersOf = (id: string) => [
  ...(['pdf', 'xlsx', 'csv'] as const).map((format) => ({
    name: `Record, ${format.toUpperCase()}`,
    href: `/api/replacements/${id}/replacement-record?format=${format}`,
  })),
  { name: 'Wire sheet, PDF', href: `/api/replacements/${id}/wire-sheet?format=pdf` },
];

function Head({
  view,
  fresh,
  ended = view.ended,
}: {
  view: ReplacementView;
  fresh: Dictionary;
  ended?: ReplacementView['ended'];
}) {
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-2xl font-semibold">
          Replace{' '}
          <Link to={`/positions/${view.tag}`} className="font-mono text-plum hover:underline">
            {view.tag}
          </Link>
        </h1>
        <span className="text-lg">
          {view.old.model} {view.old.rating} by {fresh.maker} {fresh.name}
        </span>
        <span className="ml-auto">
          <FileMenu name="Papers" label="Papers of this replacement" files={papersOf(view.id)} />
        </span>
      </div>
      <p className="mt-1 text-sm text-soft">
        {view.duty} · old unit serial <span className="font-mono">{view.old.serial}</span> ·{' '}
        {view.source.title}
        {view.source.at !== null && `, ${showTime(view.source.at)}`} ·{' '}
        {view.wiringRevision === 0 ? 'no wiring kept' : `wiring ${view.wiringRevision}`} ·{' '}
        {view.cross.text === null
          ? 'no cross-reference'
          : view.cross.revision === 0
            ? 'cross-reference of the catalogue'
            : `cross-reference, revision ${view.cross.revision} of the plant`}{' '}
        · begun by {view.startedBy}, {showTime(view.startedAt)}: {view.why}
      </p>
      {ended && (
        <div className="mt-3">
          <Notice level="plain">
            {view.state === 'given-up' ? 'Given up' : 'Closed'} by {ended.by}, {showTime(ended.at)}:{' '}
            {ended.why}.
          </Notice>
        </div>
      )}
    </>
  );
}

function Sheet({
  view,
  old,
  fresh,
  sheet,
  motor,
}: SheetProps & { sheet: ReplacementSheet; motor?: TableFacts }) {
  const { data: session } = useSession();
  const may = view.state === 'open' && session !== undefined && session.role !== 'viewer';
  const change = useMutation<ReplacementView, ProblemError, object>({
    mutationFn: (wanted) => patch(`replacements/${view.id}`, { ...wanted, version: view.version }),
    onSuccess: (now) => queryClient.setQueryData([`replacements/${view.id}`], now),
    onError: () => void queryClient.invalidateQueries({ queryKey: [`replacements/${view.id}`] }),
  });
  const fixed = !may || view.doing.swap !== null;
  return (
    <SpeakingOf view={view} may={may}>
      <p className="mt-3 text-2xl font-semibold">{sumOf(sheet)}.</p>
      <p className="mb-3 text-soft">
        {tickedOf(sheet, view)} of {sheet.tasks.length} lines of the wire sheet are ticked.
        {may && ' Everything said here is kept at once, with your name.'}
      </p>
      {change.error && <ProblemNotice error={change.error} />}
      {may && view.cross.newest !== view.cross.revision && !view.doing.swap && (
        <Notice level="look">
          Revision {view.cross.newest} of the cross-reference was kept since.{' '}
          <Button weight="quiet" onClick={() => change.mutate({ newestCross: true })}>
            Take it; what was said is taken back
          </Button>
        </Notice>
      )}
      <FitPart sheet={sheet} fixed={fixed} choose={(rating) => change.mutate({ rating })}>
        <Model view={view} fixed={fixed} fresh={fresh} change={change.mutate} />
      </FitPart>
      <SettingsPart lines={sheet.lines} old={old} fresh={fresh} tag={view.tag} />
      {motor && <TablesPart view={view} sheet={sheet} fresh={fresh} motor={motor} />}
      <WiresPart sheet={sheet} old={old} fresh={fresh} hangs={view.doing.swap !== null} />
      <BehaviourPart tag={view.tag} sheet={sheet} />
      {view.state === 'open' && <ChecksPart view={view} fresh={fresh} />}
      <OutsidePart table={sheet.outside} open={sheet.open.outside} />
      <DoingPart view={view} sheet={sheet} fresh={fresh} may={may} />
      {view.state === 'open' && <EndPart view={view} sheet={sheet} fresh={fresh} may={may} />}
    </SpeakingOf>
  );
}

/** Which model, for which mains, and what the old unit held. */
function Model({
  view,
  fixed,
  fresh,
  change,
}: {
  view: ReplacementView;
  fixed: boolean;
  fresh: Dictionary;
  change: (wanted: object) => void;
}) {
  const { data: models } = useModels();
  return (
    <>
      <Choice
        label="Model"
        disabled={fixed}
        value={view.fresh.dictionary}
        options={(models ?? [])
          .filter(({ id }) => id !== view.oldDictionary)
          .map(({ id, maker, name, version }) => ({ id, name: `${maker} ${name}, version ${version}` }))}
        onChange={({ target }) => change({ dictionary: target.value, rating: null })}
      />
      <Choice
        label="Region"
        disabled={fixed}
        value={view.fresh.region}
        options={fresh.regions.map(({ id, name }) => ({ id, name }))}
        onChange={({ target }) => change({ region: target.value })}
      />
      <SetChoice
        tag={view.tag}
        disabled={fixed}
        value={view.source.reference}
        title={view.source.title}
        choose={(source) => change({ source })}
      />
    </>
  );
}
