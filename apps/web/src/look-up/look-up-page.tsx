// Any word, code or other name finds the parameter in every model, with options and range on the spot. With a position
// its present values stand beside them.

import type { LookUpView, SameMeaningView } from '@drive-keep/api';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useFaultLookUp, useLookUp, useSameMeaning } from '../api/queries.ts';
import { AddressField } from '../ui/address-inputs.tsx';
import { FaultHits } from './fault-hits.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { PositionField } from '../ui/position-field.tsx';
import { Page } from '../ui/page.tsx';

export function LookUpPage() {
  const [params, setParams] = useSearchParams();
  const find = params.get('find') ?? '';
  const position = params.get('position') ?? '';
  const own = params.get('in') ?? '';
  const { data: hits, error } = useLookUp(find, position);
  const { data: faults, error: faultError } = useFaultLookUp(find, position);
  const change = (key: string, value: string) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        next.delete('in');
        if (value === '') next.delete(key);
        else next.set(key, value);
        return next;
      },
      { replace: true },
    );
  // Coming from one model's page, that model's parameter is meant and comes open.
  const sorted = own === '' ? hits : hits?.toSorted((a, b) => rank(b, own) - rank(a, own));
  return (
    <Page title="Look-up">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2">
        <h1 className="text-2xl font-semibold">Look-up</h1>
        <AddressField
          autoFocus
          value={find}
          change={(text) => change('find', text)}
          aria-label="Look up"
          placeholder="Code, name, option, fault or any word"
          className="w-96 max-w-full text-lg"
        />
        <PositionField label="with the values of" tag={position} choose={(tag) => change('position', tag)} />
      </div>
      {find.trim() === '' ? (
        <p className="mt-6 max-w-prose text-soft">
          Type a code as the keypad shows it, a name, an option such as “coast”, the number of a fault, or any
          word of what it does. All models answer at once; a small slip of the finger is forgiven.
        </p>
      ) : !sorted || !faults ? (
        <Unanswered error={error ?? faultError} what={`“${find}” in all models`} />
      ) : sorted.length + faults.length === 0 ? (
        <Nothing>No model has “{find}” in it.</Nothing>
      ) : (
        <>
          <FaultHits hits={faults} />
          <Hits hits={sorted} open={own !== '' || position !== ''} />
        </>
      )}
    </Page>
  );
}

const rank = (hit: LookUpView, own: string): number => (hit.dictionary === own ? 1 : 0);

function Hits({ hits, open }: { hits: readonly LookUpView[]; open: boolean }) {
  const [chosen, setChosen] = useState<string | null>();
  if (hits.length === 0) return <Nothing>No parameter has it in it.</Nothing>;
  const keyOf = ({ dictionary, parameter }: LookUpView) => `${dictionary} ${parameter.code}`;
  const [first] = hits;
  const opened = chosen === undefined && open && first ? keyOf(first) : chosen;
  return (
    <ul className="mt-4 border-t border-rule">
      {hits.map((hit) => (
        <HitLine
          key={keyOf(hit)}
          hit={hit}
          open={keyOf(hit) === opened}
          toggle={() => setChosen(keyOf(hit) === opened ? null : keyOf(hit))}
        />
      ))}
    </ul>
  );
}

function HitLine({ hit, open, toggle }: { hit: LookUpView; open: boolean; toggle: () => void }) {
  const { parameter } = hit;
  return (
    <li className="border-b border-rule">
      <div className="grid gap-x-4 py-1.5 md:grid-cols-[8rem_5.5rem_14rem_1fr_13rem]">
        <Link to={`/models/${hit.dictionary}`} className="hover:underline">
          {hit.model}
        </Link>
        <button
          type="button"
          aria-expanded={open}
          onClick={toggle}
          className="self-start text-left font-mono font-semibold text-plum hover:underline max-lg:min-h-12"
        >
          {parameter.code}
        </button>
        <span>{parameter.name}</span>
        <span className="text-sm">
          {parameter.description}
          <Choices hit={hit} />
        </span>
        <span className="font-mono text-sm">
          {hit.presentText !== '' && (
            <span className="block rounded bg-plum-wash px-1 font-semibold">now {hit.presentText}</span>
          )}
          {hit.range !== '' && <span className="block text-soft">{hit.range}</span>}
          {hit.default !== '' && <span className="block">default {hit.default}</span>}
        </span>
      </div>
      {open && <Elsewhere hit={hit} />}
    </li>
  );
}

function Choices({ hit: { parameter, present, carrying } }: { hit: LookUpView }) {
  const { form } = parameter;
  if (form.kind === 'number') return null;
  const choices =
    form.kind === 'option'
      ? form.options.map(({ raw, text }) => ({ key: raw, text: `${raw} ${text}`, now: raw === present }))
      : form.bits.map(({ bit, text }) => ({
          key: bit,
          text: `bit ${bit} ${text}`,
          now: typeof present === 'number' && ((present >>> bit) & 1) === 1,
        }));
  return (
    <span className="block text-soft">
      {choices.map(({ key, text, now }, at) => (
        <span key={key} className={now ? 'font-semibold text-ink' : ''}>
          {at > 0 && <span className="font-normal text-soft"> · </span>}
          {carrying.includes(key) ? (
            <mark className="rounded bg-plum-wash px-0.5 font-semibold text-ink">{text}</mark>
          ) : (
            text
          )}
        </span>
      ))}
    </span>
  );
}

/** The same on the other models, side by side. */
function Elsewhere({ hit }: { hit: LookUpView }) {
  const { data: same, error } = useSameMeaning(hit.dictionary, hit.parameter.code);
  if (!same) return <Unanswered error={error} what="the same on the other models" />;
  const equal = same.filter(({ countsOtherwise }) => !countsOtherwise);
  const kin = same.filter(({ countsOtherwise }) => countsOtherwise);
  return (
    <div className="mb-2 border-l-4 border-plum bg-sheet px-4 py-2">
      {equal.length === 0 && <Nothing>No other model has a parameter with the same meaning.</Nothing>}
      <Cards found={equal} />
      {kin.length > 0 && (
        <>
          <p className="mt-2 mb-1 text-sm text-soft">
            The same is asked here, but counted another way or held among other switches: values cannot be
            copied as they are.
          </p>
          <Cards found={kin} />
        </>
      )}
    </div>
  );
}

const Cards = ({ found }: { found: readonly SameMeaningView[] }) => (
  <div className="grid grid-cols-[repeat(auto-fill,minmax(14rem,1fr))] gap-3">
    {found.map(({ hit }) => (
      <Link
        key={`${hit.dictionary} ${hit.parameter.code}`}
        to={`/models/${hit.dictionary}?find=${encodeURIComponent(hit.parameter.code)}`}
        className="rounded border border-rule px-3 py-1.5 hover:border-plum"
      >
        <span className="text-sm text-soft">{hit.model}</span>
        <span className="block">
          <b className="font-mono">{hit.parameter.code}</b> {hit.parameter.name}
        </span>
        {hit.range !== '' && <span className="block font-mono text-sm text-soft">{hit.range}</span>}
        {hit.default !== '' && <span className="block font-mono text-sm">default {hit.default}</span>}
      </Link>
    ))}
  </div>
);
