import type { CheckFindingView, ChecksView, KeyInSheetView, WritePlanView } from '@drive-keep/api';
import { findParameter, type Dictionary } from '@drive-keep/core/dictionary';
import { hasBit, showRaw, type Form, type Reading } from '@drive-keep/core/values';
import { useMutation } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { post, remove, type ProblemError } from '../api/client.ts';
import { forgetPositions, queryClient } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { showAge, showDate } from '../words/dates.ts';
import { calculatorFor } from '../calculate/calculator-for.ts';
import { AcceptForm } from './accept-form.tsx';

type Mend = CheckFindingView['mends'][number];

/** What is wrong, why, the values with their places, and what can be done about it. */
export function FindingRow({
  tag,
  finding,
  dictionary,
  onLine,
  mayWork,
  mayAccept,
}: {
  tag: string;
  finding: CheckFindingView;
  dictionary: Dictionary;
  onLine: boolean;
  mayWork: boolean;
  mayAccept: boolean;
}) {
  const { attention, text, why, name, values, mends, since, accepted, lapsed, identity } = finding;
  const ground =
    accepted !== null
      ? 'border-rule'
      : attention === 'stop'
        ? 'border-stop bg-stop-wash'
        : 'border-look bg-look-wash';
  const calculator = calculatorFor(finding, tag);
  return (
    <li className={`mb-2 border-l-4 px-3 py-2 ${ground}`} data-finding={identity}>
      <p>
        {accepted === null && attention === 'stop' && <strong className="mr-2 text-stop">Mend.</strong>}
        <span className="font-medium">{text}</span>
      </p>
      <p className="text-sm text-soft">
        {name}
        {since && ` · first seen ${showAge(since)}`} · {why}
      </p>
      {values.length > 0 && (
        <ul className="mt-1 flex flex-wrap gap-x-6 gap-y-1 text-sm">
          {values.map(({ code, reading }) => {
            const parameter = findParameter(dictionary, code);
            return (
              <li key={code} className="flex items-baseline gap-2">
                <Link
                  to={`/positions/${tag}/parameters/${encodeURIComponent(code)}`}
                  className="font-mono text-plum hover:underline"
                >
                  {code}
                </Link>
                <span>{parameter?.name}</span>
                {parameter && <b className="font-medium">{readingText(parameter.form, reading)}</b>}
              </li>
            );
          })}
        </ul>
      )}
      {accepted && (
        <p className="mt-1 text-sm">
          Accepted until {showDate(accepted.until)} by {accepted.person}: {accepted.reason}
        </p>
      )}
      {accepted === null && lapsed && (
        <p className="mt-1 text-sm">
          Was accepted until {showDate(lapsed.until)} by {lapsed.person} ({lapsed.reason}), with the values of
          then.
        </p>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {mayWork && accepted === null && <Mends {...{ tag, mends, values, dictionary, onLine }} />}
        {calculator && (
          <Link
            to={calculator.to}
            className="inline-flex min-h-9 items-center text-sm text-plum underline max-lg:min-h-12"
          >
            {calculator.name}
          </Link>
        )}
        {mayAccept && <Accepting tag={tag} finding={finding} />}
      </div>
    </li>
  );
}

/** Each alternative as a write plan, or as a sheet for fingers where the unit has no line. */
function Mends({
  tag,
  mends,
  values,
  dictionary,
  onLine,
}: {
  tag: string;
  mends: readonly Mend[];
  values: CheckFindingView['values'];
  dictionary: Dictionary;
  onLine: boolean;
}) {
  const navigate = useNavigate();
  const plan = useMutation<WritePlanView | KeyInSheetView, ProblemError, Mend>({
    mutationFn: (mend) => {
      const wish = { target: targetOf(mend), codes: mend.map(({ code }) => code) };
      return post(`positions/${tag}/${onLine ? 'write-plans' : 'key-in-sheets'}`, wish);
    },
    onSuccess: ({ id }) => navigate(onLine ? `/write-plans/${id}` : `/key-in/${id}`),
  });
  return (
    <>
      {mends.map((mend) => (
        <Button key={targetOf(mend)} disabled={plan.isPending} onClick={() => plan.mutate(mend)}>
          {onLine ? 'Plan' : 'Key-in sheet'}: {mendText(mend, values, dictionary)}
        </Button>
      ))}
      {plan.error && <ProblemNotice error={plan.error} />}
    </>
  );
}

/** What could not be read is no value. */
const readingText = (form: Form, reading: Reading | null): string =>
  typeof reading === 'number' ? showRaw(form, reading) : reading === null ? 'not there' : 'could not be read';

/** As the server names values on top of what a unit was last seen to hold. */
const targetOf = (mend: Mend): string => `values:${mend.map(({ code, raw }) => `${code}=${raw}`).join(',')}`;

/** Of a word the bits that change; of all else the new value. */
function mendText(mend: Mend, values: CheckFindingView['values'], dictionary: Dictionary): string {
  return mend
    .map(({ code, raw }) => {
      const form = findParameter(dictionary, code)?.form;
      const now = values.find((each) => each.code === code)?.reading;
      if (form?.kind === 'bits' && typeof now === 'number')
        return form.bits
          .filter(({ bit }) => hasBit(raw, bit) !== hasBit(now, bit))
          .map(({ bit, text }) => `${code} bit ${bit} ${hasBit(raw, bit) ? 'on' : 'off'} (${text})`)
          .join(', ');
      return `${code} to ${form ? showRaw(form, raw) : raw}`;
    })
    .join(', ');
}

function Accepting({ tag, finding }: { tag: string; finding: CheckFindingView }) {
  const show = (view: ChecksView) => {
    queryClient.setQueryData([`positions/${tag}/checks?set=newest`], view);
    void forgetPositions();
  };
  const reopen = useMutation<ChecksView, ProblemError, string>({
    mutationFn: (id) => remove<ChecksView>(`positions/${tag}/accepted-findings/${id}`),
    onSuccess: show,
  });
  const { accepted } = finding;
  if (accepted === null) return <AcceptForm tag={tag} finding={finding} done={show} />;
  return (
    <>
      <Button weight="quiet" disabled={reopen.isPending} onClick={() => reopen.mutate(accepted.id)}>
        Accept no longer
      </Button>
      {reopen.error && <ProblemNotice error={reopen.error} />}
    </>
  );
}
