// A reset to defaults as one sheet: for which region and what of the unit, what would be lost, what goes back afterwards,
// and how it is done. A unit without a line is reset at its keypad by the same steps.

import type { KeyInSheetView, ResetLossView, ResetView, WritePlanView } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { findParameter, type Dictionary } from '@drive-keep/core/dictionary';
import { sameReading } from '@drive-keep/core/values';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useDictionary, useReset, useSession } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { showReading } from '../words/readings.ts';

export function ResetPage() {
  const { tag = '' } = useParams();
  const [search, setSearch] = useSearchParams();
  const { data: reset, error } = useReset(tag, search.toString());
  const { data: dictionary } = useDictionary(reset?.dictionary);
  if (!reset || !dictionary) return <Unanswered error={error} what="what a reset would do" />;
  const choose = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    next.set(name, value);
    setSearch(next, { replace: true });
  };
  return (
    <Page title={`Reset of ${tag}`}>
      <h1 className="text-2xl font-semibold">
        Reset to defaults:{' '}
        <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
          {tag}
        </Link>
      </h1>
      <p className="mt-1 mb-3 text-soft">
        By the backup of {showTime(reset.newestAt)}. Nothing is done to the unit on this page.
      </p>
      {reset.otherRegion && (
        <div className="mb-3">
          <Notice level="look">
            This unit holds the defaults of the other region, {reset.otherRegion.name}, in{' '}
            <span className="font-mono">{reset.otherRegion.codes.join(', ')}</span>. It was reset for the
            wrong region.
          </Notice>
        </div>
      )}
      <Choice
        reset={reset}
        // What was clicked shows at once; what it would lose follows from the server.
        region={search.get('region') ?? reset.region}
        scope={search.get('scope') ?? String(reset.scope)}
        choose={choose}
      />
      <Losses key={`${reset.region} ${reset.scope}`} reset={reset} dictionary={dictionary} />
    </Page>
  );
}

function Choice({
  reset,
  region,
  scope,
  choose,
}: {
  reset: ResetView;
  region: string;
  scope: string;
  choose: (name: string, value: string) => void;
}) {
  return (
    <SheetPart name="For what" state="chosen">
      <div className="flex flex-wrap gap-6">
        <Pick
          legend="Region"
          options={reset.regions.map(({ id, name }) => ({ value: id, name }))}
          chosen={region}
          choose={(value) => choose('region', value)}
        />
        {reset.scopes.length > 0 && (
          <Pick
            legend="Covers"
            options={reset.scopes.map(({ raw, name }) => ({ value: String(raw), name }))}
            chosen={scope}
            choose={(value) => choose('scope', value)}
          />
        )}
      </div>
    </SheetPart>
  );
}

function Pick({
  legend,
  options,
  chosen,
  choose,
}: {
  legend: string;
  options: readonly { readonly value: string; readonly name: string }[];
  chosen: string;
  choose: (value: string) => void;
}) {
  return (
    <fieldset>
      <legend className="text-sm text-soft">{legend}</legend>
      <div className="flex flex-wrap gap-x-5">
        {options.map(({ value, name }) => (
          <label key={value} className="flex min-h-12 items-center gap-2">
            <input
              type="radio"
              name={legend}
              className="size-5 accent-plum"
              checked={chosen === value}
              onChange={() => choose(value)}
            />
            {name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** What the baseline wants and a reset would not leave: that is what has to go back. */
const isWanted = ({ baseline, after }: ResetLossView): boolean =>
  baseline !== null && !sameReading(baseline, after ?? undefined);

function Losses({ reset, dictionary }: { reset: ResetView; dictionary: Dictionary }) {
  const { data: session } = useSession();
  const navigate = useNavigate();
  const [back, setBack] = useState<ReadonlySet<string>>(
    new Set(reset.losses.filter(isWanted).map(({ code }) => code)),
  );
  const choice = {
    region: reset.region,
    ...(reset.scope === null ? {} : { scope: reset.scope }),
    putBack: [...back],
  };
  const plan = useMutation<WritePlanView, ProblemError>({
    mutationFn: () => post(`positions/${reset.tag}/reset-plans`, choice),
    onSuccess: ({ id }) => navigate(`/write-plans/${id}`),
  });
  const sheet = useMutation<KeyInSheetView, ProblemError>({
    mutationFn: () => post(`positions/${reset.tag}/reset-key-in-sheets`, choice),
    onSuccess: ({ id }) => navigate(`/key-in/${id}`),
  });
  const problem = plan.error ?? sheet.error;
  const turn = (code: string) => {
    const next = new Set(back);
    if (!next.delete(code)) next.add(code);
    setBack(next);
  };
  const all = (codes: readonly string[]) => setBack(new Set(codes));
  return (
    <>
      <SheetPart name="Lost" state={`${reset.losses.length} values`}>
        <p className="mb-2 text-soft">
          Marked lines go back after the reset:{' '}
          {reset.revision === null
            ? 'there is no signed baseline, so to what they hold now.'
            : `to what revision ${reset.revision} of the baseline wants, or what they hold now where it says nothing.`}
        </p>
        <div className="mb-2 flex flex-wrap gap-2">
          <Button onClick={() => all(reset.losses.map(({ code }) => code))}>All back</Button>
          <Button onClick={() => all(reset.losses.filter(isWanted).map(({ code }) => code))}>
            What the baseline wants
          </Button>
          <Button onClick={() => all([])}>Nothing back</Button>
        </div>
        <LossTable losses={reset.losses} back={back} turn={turn} dictionary={dictionary} />
      </SheetPart>
      <SheetPart name="Stays" state={`${reset.keeps.length} parameters`}>
        <p>
          The reset of this model leaves these as they are:{' '}
          <span className="font-mono text-sm">{reset.keeps.slice(0, 24).join(', ')}</span>
          {reset.keeps.length > 24 && <span className="text-soft"> and {reset.keeps.length - 24} more</span>}
        </p>
      </SheetPart>
      <SheetPart name="How" state={reset.overLine ? 'over the line' : 'at the keypad'}>
        <ol className="mb-3 list-decimal pl-5">
          {reset.steps.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ol>
        {session && session.role !== 'viewer' && reset.overLine && (
          <Button weight="main" className="min-h-12" disabled={plan.isPending} onClick={() => plan.mutate()}>
            Plan the reset with {back.size} lines put back
          </Button>
        )}
        {!reset.overLine && <ByHand reset={reset} />}
        {session && session.role !== 'viewer' && !reset.overLine && (
          <Button
            weight="main"
            className="mt-3 min-h-12"
            disabled={sheet.isPending}
            onClick={() => sheet.mutate()}
          >
            Make the key-in sheet with {back.size} lines put back
          </Button>
        )}
        {problem && <ProblemNotice error={problem} />}
      </SheetPart>
    </>
  );
}

/** What proves a reset at the keypad is what is read afterwards. */
function ByHand({ reset }: { reset: ResetView }) {
  const { notAtDefault } = reset;
  return (
    <p>
      Done at the keypad, it is proven by the next backup: read the unit off or back it up, and come back
      here.{' '}
      {notAtDefault.length === 0 ? (
        <b>By the newest backup this unit holds its defaults.</b>
      ) : (
        <>
          By the newest backup {notAtDefault.length} parameters do not hold the defaults of their rating and
          region.
        </>
      )}
    </p>
  );
}

function LossTable({
  losses,
  back,
  turn,
  dictionary,
}: {
  losses: readonly ResetLossView[];
  back: ReadonlySet<string>;
  turn: (code: string) => void;
  dictionary: Dictionary;
}) {
  if (losses.length === 0) return <p>Nothing: the unit holds these defaults already.</p>;
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full text-left [&_td]:pr-3 [&_th]:pr-3">
        <thead className="text-sm text-soft">
          <tr className="border-b border-rule">
            <th className="py-1 font-normal">Back</th>
            <th className="font-normal">Code</th>
            <th className="font-normal">Parameter</th>
            <th className="font-normal">Holds now</th>
            <th className="font-normal">After the reset</th>
            <th className="font-normal">Baseline wants</th>
          </tr>
        </thead>
        <tbody>
          {losses.map((loss) => {
            const parameter = findParameter(dictionary, loss.code);
            if (!parameter) return null;
            const odd = loss.baseline !== null && !sameReading(loss.baseline, loss.now ?? undefined);
            return (
              <tr key={loss.code} className="h-9 border-b border-rule align-middle">
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Put back ${loss.code}`}
                    className="size-5 accent-plum"
                    checked={back.has(loss.code)}
                    onChange={() => turn(loss.code)}
                  />
                </td>
                <td className="font-mono">{loss.code}</td>
                <td>{parameter.name}</td>
                <td className="font-mono">{showReading(parameter, loss.now)}</td>
                <td className="font-mono">{showReading(parameter, loss.after)}</td>
                <td className={`font-mono ${odd ? 'bg-look-wash' : 'text-soft'}`}>
                  {loss.baseline === null ? '' : showReading(parameter, loss.baseline)}
                  {odd && <span className="sr-only"> differs from what it holds now</span>}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
