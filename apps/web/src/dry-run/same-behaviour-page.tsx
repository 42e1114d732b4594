// Whether two drives do the same with the same devices: of one model or of two, by any of their sets.

import type { DryRunView } from '@drive-keep/api';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useDictionary, useDryRunView, useHistory, useVocabulary } from '../api/queries.ts';
import { CompareHead } from '../compare/compare-head.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { PositionField } from '../ui/position-field.tsx';
import { showTime } from '../words/dates.ts';
import { toAddress } from './events-in-address.ts';
import { inWorker } from '../ui/in-worker.ts';
import { comparePair, type PairAnswer, type PairDifference, type PairInput } from './same-behaviour.ts';

export function SameBehaviourPage() {
  const [params, setParams] = useSearchParams();
  const change = (key: string) => (value: string) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (value === '') next.delete(key);
        else next.set(key, value);
        return next;
      },
      { replace: true },
    );
  const side = (key: 'a' | 'b') => ({
    tag: params.get(key) ?? '',
    set: params.get(`${key}set`) ?? 'newest',
  });
  const [a, b] = [side('a'), side('b')];
  return (
    <Page title="Same behaviour">
      <CompareHead>
        {[['A', 'a', a] as const, ['B', 'b', b] as const].map(([label, key, { tag, set }]) => (
          <span key={key} className="flex flex-wrap items-center gap-2">
            <PositionField label={label} tag={tag} choose={change(key)} />
            {tag !== '' && <SetField label={label} tag={tag} set={set} choose={change(`${key}set`)} />}
          </span>
        ))}
      </CompareHead>
      {a.tag === '' || b.tag === '' ? (
        <p className="mt-6 text-soft">
          Choose two drives. They are walked through everything that the devices both have can bring about,
          and what they do is compared at every step. Devices are joined by their names.
        </p>
      ) : (
        <Pair a={a} b={b} />
      )}
    </Page>
  );
}

function SetField({
  label,
  tag,
  set,
  choose,
}: {
  label: string;
  tag: string;
  set: string;
  choose: (set: string) => void;
}) {
  const { data: history } = useHistory(tag);
  const revisions = (history?.baselines ?? []).map(({ revision }) => `baseline:${revision}`);
  const ids = [...new Set(['newest', ...revisions, set])];
  return (
    <select
      aria-label={`Set of ${label}`}
      value={set}
      className="h-9 rounded border border-rule bg-sheet px-2 text-sm max-lg:h-12"
      onChange={({ target }) => choose(target.value)}
    >
      {ids.map((id) => (
        <option key={id} value={id}>
          {id === 'newest' ? 'newest backup' : id.replace(':', ', revision ')}
        </option>
      ))}
    </select>
  );
}

interface Side {
  readonly tag: string;
  readonly set: string;
}

function Pair({ a, b }: { a: Side; b: Side }) {
  const { data: left, error } = useDryRunView(a.tag, a.set);
  const { data: right, error: otherError } = useDryRunView(b.tag, b.set);
  const { data: leftDictionary } = useDictionary(left?.dictionary);
  const { data: rightDictionary } = useDictionary(right?.dictionary);
  const { data: vocabulary } = useVocabulary();
  const ready = left && right && leftDictionary && rightDictionary && vocabulary;
  const [pairs, setPairs] = useState(0);
  const { data: answer, error: failed } = useQuery<PairAnswer>({
    queryKey: ['same-behaviour', left, right],
    enabled: Boolean(ready),
    retry: false,
    staleTime: Infinity,
    queryFn: () => {
      if (!ready) throw new Error('not ready');
      const question: PairInput = {
        a: { view: left, dictionary: leftDictionary, vocabulary },
        b: { view: right, dictionary: rightDictionary, vocabulary },
      };
      const make = () =>
        new Worker(new URL('./same-behaviour.worker.ts', import.meta.url), { type: 'module' });
      return inWorker(make, comparePair, question, setPairs);
    },
  });
  if (!left || !right) return <Unanswered error={error ?? otherError} what={`${a.tag} and ${b.tag}`} />;
  if (failed) return <p className="mt-4">It could not be worked out: {failed.message}.</p>;
  if (!answer)
    return (
      <p className="mt-4 text-soft">
        Walking through both …{pairs > 0 && ` ${pairs.toLocaleString('en')} pairs of states until now.`}
      </p>
    );
  return <Walked left={left} right={right} answer={answer} />;
}

function Walked({ left, right, answer }: { left: DryRunView; right: DryRunView; answer: PairAnswer }) {
  const { summary, differences, alone, times, loop } = answer;
  return (
    <>
      <p className="mt-4 text-2xl font-semibold">{summary}</p>
      <p className="mt-1 text-soft">{[left, right].map(sayView).join(' · ')}</p>
      {alone.length > 0 && (
        <p className="mt-1 border-l-4 border-look bg-look-wash px-3 py-1">
          Not worked, as only one of them has it: {alone.join(', ')}.
        </p>
      )}
      {[left, right]
        .filter(({ wiringRevision }) => wiringRevision === 0)
        .map(({ tag }) => (
          <p key={tag} className="mt-1 border-l-4 border-look bg-look-wash px-3 py-1">
            No wiring of {tag} was kept yet: only keys, supply and faults are compared.
          </p>
        ))}
      {byMend(differences).map(({ mend, differences: group }) => (
        <section key={mend} className="mt-3 border-t border-rule pt-3">
          <ol>
            {group.map((each) => (
              <DifferencePart key={each.text} left={left} right={right} difference={each} />
            ))}
          </ol>
          <p>
            {mend === ''
              ? 'No setting that both have mends this: wires, the model, or settings of one of them decide.'
              : `On ${right.tag} this would mend it: ${mend}.`}
          </p>
        </section>
      ))}
      <DifferingPart name="Times that differ" lines={times} />
      <DifferingPart name="Settings of the loop that differ" lines={loop} />
      <p className="mt-4 border-t border-rule pt-3 text-sm text-soft">
        A wire or link is broken alone and mended again; signals stand at start, middle and end, and a speed
        by them is compared where either curve bends. Contacts that can change places count as one. Left out:
        stretching of ramps by limits, dynamics of loops, thermal trips, what a network or a user program asks
        for, counting, travel of an axis, and races of contacts within one filter time.
      </p>
    </>
  );
}

function DifferingPart({ name, lines }: { name: string; lines: PairAnswer['times'] }) {
  if (lines.length === 0) return null;
  return (
    <SheetPart name={name} state="outside the walk">
      <ul>
        {lines.map(({ term, a, b }) => (
          <li key={term}>
            {term}: {a} and {b}
          </li>
        ))}
      </ul>
    </SheetPart>
  );
}

const sayView = ({ tag, title, at }: DryRunView): string =>
  `${tag}: ${title}${at === null ? '' : `, ${showTime(at)}`}`;

/** Differences with one cause stand together, the gravest first. */
function byMend(differences: readonly PairDifference[]) {
  const groups = new Map<string, PairDifference[]>();
  for (const each of differences) {
    const mend = each.mend.join('; ');
    groups.set(mend, [...(groups.get(mend) ?? []), each]);
  }
  return [...groups].map(([mend, group]) => ({ mend, differences: group }));
}

function DifferencePart({
  left,
  right,
  difference: { text, done, events, reasons },
}: {
  left: DryRunView;
  right: DryRunView;
  difference: PairDifference;
}) {
  const way = encodeURIComponent(toAddress(events));
  const replay = ({ tag, reference }: DryRunView) =>
    `/positions/${tag}/dry-run?set=${encodeURIComponent(reference)}&do=${way}`;
  return (
    <li className="py-2">
      <p className="font-semibold">{text}</p>
      <details className="mt-1">
        <summary className="text-plum">The way there, and why</summary>
        <table className="mt-2 w-full text-left text-sm">
          <thead className="border-b border-rule text-soft">
            <tr>
              <th className="py-1 pr-4 font-normal">What is done</th>
              <th className="py-1 pr-4 font-normal">{left.tag}</th>
              <th className="py-1 font-normal">{right.tag}</th>
            </tr>
          </thead>
          <tbody>
            {done.map(({ text: event, a, b }, at) => (
              <tr key={at} className="border-b border-rule">
                <td className="py-1 pr-4">
                  {at + 1}. {event}
                </td>
                <td className="py-1 pr-4">{a}</td>
                <td className="py-1">{b}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-2 grid gap-4 text-sm md:grid-cols-2">
          {[[left, reasons.a] as const, [right, reasons.b] as const].map(([view, lines], at) => (
            <div key={at}>
              <Link to={replay(view)} className="text-plum hover:underline">
                {view.tag} in the dry run
              </Link>
              <ol>
                {lines.map((line, place) => (
                  <li key={place}>{line}</li>
                ))}
              </ol>
            </div>
          ))}
        </div>
      </details>
    </li>
  );
}
