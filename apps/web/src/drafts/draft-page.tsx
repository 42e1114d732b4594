// First settings as a sheet: every part visible and done in any order, by several people at once. Beside it, at every key, what it
// comes to.

import type { SettingsDraftView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { patch, post, type ProblemError } from '../api/client.ts';
import { queryClient, useDictionary, useDraft, useSession, useVocabulary } from '../api/queries.ts';
import { Asking, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { Way } from '../ui/way.tsx';
import { showTime } from '../words/dates.ts';
import { Beside, sumOf } from './beside.tsx';
import { DutyPart } from './duty-part.tsx';
import { OtherPart } from './other-part.tsx';
import { PlatePart } from './plate-part.tsx';
import { FieldsPart } from './sections.tsx';
import { takeView } from './take-view.ts';
import { TerminalsPart } from './terminals-part.tsx';
import { UnitPart } from './unit-part.tsx';
import { useDraftSheet } from './use-draft-sheet.ts';
import { useTyping } from './use-typing.ts';
import { UsesPart } from './uses-part.tsx';

export function DraftPage() {
  const { id = '' } = useParams();
  const { data: view, error } = useDraft(id);
  const { data: dictionary, error: noModel } = useDictionary(view?.dictionary);
  const { data: base, error: noBase } = useDictionary(view?.base?.dictionary);
  if (!view || !dictionary || (view.base && !base))
    return <Unanswered error={error ?? noModel ?? noBase} what="this draft" />;
  return <Sheet key={view.id} view={view} dictionary={dictionary} base={base} />;
}

interface Props {
  readonly view: SettingsDraftView;
  readonly dictionary: Dictionary;
  readonly base: Dictionary | undefined;
}

/** The question to the worker; the same object as long as nothing is different. */
export function useQuestion(
  { view, dictionary, base }: Props,
  fields: ReturnType<typeof useTyping>['fields'],
) {
  const { data: vocabulary } = useVocabulary();
  const { region, rating, point } = view;
  const ground = useMemo(
    () =>
      vocabulary && {
        ...{ dictionary, region, rating, vocabulary, point: point?.text ?? null },
        base: view.base && base ? { ...view.base, dictionary: base } : null,
      },
    // A draft that is asked for anew is another object with the same words.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [dictionary, base, region, rating, vocabulary, view.version, point?.text],
  );
  const key = `${view.id} ${view.version} ${dictionary.id} ${dictionary.revision ?? 0}`;
  return useMemo(() => (ground ? { key, ground, fields } : undefined), [key, ground, fields]);
}

function Sheet({ view, dictionary, base }: Props) {
  const { data: session } = useSession();
  const may = view.state === 'open' && session !== undefined && session.role !== 'viewer';
  const typing = useTyping(view, may);
  const { sheet, isOlder, failed } = useDraftSheet(useQuestion({ view, dictionary, base }, typing.fields));
  const path = `drafts/${view.id}`;
  const changing = useMutation<SettingsDraftView, ProblemError, object>({
    scope: { id: path },
    mutationFn: (wanted) =>
      patch(path, {
        ...wanted,
        version: queryClient.getQueryData<SettingsDraftView>([path])?.version ?? view.version,
      }),
    onSuccess: takeView,
    onError: () => void queryClient.invalidateQueries({ queryKey: [path] }),
  });
  const change = (wanted: object) => changing.mutate(wanted);
  return (
    <Page title={view.name}>
      <Head view={view} may={may} change={change} />
      {changing.error && <ProblemNotice error={changing.error} />}
      {typing.trouble !== null && (
        <Notice level="look">
          {typing.onTheWay} {typing.onTheWay === 1 ? 'field is' : 'fields are'} not kept yet: {typing.trouble}{' '}
          What was typed stands here and is tried again.
        </Notice>
      )}
      {failed !== null && <Notice level="stop">The sheet could not be worked out: {failed}.</Notice>}
      {!sheet ? (
        <Asking what="every setting of this draft" />
      ) : (
        <>
          <a href="#comes-to" className="mt-2 block py-2 font-semibold text-plum underline lg:hidden">
            {sumOf(sheet)}
          </a>
          <div className="mt-2 grid gap-x-2 lg:grid-cols-[minmax(0,3fr)_minmax(20rem,2fr)]">
            <div className="min-w-0">
              <DutyPart view={view} sheet={sheet} typing={typing} change={change} />
              <UnitPart view={view} dictionary={dictionary} sheet={sheet} typing={typing} change={change} />
              <PlatePart sheet={sheet} typing={typing} />
              {(['supply', 'sources', 'ramps', 'stopping'] as const).map((section) => (
                <FieldsPart key={section} section={section} sheet={sheet} typing={typing} />
              ))}
              <TerminalsPart
                dictionary={dictionary}
                sheet={sheet}
                typing={typing}
                ofPoint={view.point !== null}
              />
              {(['protections', 'restart', 'loop', 'network'] as const).map((section) => (
                <FieldsPart key={section} section={section} sheet={sheet} typing={typing} />
              ))}
              <OtherPart dictionary={dictionary} sheet={sheet} typing={typing} />
              <UsesPart
                view={view}
                sheet={sheet}
                may={may}
                waits={typing.onTheWay > 0 || isOlder}
                change={change}
              />
            </div>
            <Beside id={view.id} sheet={sheet} isOlder={isOlder} />
          </div>
        </>
      )}
    </Page>
  );
}

function Head({
  view,
  may,
  change,
}: {
  view: SettingsDraftView;
  may: boolean;
  change: (wanted: object) => void;
}) {
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="text-2xl font-semibold">
          <Link to="/drafts" className="text-plum hover:underline">
            First settings
          </Link>
        </h1>
        <Name key={view.name} view={view} may={may} change={change} />
        <span className="ml-auto flex flex-wrap gap-2">
          <Way to={`/drafts/${view.id}/compare`}>Compare</Way>
          <Way to={`/drafts/${view.id}/dry-run`}>Dry run</Way>
          <a
            href={`/api/drafts/${view.id}/file`}
            className="inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
          >
            Save as a file
          </a>
        </span>
      </div>
      <p className="mt-1 text-sm text-soft">
        Begun by {view.owner}, {showTime(view.startedAt)}
        {view.tag !== null && (
          <>
            {' '}
            · for{' '}
            <Link to={`/positions/${view.tag}`} className="font-mono text-plum hover:underline">
              {view.tag}
            </Link>
          </>
        )}
        {view.from && (
          <>
            {' '}
            · carried over from{' '}
            <Link to={`/drafts/${view.from.id}`} className="text-plum hover:underline">
              {view.from.name}
            </Link>{' '}
            <Link to={`/drafts/${view.id}/compare`} className="text-plum hover:underline">
              (what is different)
            </Link>
          </>
        )}
        {may && ' · Everything typed here is kept at once, with your name. Nothing is connected.'}
      </p>
      <Away view={view} />
    </>
  );
}

function Name({
  view,
  may,
  change,
}: {
  view: SettingsDraftView;
  may: boolean;
  change: (wanted: object) => void;
}) {
  const [name, setName] = useState(view.name);
  if (!may) return <span className="text-lg">{view.name}</span>;
  return (
    <input
      aria-label="Name of the draft"
      value={name}
      maxLength={80}
      onChange={({ target }) => setName(target.value)}
      onBlur={() => {
        if (name.trim() !== '' && name.trim() !== view.name) change({ name: name.trim() });
        else setName(view.name);
      }}
      className="min-w-0 flex-1 rounded border border-transparent bg-transparent px-1 text-lg hover:border-rule focus:border-rule max-lg:min-h-12"
    />
  );
}

function Away({ view }: { view: SettingsDraftView }) {
  const { data: session } = useSession();
  const takeOut = useMutation<SettingsDraftView, ProblemError>({
    mutationFn: () => post(`drafts/${view.id}/take-out`),
    onSuccess: takeView,
  });
  if (!view.ended) return null;
  return (
    <div className="mt-2">
      <Notice level="plain">
        Put away by {view.ended.by}, {showTime(view.ended.at)}: {view.ended.why}.{' '}
        {session && session.role !== 'viewer' && (
          <Button weight="quiet" disabled={takeOut.isPending} onClick={() => takeOut.mutate()}>
            Take it out again
          </Button>
        )}
      </Notice>
      {takeOut.error && <ProblemNotice error={takeOut.error} />}
    </div>
  );
}
