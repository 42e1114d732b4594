// Identification of the motor as a sheet: what must be true before, asking for it, waiting for whoever stands at the machine, what
// came of it, and what has to be selected so that it is used. Drive Keep gives no run command.

import type { PositionDetailView, WritePlanView } from '@drive-keep/api';
import { factsOf, rawOfBound, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import { identificationOf, watchableOf, type Identification } from '@drive-keep/core/live';
import type { Option } from '@drive-keep/core/values';
import { useMutation } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { post, type ProblemError } from '../api/client.ts';
import { useDictionary, useDryRunView, useMotors, usePosition, useSession } from '../api/queries.ts';
import { HeadLine } from '../position/head-line.tsx';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { showReading } from '../words/readings.ts';
import { useNow, type Sample } from './use-now.ts';

export function IdentifyPage() {
  const { tag = '' } = useParams();
  const { data: position, error } = usePosition(tag);
  const { data: dictionary, error: notKnown } = useDictionary(position?.unit.dictionary);
  if (!position) return <Unanswered error={error} what="this position" />;
  const way = dictionary && identificationOf(dictionary);
  return (
    <Page title={`Identification of ${tag}`}>
      <HeadLine position={position} />
      <h2 className="mt-4 text-xl font-semibold">Identification of the motor</h2>
      {!dictionary ? (
        <Unanswered error={notKnown} what="its model" />
      ) : !way || !position.unit.line ? (
        <Nothing>
          {way
            ? `${tag} has no line: it is done at its keypad.`
            : `${dictionary.name} has no identification that is known.`}
        </Nothing>
      ) : (
        <Sheet position={position} dictionary={dictionary} way={way} />
      )}
    </Page>
  );
}

interface Shown {
  readonly position: PositionDetailView;
  readonly dictionary: Dictionary;
  readonly way: Identification;
}

function Sheet({ position, dictionary, way }: Shown) {
  const { tag } = position;
  const also = useMemo(
    () => [way.start, ...(way.use ? [way.use] : []), ...way.measured].map(({ code }) => code).join(','),
    [way],
  );
  const { sample, silent } = useNow(tag, also);
  const { data: kept } = useDryRunView(tag, 'newest');
  const last = new Map(kept?.readings);
  return (
    <>
      {sample === null && (
        <Notice level="look">{silent ?? 'The unit is being asked …'} What it holds now is not known.</Notice>
      )}
      <SheetPart name="Before" state="at the machine">
        <Before way={way} />
        <PlateTable way={way} last={last} at={kept?.at ?? null} />
      </SheetPart>
      <SheetPart name="Ask for it" state={askedText(way, sample)}>
        <Ask tag={tag} way={way} sample={sample} />
      </SheetPart>
      <SheetPart name="Wait" state={sample === null ? 'not known' : goesText(way, sample, dictionary)}>
        <p>
          The run command is given at the machine, and stays until the drive is done: some seconds standing,
          up to half a minute turning. Taken away too early, nothing is taken over.
        </p>
      </SheetPart>
      <SheetPart name="Measured" state={`${way.measured.length} values`}>
        <MeasuredTable {...{ position, dictionary, way, sample, last }} />
      </SheetPart>
      <SheetPart name="After" state={usedText(way, sample)}>
        <After tag={tag} way={way} sample={sample} />
      </SheetPart>
    </>
  );
}

function Before({ way }: { way: Identification }) {
  const turns = way.ways.some(({ meaning }) => meaning === 'turning');
  const points = [
    'The plate of the motor is entered, as in the table; what was measured is only as good as that.',
    'The motor is cold: resistances are meant at 20 °C.',
    'Cable and motor are connected as they stay; a contactor between them is closed.',
    ...(turns
      ? [
          'For a turning identification the motor is uncoupled and may turn freely; under load it breaks off or finds something else.',
        ]
      : []),
    'Nobody is in the machine, and whoever gives the run command can see it.',
  ];
  return (
    <ul className="mb-3 list-disc pl-5">
      {points.map((point) => (
        <li key={point}>{point}</li>
      ))}
    </ul>
  );
}

type Readings = ReadonlyMap<string, Parameters<typeof showReading>[1]>;

function PlateTable({ way, last, at }: { way: Identification; last: Readings; at: string | null }) {
  return (
    <>
      <p className="text-sm text-soft">
        {at ? `As the unit held it ${showTime(at)}.` : 'No backup of this unit is kept yet.'}
      </p>
      <table>
        <tbody>
          {way.plate.map((parameter) => (
            <tr key={parameter.code} className="border-b border-rule [&>td]:py-0.5 [&>td]:pr-6">
              <td className="font-mono">{parameter.code}</td>
              <td>{parameter.name}</td>
              <td className="text-right font-mono">
                {showReading(parameter, last.get(parameter.code) ?? null)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function askedText({ start }: Identification, sample: Sample | null): string {
  const raw = sample?.values[start.code];
  return raw === undefined ? 'not known' : `now: ${showReading(start, raw)}`;
}

const isAsked = ({ start, off }: Identification, sample: Sample | null): boolean | undefined => {
  const raw = sample?.values[start.code];
  return raw === undefined || !off ? undefined : raw !== off.raw;
};

function goesText(way: Identification, sample: Sample, dictionary: Dictionary): string {
  const { fault } = watchableOf(dictionary);
  if (fault && (sample.values[fault.code] ?? 0) !== 0) return 'the drive has a fault: see Live';
  const asked = isAsked(way, sample);
  if (asked === undefined) return 'not known';
  if (!asked) return 'nothing is asked for';
  return sample.runs === true ? 'it goes on' : 'waits for the run command';
}

function usedText({ use, identified }: Identification, sample: Sample | null): string {
  const raw = use ? sample?.values[use.code] : undefined;
  if (!use) return 'always used';
  if (raw === undefined) return 'not known';
  return raw === identified?.raw ? 'used' : 'not used yet';
}

/** A write plan of one value: it is released and written as every other. */
function usePlan(tag: string) {
  const navigate = useNavigate();
  return useMutation<WritePlanView, ProblemError, { parameter: Parameter; option: Option }>({
    mutationFn: ({ parameter, option }) =>
      post(`positions/${tag}/write-plans`, {
        target: `values:${parameter.code}=${option.raw}`,
        codes: [parameter.code],
      }),
    onSuccess: ({ id }) => navigate(`/write-plans/${id}`),
  });
}

function Ask({ tag, way, sample }: { tag: string; way: Identification; sample: Sample | null }) {
  const { data: session } = useSession();
  const plan = usePlan(tag);
  if (isAsked(way, sample) === true)
    return <p>It is asked for. The next run command begins it, whoever gives it: stay with the machine.</p>;
  return (
    <>
      <p className="mb-2">
        A write plan sets {way.start.code}; the machine has to stand for it. Nothing begins by that alone.
      </p>
      {session?.role !== 'viewer' && (
        <span className="flex flex-wrap gap-2">
          {way.ways.map((option) => (
            <Button
              key={option.raw}
              disabled={plan.isPending}
              onClick={() => plan.mutate({ parameter: way.start, option })}
            >
              Plan: {way.start.code} to {option.text}
            </Button>
          ))}
        </span>
      )}
      {plan.error && <ProblemNotice error={plan.error} />}
    </>
  );
}

function After({ tag, way, sample }: { tag: string; way: Identification; sample: Sample | null }) {
  const { data: session } = useSession();
  const plan = usePlan(tag);
  const { use, identified } = way;
  const used = use ? sample?.values[use.code] === identified?.raw : true;
  return (
    <>
      <ul className="mb-2 list-disc pl-5">
        {use && identified && (
          <li>
            Measuring alone changes nothing: {use.code} {use.name} has to be “{identified.text}”.
          </li>
        )}
        <li>
          Values that were measured stand in working memory until they are saved; the plan saves them with the
          rest.
        </li>
        <li>Back up afterwards, so that the next comparison and the next identification know them.</li>
      </ul>
      {use && identified && !used && session?.role !== 'viewer' && (
        <Button disabled={plan.isPending} onClick={() => plan.mutate({ parameter: use, option: identified })}>
          Plan: {use.code} to {identified.text}
        </Button>
      )}{' '}
      <Link to={`/positions/${tag}`} className="text-plum underline">
        Back up now, at the position
      </Link>
      {plan.error && <ProblemNotice error={plan.error} />}
    </>
  );
}

/** Farther from the library or from last time than copper explains between cold and warm. */
const FAR = [0.85, 1.4] as const;

function MeasuredTable({
  position,
  dictionary,
  way,
  sample,
  last,
}: Shown & { sample: Sample | null; last: Readings }) {
  const { data: motors } = useMotors();
  const plate = motors?.find(({ id }) => id === position.motorId)?.plate;
  const facts = factsOf(dictionary, position.unit) ?? {};
  return (
    <table>
      <thead className="border-b border-rule text-sm text-soft">
        <tr className="[&>th]:pr-6 [&>th]:text-left [&>th]:font-normal">
          <th>Code</th>
          <th>What</th>
          <th>The unit now</th>
          <th>Newest backup</th>
          <th>As delivered</th>
          <th>Library of motors</th>
          <th>Now against the library</th>
        </tr>
      </thead>
      <tbody>
        {way.measured.map((parameter) => {
          const now = sample?.values[parameter.code];
          const delivered = parameter.default ? rawOfBound(parameter, parameter.default, facts) : undefined;
          const known = parameter.meaning === 'motor.statorResistance' ? plate?.resistance : undefined;
          const share =
            known !== undefined && now !== undefined ? valueIn(parameter, now) / known : undefined;
          const far = share !== undefined && (share < FAR[0] || share > FAR[1]);
          return (
            <tr key={parameter.code} className="border-b border-rule [&>td]:py-0.5 [&>td]:pr-6">
              <td className="font-mono">{parameter.code}</td>
              <td>{parameter.name}</td>
              <td className="font-mono font-semibold">
                {now === undefined ? '–' : showReading(parameter, now)}
              </td>
              <td className="font-mono">{showReading(parameter, last.get(parameter.code) ?? null)}</td>
              <td className="font-mono">
                {delivered === undefined ? '–' : showReading(parameter, delivered)}
              </td>
              <td className="font-mono">{known === undefined ? '–' : `${known} Ω`}</td>
              <td className={far ? 'bg-look-wash' : ''}>
                {share === undefined
                  ? 'not told there'
                  : `${(share * 100).toFixed(0)} %${far ? ': another motor, a loose terminal, or it was still as delivered' : ''}`}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

const valueIn = ({ form }: Parameter, raw: number): number =>
  form.kind === 'number' ? (raw * form.resolution.step) / 10 ** form.resolution.places : raw;
