// What the parameters of a draft may mean. Nothing is taken over by itself: somebody looks at each and confirms.

import type { MeaningProposalView } from '@drive-keep/api';
import { withMeanings } from '@drive-keep/core/meanings';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { get, type ProblemError } from '../api/client.ts';
import { Asking } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import type { DraftOnScreen } from './use-model-draft.ts';

export function ProposalsPart({ data, disabled }: { data: DraftOnScreen; disabled: boolean }) {
  const { draft, files, state } = data;
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const ask = useMutation<readonly MeaningProposalView[], ProblemError>({
    mutationFn: () => get(`model-drafts/${draft.id}/meanings`),
    onSuccess: () => setLeft(new Set()),
  });
  const found = ask.data ?? [];
  const taken = found.filter(({ code }) => !left.has(code));
  const toggle = (code: string) =>
    setLeft((before) => {
      const next = new Set(before);
      if (!next.delete(code)) next.add(code);
      return next;
    });
  const take = () => {
    const parameters = withMeanings(files.parameters, taken);
    if (parameters === undefined) return;
    data.change({ parameters });
    ask.reset();
  };
  const ready = draft.findings.length === 0 && state === 'kept';
  return (
    <SheetPart
      name="Meanings"
      state={ask.data ? `${found.length} proposed` : 'what parameters do, whatever the model'}
    >
      <p className="mb-2 text-soft">
        With its meaning a parameter is found by every word of the trade, and compared with other models. They
        are proposed by names, units and options; look at each before you take it.
      </p>
      <Button disabled={disabled || !ready || ask.isPending} onClick={() => ask.mutate()}>
        Propose meanings
      </Button>
      {!ready && <span className="ml-3 text-sm text-soft">first mend what is wrong, and let it be kept</span>}
      {ask.isPending && <Asking what="what they may mean" />}
      {ask.error && <ProblemNotice error={ask.error} />}
      {ask.data && found.length === 0 && <p className="mt-2">Nothing more is proposed.</p>}
      {found.length > 0 && (
        <>
          <ProposalTable found={found} left={left} toggle={toggle} />
          <Button weight="main" className="mt-3" disabled={disabled || taken.length === 0} onClick={take}>
            Take {taken.length === 1 ? 'this meaning' : `these ${taken.length} meanings`}
          </Button>
        </>
      )}
    </SheetPart>
  );
}

function ProposalTable({
  found,
  left,
  toggle,
}: {
  found: readonly MeaningProposalView[];
  left: ReadonlySet<string>;
  toggle: (code: string) => void;
}) {
  return (
    <table className="mt-3 w-full text-left text-sm" aria-label="Proposed meanings">
      <thead className="border-b border-rule text-soft">
        <tr className="[&>th]:py-1 [&>th]:pr-3 [&>th]:font-normal">
          <th>Take</th>
          <th>Parameter</th>
          <th>May be</th>
          <th>Its options</th>
          <th>Sure</th>
        </tr>
      </thead>
      <tbody>
        {found.map(({ code, name, term, is, meaning, confidence, options }) => (
          <tr key={code} className="border-b border-rule align-baseline [&>td]:py-1 [&>td]:pr-3">
            <td>
              <input
                type="checkbox"
                aria-label={`Take ${term} for ${code}`}
                checked={!left.has(code)}
                onChange={() => toggle(code)}
                className="size-5 accent-plum max-lg:size-7"
              />
            </td>
            <td className="sm:min-w-56">
              <span className="font-mono">{code}</span> {name}
            </td>
            <td title={is}>
              {term} <span className="font-mono text-soft">{meaning}</span>
            </td>
            <td className="text-soft">
              {options.map(({ raw, text, meaning: own }) => `${raw} ${text} = ${own}`).join(', ')}
            </td>
            <td className="font-mono whitespace-nowrap">{Math.round(confidence * 100)} %</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
