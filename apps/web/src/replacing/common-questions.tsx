// What more than one of the open replacements of a model asks, answered once for all of them.

import type { ReplaceEstimate, ReplaceListRow } from '@drive-keep/api';
import type { SurveyedQuestion } from '@drive-keep/core/replace';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { put, type ProblemError } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';

const LEAST_REASON = 3;

export function Common({
  rows,
  estimates,
  may,
}: {
  rows: readonly ReplaceListRow[];
  estimates: readonly ReplaceEstimate[];
  may: boolean;
}) {
  const open = new Map(
    rows.flatMap(({ tag, replacement }) =>
      replacement?.state === 'open' ? [[tag, replacement.id] as const] : [],
    ),
  );
  const asked = new Map<string, { question: SurveyedQuestion; tags: string[] }>();
  for (const { tag, open: questions } of estimates)
    for (const question of open.has(tag) ? questions : []) {
      const key = `${question.part} ${question.line} ${question.text}`;
      const known = asked.get(key) ?? { question, tags: [] };
      known.tags.push(tag);
      asked.set(key, known);
    }
  const common = [...asked.values()].filter(({ tags }) => tags.length > 1);
  return (
    <SheetPart name="Asked in common" state={`${common.length} questions`}>
      {common.length === 0 ? (
        <p className="text-sm text-soft">
          No two open replacements ask the same. What several ask stands here, and is answered once for all of
          them.
        </p>
      ) : (
        <ul className="text-sm">
          {common.map(({ question, tags }) => (
            <Asked
              key={`${question.line} ${question.text}`}
              question={question}
              ids={tags.flatMap((tag) => open.get(tag) ?? [])}
              tags={tags}
              may={may}
            />
          ))}
        </ul>
      )}
    </SheetPart>
  );
}

function Asked({
  question: { part, line, text, choices },
  ids,
  tags,
  may,
}: {
  question: SurveyedQuestion;
  ids: readonly string[];
  tags: readonly string[];
  may: boolean;
}) {
  const [reason, setReason] = useState('');
  const say = useMutation<void, ProblemError, object>({
    mutationFn: async (value) => {
      const saying = { part, line, value, seen: null, toldAt: new Date().toISOString() };
      for (const id of ids) await put(`replacements/${id}/sayings`, { sayings: [saying] });
    },
    onSettled: () => queryClient.invalidateQueries(),
  });
  return (
    <li className="border-b border-rule bg-look-wash px-1 py-2">
      <p>
        {text} <span className="text-soft">{tags.join(', ')}</span>
      </p>
      {may && choices && (
        <Choice
          label={`Answer for ${tags.length} replacements`}
          value=""
          disabled={say.isPending}
          options={[{ id: '', name: 'Choose …' }, ...choices.map((name, at) => ({ id: String(at), name }))]}
          onChange={({ target }) =>
            target.value !== '' && say.mutate({ kind: 'choice', at: Number(target.value) })
          }
        />
      )}
      {may && !choices && (
        <form
          className="mt-1 flex flex-wrap gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            say.mutate({ kind: 'accepted', reason: reason.trim() });
          }}
        >
          <input
            aria-label={`Answer for ${tags.length} replacements: ${text}`}
            placeholder="What holds for all of them"
            maxLength={1000}
            className="h-9 w-96 max-w-full rounded border border-rule bg-sheet px-2 max-lg:h-12"
            value={reason}
            onChange={({ target }) => setReason(target.value)}
          />
          <Button type="submit" disabled={say.isPending || reason.trim().length < LEAST_REASON}>
            Say it of all {tags.length}
          </Button>
        </form>
      )}
      {say.error && <ProblemNotice error={say.error} />}
    </li>
  );
}
