// What no bridge can know of a pair of models: read by everybody, changed line by line by an engineer, and kept as a revision of the
// plant. What was answered in closed replacements stands beside it and can be taken in.

import type { CrossReferenceView } from '@drive-keep/api';
import type { Dictionary, Parameter } from '@drive-keep/core/dictionary';
import {
  emptyCrossReference,
  readCrossReference,
  withRule,
  type CrossFault,
  type CrossReference,
  type FreshRule,
  type Rule,
  type RuleSide,
  type WrittenRule,
} from '@drive-keep/core/replace';
import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { put, type ProblemError } from '../api/client.ts';
import {
  queryClient,
  useCrossReference,
  useDictionary,
  useEarlierAnswers,
  useModels,
  useSession,
} from '../api/queries.ts';
import { changed } from '../dry-run/changed-address.ts';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { Learned } from './learned-part.tsx';
import { RuleForm, type RuleDraft } from './rule-form.tsx';
import { DOES } from './rule-names.ts';
import { shownSets } from './shown-sets.ts';

export function CrossReferencePage() {
  const { old: oldModel = '', fresh: freshModel = '' } = useParams();
  const { data: models } = useModels();
  // Listed with the newest version of a model first.
  const idOf = (model: string) => models?.find((each) => each.model === model)?.id;
  const { data: old, error } = useDictionary(idOf(oldModel));
  const { data: fresh, error: noFresh } = useDictionary(idOf(freshModel));
  const { data: reference, error: noReference } = useCrossReference(oldModel, freshModel);
  if (models && (!idOf(oldModel) || !idOf(freshModel)))
    return (
      <Page title="Cross-reference">
        <Nothing>One of these models is not kept here.</Nothing>
      </Page>
    );
  if (!old || !fresh || !reference)
    return <Unanswered error={error ?? noFresh ?? noReference} what="this cross-reference" />;
  return <Loaded key={reference.revision} old={old} fresh={fresh} reference={reference} />;
}

interface LoadedProps {
  readonly old: Dictionary;
  readonly fresh: Dictionary;
  readonly reference: CrossReferenceView;
}

function Loaded({ old, fresh, reference }: LoadedProps) {
  const { data: session } = useSession();
  const { data: earlier } = useEarlierAnswers(old.model, fresh.model);
  const kept = reference.text ?? emptyCrossReference(old, fresh);
  const [text, setText] = useState(kept);
  const [editing, setEditing] = useState<RuleDraft>();
  const may = session?.role === 'engineer';
  const read = useMemo(() => readCrossReference(text, old, fresh), [text, old, fresh]);
  const put_ = (side: RuleSide, code: string, rule: WrittenRule | null) => {
    setText(withRule(text, side, code, rule));
    setEditing(undefined);
  };
  return (
    <Page title={`${old.name} to ${fresh.name}`}>
      <h1 className="text-2xl font-semibold">
        Cross-reference: {old.maker} {old.name} to {fresh.maker} {fresh.name}
      </h1>
      <p className="mt-1 text-soft">
        What the bridge between the models cannot know, each with its reason. A line that is not here is
        carried by meaning alone.
      </p>
      {text !== kept && <Keep reference={reference} text={text} good={read.ok} back={() => setText(kept)} />}
      {!read.ok && <Faults faults={read.fault} />}
      {editing && (
        <RuleForm
          key={`${editing.side} ${editing.code}`}
          draft={editing}
          old={old}
          fresh={fresh}
          keep={put_}
          close={() => setEditing(undefined)}
        />
      )}
      {earlier && (
        <Learned
          earlier={earlier}
          reference={read.ok ? read.value : null}
          fresh={fresh}
          may={may}
          edit={setEditing}
        />
      )}
      {read.ok && (
        <>
          <Lines
            name={`Settings of the ${old.name}`}
            side="old"
            model={old}
            fresh={fresh}
            rules={read.value.byOld}
            may={may}
            edit={setEditing}
          />
          <Lines
            name={`Only the ${fresh.name} has it`}
            side="new"
            model={fresh}
            fresh={fresh}
            rules={read.value.byFresh}
            may={may}
            edit={setEditing}
          />
        </>
      )}
      <FileText text={text} may={may} setText={setText} />
      <Revisions reference={reference} />
    </Page>
  );
}

const LEAST_REASON = 3;

function Keep({
  reference: { old, fresh, revisions },
  text,
  good,
  back,
}: {
  reference: CrossReferenceView;
  text: string;
  good: boolean;
  back: () => void;
}) {
  const [why, setWhy] = useState('');
  const path = `cross-references/${old}/${fresh}`;
  const save = useMutation<CrossReferenceView, ProblemError>({
    mutationFn: () => put(path, { text, why: why.trim(), seen: revisions[0]?.revision ?? 0 }),
    onSuccess: (now) => queryClient.setQueryData([path], now),
  });
  return (
    <form
      className="sticky top-0 z-10 my-3 flex flex-wrap items-center gap-2 rounded border border-plum bg-sheet p-3"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <b>Not kept yet.</b>
      <input
        aria-label="Why it is changed"
        placeholder="Why it is changed"
        maxLength={300}
        className="h-9 w-80 max-w-full rounded border border-rule bg-sheet px-2 max-lg:h-12"
        value={why}
        onChange={({ target }) => setWhy(target.value)}
      />
      <Button
        type="submit"
        weight="main"
        disabled={!good || save.isPending || why.trim().length < LEAST_REASON}
      >
        Keep as revision {(revisions[0]?.revision ?? 0) + 1} of the plant
      </Button>
      <Button onClick={back}>Back to what is kept</Button>
      {save.error && <ProblemNotice error={save.error} />}
    </form>
  );
}

const Faults = ({ faults }: { faults: readonly CrossFault[] }) => (
  <Notice level="stop">
    It cannot be used so:
    <ul className="list-disc pl-5">
      {faults.map(({ line, text }) => (
        <li key={`${line} ${text}`}>
          Line {line}: {text}.
        </li>
      ))}
    </ul>
  </Notice>
);

function Lines({
  name,
  side,
  model,
  fresh,
  rules,
  may,
  edit,
}: {
  name: string;
  side: RuleSide;
  model: Dictionary;
  fresh: Dictionary;
  rules: CrossReference['byOld'] | CrossReference['byFresh'];
  may: boolean;
  edit: (draft: RuleDraft) => void;
}) {
  const [params, setParams] = useSearchParams();
  const find = params.get(`find-${side}`) ?? '';
  const all = params.get(`all-${side}`) === 'yes';
  const wanted = find.trim().toLowerCase();
  const shown = model.parameters.filter(
    ({ code, name: own }) =>
      (all || wanted !== '' || rules.has(code)) &&
      (wanted === '' || `${code} ${own}`.toLowerCase().includes(wanted)),
  );
  const choose = (key: string, value: string) =>
    setParams((before) => changed(before, key, value), { replace: true });
  return (
    <SheetPart name={name} state={`${rules.size} of ${model.parameters.length} have a line`}>
      <div className="flex flex-wrap items-center gap-3">
        <input
          aria-label={`Find among the parameters of ${model.name}`}
          placeholder="Code or name"
          className="h-9 rounded border border-rule bg-sheet px-2 text-sm max-lg:h-12"
          value={find}
          onChange={({ target }) => choose(`find-${side}`, target.value)}
        />
        <label className="flex items-center gap-2 text-sm max-lg:min-h-12">
          <input
            type="checkbox"
            className="size-5 accent-plum"
            checked={all}
            onChange={({ target }) => choose(`all-${side}`, target.checked ? 'yes' : '')}
          />
          also those by the bridge alone
        </label>
      </div>
      <table className="mt-2 w-full text-left text-sm">
        <tbody>
          {shown.map((parameter) => (
            <LineRow
              key={parameter.code}
              parameter={parameter}
              rule={rules.get(parameter.code)}
              fresh={fresh}
              edit={
                may
                  ? () =>
                      edit({ side, code: parameter.code, rule: writtenOf(rules.get(parameter.code), fresh) })
                  : undefined
              }
            />
          ))}
        </tbody>
      </table>
      {shown.length === 0 && (
        <p className="py-2 text-sm text-soft">No line: all of it is carried by meaning alone.</p>
      )}
    </SheetPart>
  );
}

function LineRow({
  parameter: { code, name },
  rule,
  fresh,
  edit,
}: {
  parameter: Parameter;
  rule: Rule | FreshRule | undefined;
  fresh: Dictionary;
  edit: (() => void) | undefined;
}) {
  return (
    <tr className="border-b border-rule align-top">
      <td className="w-1/4 py-1 pr-4">
        <span className="font-mono">{code}</span> {name}
      </td>
      <td className="w-36 py-1 pr-4">
        {rule ? DOES[rule.does] : <span className="text-soft">by the bridge</span>}
      </td>
      <td className="py-1 pr-4">
        {rule?.why}
        {rule?.does === 'fixed' && <Sets values={rule.sets} fresh={fresh} />}
        {rule?.does === 'asked' && (
          <>
            <p className="font-medium">{rule.ask}</p>
            <ul className="list-disc pl-5">
              {rule.choices.map(({ text, sets }) => (
                <li key={text}>
                  {text} <Sets values={sets} fresh={fresh} />
                </li>
              ))}
            </ul>
          </>
        )}
      </td>
      <td className="w-20 py-1 text-right">
        {edit && (
          <Button weight="quiet" className="min-h-7" aria-label={`Change the line of ${code}`} onClick={edit}>
            {rule ? 'Change' : 'Write'}
          </Button>
        )}
      </td>
    </tr>
  );
}

const Sets = ({ values, fresh }: { values: ReadonlyMap<string, number>; fresh: Dictionary }) => (
  <span className="font-mono text-soft">
    {Object.entries(shownSets(values, fresh))
      .map(([code, value]) => `${code} = ${value}`)
      .join('; ')}
  </span>
);

function writtenOf(rule: Rule | FreshRule | undefined, fresh: Dictionary): WrittenRule | null {
  if (!rule) return null;
  const { does, why } = rule;
  if (rule.does === 'fixed') return { does, why, sets: shownSets(rule.sets, fresh) };
  if (rule.does !== 'asked') return { does, why };
  const choices = rule.choices.map(({ text, sets }) => ({ text, sets: shownSets(sets, fresh) }));
  return { does, why, ask: rule.ask, choices };
}

function FileText({ text, may, setText }: { text: string; may: boolean; setText: (text: string) => void }) {
  return (
    <SheetPart name="As a file" state="YAML">
      <details>
        <summary className="cursor-pointer py-1 max-lg:min-h-12">
          The whole text, with its comments; its format is docs/formats/cross-reference.schema.json
        </summary>
        <textarea
          aria-label="The cross-reference as text"
          spellCheck={false}
          readOnly={!may}
          className="mt-2 h-96 w-full rounded border border-rule bg-sheet p-2 font-mono text-sm"
          value={text}
          onChange={({ target }) => setText(target.value)}
        />
      </details>
    </SheetPart>
  );
}

const Revisions = ({ reference: { revision, revisions } }: { reference: CrossReferenceView }) => (
  <SheetPart name="Revisions" state={revision === 0 ? 'none of the plant' : `${revision} in force`}>
    {revisions.length === 0 ? (
      <p className="text-sm text-soft">It is as the catalogue ships it, or nobody has written one.</p>
    ) : (
      <ul className="text-sm">
        {revisions.map((each) => (
          <li key={each.revision} className="py-0.5">
            {each.revision}: {each.why}{' '}
            <span className="text-soft">
              {each.savedBy}, {showTime(each.savedAt)}
            </span>
          </li>
        ))}
      </ul>
    )}
  </SheetPart>
);
