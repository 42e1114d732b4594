// What another model would make of a position: does it fit, what becomes of every setting and wire, does it do the same.
// Nothing is kept and nothing is written: the address holds what was chosen.

import type { DryRunView, PositionDetailView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import {
  useCrossReference,
  useDictionary,
  useDryRunView,
  useModels,
  usePosition,
  useVocabulary,
} from '../api/queries.ts';
import { changed } from '../dry-run/changed-address.ts';
import { toAddress } from '../dry-run/events-in-address.ts';
import { inWorker } from '../dry-run/in-worker.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { FitPart } from './fit-part.tsx';
import { SettingsPart } from './settings-part.tsx';
import { successorAnswer, type SuccessorAnswer, type SuccessorInput } from './successor-answer.ts';
import { showTime } from '../words/dates.ts';
import { WiresPart } from './wires-part.tsx';

export function SuccessorPage() {
  const { tag = '' } = useParams();
  const position = usePosition(tag);
  const { data: view, error } = useDryRunView(tag, 'newest');
  const { data: old } = useDictionary(view?.dictionary);
  const [params, setParams] = useSearchParams();
  const choose = (key: string, value: string) =>
    setParams((before) => changed(before, key, value), { replace: true });
  const { data: models } = useModels();
  const model = params.get('model') ?? '';
  if (!position.data || !view || !old)
    return <Unanswered error={position.error ?? error} what="this position" />;
  const others = (models ?? []).filter(({ id }) => id !== view.dictionary);
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
          onChange={({ target }) =>
            setParams(new URLSearchParams(target.value === '' ? {} : { model: target.value }))
          }
        />
      </div>
      {model === '' ? (
        <p className="mt-6 text-soft">
          Choose a model. Its ratings are held against motor, wires and cabinet of this position, every
          setting and every wire gets its place, and both are walked through all that the devices can bring
          about.
        </p>
      ) : (
        <Against key={model} position={position.data} view={view} old={old} model={model} choose={choose} />
      )}
    </Page>
  );
}

/** Asked of a worker once for each choice; the one before stays on the screen meanwhile. */
function useSuccessor(
  { view, old, onLine }: Pick<SuccessorInput, 'view' | 'old' | 'onLine'>,
  model: string,
  params: URLSearchParams,
) {
  const { data: fresh, error } = useDictionary(model);
  const { data: vocabulary } = useVocabulary();
  const { data: cross, error: noCross } = useCrossReference(old.model, fresh?.model);
  const [rating, region] = [params.get('rating'), params.get('region') ?? view.region];
  const chosen = params.get('choose') ?? '';
  const terminals = params.get('to') ?? '';
  const ready = fresh && vocabulary && cross && fresh.ratings.length > 0;
  const asked = useQuery<SuccessorAnswer>({
    queryKey: ['successor', view, model, rating, region, chosen, terminals],
    enabled: Boolean(ready),
    retry: false,
    staleTime: Infinity,
    placeholderData: (before) => before,
    queryFn: () => {
      if (!ready) throw new Error('not ready');
      const own = fresh.regions.find(({ id }) => id === region) ?? fresh.regions[0];
      const input: SuccessorInput = {
        ...{ view, old, onLine, fresh, cross, vocabulary, rating },
        ...{ region: own?.id ?? '', choices: choicesIn(chosen), terminals: pairsIn(terminals) },
      };
      const make = () => new Worker(new URL('./successor.worker.ts', import.meta.url), { type: 'module' });
      return inWorker(make, successorAnswer, input);
    },
  });
  return {
    fresh,
    cross,
    chosen,
    terminals,
    error: error ?? noCross,
    answer: asked.data,
    failed: asked.error,
  };
}

function Against({
  position,
  view,
  old,
  model,
  choose,
}: {
  position: PositionDetailView;
  view: DryRunView;
  old: Dictionary;
  model: string;
  choose: (key: string, value: string) => void;
}) {
  const [params] = useSearchParams();
  const onLine = position.unit.line !== null;
  const { fresh, cross, chosen, terminals, error, answer, failed } = useSuccessor(
    { view, old, onLine },
    model,
    params,
  );
  if (!fresh || !cross) return <Unanswered error={error} what="this model" />;
  if (fresh.ratings.length === 0)
    return <p className="mt-4">This model tells no rating: nothing can be worked out.</p>;
  if (failed) return <p className="mt-4">It could not be worked out: {failed.message}.</p>;
  if (!answer) return <p className="mt-4 text-soft">Every setting and every wire is being placed …</p>;
  const { behaviour, faults } = answer;
  return (
    <>
      {cross.text === null && (
        <Notice level="look">
          Nobody has written a cross-reference from {old.name} to {fresh.name}: the bridge alone carries, and{' '}
          {answer.unproven} of {answer.lines.length} lines are unproven.
        </Notice>
      )}
      {faults.map(({ line, text }) => (
        <Notice key={`${line} ${text}`} level="stop">
          The cross-reference cannot be read and was left aside. Line {line}: {text}.
        </Notice>
      ))}
      <p className="mt-4 text-2xl font-semibold">
        {openText(answer.open)};{' '}
        {behaviour.same ? 'it does the same' : 'it does not do the same in everything'}.
      </p>
      <FitPart answer={answer} choose={(id) => choose('rating', id)} />
      <SettingsPart
        lines={answer.lines}
        old={old.name}
        fresh={fresh.name}
        choose={(id, at) => choose('choose', withPair(pairsIn(chosen), id, String(at)))}
      />
      <WiresPart
        answer={answer}
        wired={view.wiringRevision > 0}
        choose={(from, to) => choose('to', withPair(pairsIn(terminals), from, to))}
      />
      <BehaviourPart tag={view.tag} behaviour={behaviour} />
      <p className="border-t border-rule pt-3 text-sm text-soft">
        Nothing of this is kept and nothing is written: the address of this page holds what was chosen.
      </p>
    </>
  );
}

function BehaviourPart({
  tag,
  behaviour: { summary, same, differences },
}: {
  tag: string;
  behaviour: SuccessorAnswer['behaviour'];
}) {
  return (
    <SheetPart name="Same behaviour" state={same ? 'proved' : 'differs'}>
      <p>{summary}</p>
      <ol className="mt-2 list-decimal space-y-1 pl-5">
        {differences.map(({ text, events }) => (
          <li key={text}>
            {text}{' '}
            <Link
              to={`/positions/${tag}/dry-run?do=${encodeURIComponent(toAddress(events))}`}
              className="text-plum underline"
            >
              What the old unit does
            </Link>
          </li>
        ))}
      </ol>
    </SheetPart>
  );
}

const openText = (open: number): string =>
  open === 0 ? 'Nothing is open' : open === 1 ? 'One line is open' : `${open} lines are open`;

/** `new CA6~0|old 3/15~1`, `10~28`: what was chosen, by line or by terminal of the old unit. */
const pairsIn = (text: string): Readonly<Record<string, string>> =>
  Object.fromEntries(
    text.split('|').flatMap((each): [string, string][] => {
      const [id = '', to = ''] = each.split('~');
      return id !== '' && to !== '' ? [[id, to]] : [];
    }),
  );

const choicesIn = (text: string): Readonly<Record<string, number>> =>
  Object.fromEntries(
    Object.entries(pairsIn(text)).flatMap(([id, at]) => (/^\d+$/.test(at) ? [[id, Number(at)]] : [])),
  );

const withPair = (pairs: Readonly<Record<string, string>>, id: string, to: string): string =>
  Object.entries({ ...pairs, [id]: to })
    .map((pair) => pair.join('~'))
    .join('|');
