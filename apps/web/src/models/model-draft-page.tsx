// A model of the plant's own, section by section: a form and the text of it side by side, what is wrong with its line, and
// what does not work without what is missing.

import type { DraftFinding, FindingView, ModelDraftView } from '@drive-keep/api';
import {
  factsIn,
  sectionAt,
  sectionText,
  withFact,
  withSection,
  type FactPath,
  type ModelSection,
} from '@drive-keep/core/dictionary';
import { ProposalsPart } from './proposals-part.tsx';
import { useMutation } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from 'react-router';
import { post, remove, type ProblemError } from '../api/client.ts';
import { queryClient, useSession } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { AskOnce } from '../ui/ask-once.tsx';
import { Button } from '../ui/button.tsx';
import { Notice, ProblemNotice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { DraftState } from './draft-state.tsx';
import { SchemaForm, type JsonSchema } from './schema-form.tsx';
import { MODEL_SCHEMA, TERMINALS_SCHEMA } from './schemas.ts';
import { useModelDraft, type DraftOnScreen } from './use-model-draft.ts';

const SECTIONS: readonly {
  readonly id: ModelSection;
  readonly name: string;
  readonly keys: readonly string[];
}[] = [
  { id: 'names', name: 'Names', keys: ['maker', 'name', 'about', 'model', 'firmware'] },
  { id: 'ratings', name: 'Ratings', keys: ['ratings'] },
  { id: 'regions', name: 'Regions', keys: ['regions'] },
  { id: 'line', name: 'Line', keys: ['line'] },
  { id: 'conventions', name: 'How the maker counts', keys: ['conventions', 'unit_current', 'fixed'] },
  { id: 'behaviour', name: 'What it does with its contacts', keys: ['behaviour'] },
  { id: 'derating', name: 'Derating', keys: ['derating'] },
  { id: 'keypad', name: 'Keypad', keys: ['keypad'] },
  { id: 'procedures', name: 'Procedures', keys: ['procedures'] },
  { id: 'effects', name: 'What a write does to others', keys: ['effects'] },
];

export function ModelDraftPage() {
  const { id = '' } = useParams();
  const { data, error } = useModelDraft(id);
  const { data: session } = useSession();
  if (!data || !session) return <Unanswered error={error} what="this model" />;
  const { draft, files } = data;
  const disabled = session.role !== 'engineer';
  const about = (section: ModelSection) => ({
    findings: draft.findings.filter((each) => sectionOf(files.model, each) === section),
    gaps: draft.gaps.filter(({ column }) => column === section),
  });
  return (
    <Page title={draft.title}>
      <h1 className="text-2xl font-semibold">{draft.title}</h1>
      <p className="mt-1 text-soft">
        A model of the plant’s own, not kept yet as it stands here. What is left out is not known of it, and
        what needs it does not work; everything else does.
      </p>
      <div className="my-3 flex flex-wrap items-center gap-3">
        <DraftState draft={data} />
        <Link
          to={`/models/drafts/${id}/at-unit`}
          className="inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
        >
          Try it at a unit
        </Link>
        <a href={`/api/model-drafts/${id}/files`} download className="text-sm text-plum underline">
          Save its files (ZIP)
        </a>
      </div>
      {SECTIONS.map(({ id: section, name, keys }) => (
        <YamlPart
          key={section}
          name={name}
          {...about(section)}
          text={sectionText(files.model, section)}
          schema={only(MODEL_SCHEMA, keys)}
          disabled={disabled}
          change={(text) => data.change({ model: withSection(files.model, section, text) })}
        />
      ))}
      <YamlPart
        name="Terminals"
        {...about('terminals')}
        text={files.terminals ?? ''}
        schema={TERMINALS_SCHEMA}
        disabled={disabled}
        change={(terminals) => data.change({ terminals })}
      />
      <TablePart
        name="Parameters"
        file="parameters"
        {...about('parameters')}
        text={files.parameters}
        disabled={disabled}
        change={(parameters) => data.change({ parameters })}
      />
      <TablePart
        name="Faults"
        file="faults"
        {...about('faults')}
        text={files.faults ?? ''}
        disabled={disabled}
        change={(faults) => data.change({ faults })}
      />
      <ProposalsPart data={data} disabled={disabled} />
      {!disabled && <KeepPart data={data} />}
    </Page>
  );
}

/** In which section a finding stands. */
function sectionOf(model: string, { file, line }: DraftFinding): ModelSection | undefined {
  if (file === 'terminals.yaml') return 'terminals';
  if (file === 'parameters.csv') return 'parameters';
  if (file === 'faults.csv') return 'faults';
  return sectionAt(model, line ?? 1) ?? 'names';
}

const only = (schema: JsonSchema, keys: readonly string[]): JsonSchema => ({
  ...schema,
  properties: Object.fromEntries(
    keys.flatMap((key) => {
      const found = schema.properties?.[key];
      return found ? [[key, found]] : [];
    }),
  ),
});

interface PartProps {
  readonly name: string;
  readonly findings: readonly DraftFinding[];
  readonly gaps: readonly FindingView[];
}

function stateOf({ findings, gaps }: Omit<PartProps, 'name'>, empty: boolean): string {
  if (findings.length > 0)
    return findings.length === 1 ? '1 thing to mend' : `${findings.length} things to mend`;
  if (empty) return 'not told';
  return gaps.length > 0 ? 'told in part' : 'told';
}

function YamlPart({
  name,
  findings,
  gaps,
  text,
  schema,
  disabled,
  change,
}: PartProps & {
  text: string;
  schema: JsonSchema;
  disabled: boolean;
  change: (text: string) => void;
}) {
  const facts = factsIn(text);
  const broken = facts === undefined;
  const take = (path: FactPath, value: unknown) => {
    const next = withFact(text, path, value);
    if (next !== undefined) change(next);
  };
  return (
    <SheetPart name={name} state={stateOf({ findings, gaps }, text.trim() === '')}>
      <Told findings={findings} gaps={gaps} />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <div className="max-h-[26rem] overflow-y-auto pr-1">
          {broken ? (
            <p className="text-soft">The text cannot be read as it stands. Mend it there first.</p>
          ) : (
            <SchemaForm
              root={schema}
              schema={schema}
              value={facts ?? {}}
              path={[]}
              change={take}
              disabled={disabled}
            />
          )}
        </div>
        <textarea
          aria-label={`${name} as text`}
          value={text}
          readOnly={disabled}
          spellCheck={false}
          onChange={({ target }) => change(target.value)}
          rows={Math.min(18, Math.max(3, text.split('\n').length))}
          className="w-full rounded border border-rule bg-sheet p-2 font-mono text-sm"
        />
      </div>
    </SheetPart>
  );
}

function Told({ findings, gaps }: Omit<PartProps, 'name'>) {
  return (
    <ul className="mb-2">
      {findings.map(({ file, line, column, text }) => (
        <li key={`${line} ${column} ${text}`} className="mb-1 border-l-4 border-stop bg-stop-wash px-3 py-1">
          <span className="mr-2 text-sm">
            {file}, line {line}
          </span>
          {text}
        </li>
      ))}
      {gaps.map(({ text }) => (
        <li key={text} className="mb-1 border-l-4 border-look bg-look-wash px-3 py-1">
          {text}
        </li>
      ))}
    </ul>
  );
}

/** One of the tables of a model, as text. */
function TablePart({
  name,
  file,
  text,
  findings,
  gaps,
  disabled,
  change,
}: PartProps & { file: string; text: string; disabled: boolean; change: (text: string) => void }) {
  const count = text.trim() === '' ? 0 : text.trim().split('\n').length - 1;
  return (
    <SheetPart name={name} state={stateOf({ findings, gaps }, count === 0)}>
      <Told findings={findings.slice(0, 20)} gaps={gaps} />
      {findings.length > 20 && <p className="mb-2 text-sm text-soft">{findings.length - 20} more.</p>}
      <p className="mb-1 text-sm text-soft">
        {count} lines, in the columns of docs/formats/{file}.schema.json. A spreadsheet takes and gives them
        as the file {file}.csv of the ZIP.
      </p>
      <textarea
        aria-label={`${name} as text`}
        value={text}
        readOnly={disabled}
        spellCheck={false}
        wrap="off"
        rows={14}
        onChange={({ target }) => change(target.value)}
        className="w-full rounded border border-rule bg-sheet p-2 font-mono text-sm"
      />
    </SheetPart>
  );
}

function KeepPart({ data }: { data: DraftOnScreen }) {
  const { draft, state } = data;
  const navigate = useNavigate();
  const keep = useMutation<ModelDraftView, ProblemError>({
    mutationFn: () => post(`model-drafts/${draft.id}/keep`, { version: draft.version }),
    onSuccess: async (kept) => {
      queryClient.setQueryData([`model-drafts/${draft.id}`], kept);
      await queryClient.invalidateQueries({ queryKey: ['dictionaries'] });
      void navigate(`/models/${kept.keptAs ?? ''}`);
    },
  });
  const away = useMutation<undefined, ProblemError>({
    mutationFn: () => remove(`model-drafts/${draft.id}`),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: ['model-drafts'] });
      void navigate('/models');
    },
  });
  const wrong = draft.findings.length;
  return (
    <SheetPart name="Keep" state={wrong === 0 ? 'ready' : 'to be mended'}>
      {draft.keptAs && (
        <p className="mb-2">
          It was kept as{' '}
          <Link to={`/models/${draft.keptAs}`} className="text-plum underline">
            {draft.keptAs}
          </Link>
          , last changed {showTime(draft.changedAt)}.
        </p>
      )}
      {wrong > 0 && <Notice level="look">{wrong} things are to be mended before it can be kept.</Notice>}
      <div className="mt-2 flex flex-wrap gap-3">
        <Button
          weight="main"
          disabled={wrong > 0 || state !== 'kept' || keep.isPending}
          onClick={() => keep.mutate()}
        >
          Keep as {draft.dictionary}
        </Button>
        <AskOnce
          what="Throw the draft away"
          weight="plain"
          note="What was kept of it stays; what was changed here after that is gone."
          yes="Throw it away"
          disabled={away.isPending}
          confirm={() => away.mutate()}
        />
      </div>
      {(keep.error ?? away.error) && <ProblemNotice error={(keep.error ?? away.error) as ProblemError} />}
    </SheetPart>
  );
}
