// What was answered in closed replacements of a pair of models, with who, when and where; an engineer can take it into the
// cross-reference of the plant.

import type { EarlierSaying } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { showShownValues, type CrossReference, type RuleSide } from '@drive-keep/core/replace';
import { Button } from '../ui/button.tsx';
import { SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import type { RuleDraft } from './rule-form.tsx';
import { shownSets } from './shown-sets.ts';

export function Learned({
  earlier,
  reference,
  fresh,
  may,
  edit,
}: {
  earlier: readonly EarlierSaying[];
  reference: CrossReference | null;
  fresh: Dictionary;
  may: boolean;
  edit: (draft: RuleDraft) => void;
}) {
  const answers = earlier.filter(({ part }) => part === 'setting');
  if (answers.length === 0) return null;
  return (
    <SheetPart name="Answered before" state={`${answers.length} answers`}>
      <ul className="text-sm">
        {answers.map((answer) => {
          const draft = draftOf(answer, reference, fresh);
          return (
            <li key={`${answer.tag} ${answer.line}`} className="border-b border-rule py-1">
              <span className="font-mono">{answer.line}</span>: {draft.rule?.why}
              {draft.rule?.sets && (
                <span className="font-mono text-soft"> {showShownValues(draft.rule.sets)}</span>
              )}{' '}
              {may && (
                <Button weight="quiet" className="min-h-7" onClick={() => edit(draft)}>
                  Take it in
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </SheetPart>
  );
}

function draftOf(
  { line, value, tag, by, at }: EarlierSaying,
  reference: CrossReference | null,
  fresh: Dictionary,
): RuleDraft {
  const [kind, code = ''] = line.split(' ');
  const side: RuleSide = kind === 'new' ? 'new' : 'old';
  const origin = `(${tag}, ${by}, ${showTime(at)})`;
  const rule = side === 'old' ? reference?.byOld.get(code as never) : reference?.byFresh.get(code as never);
  if (value?.kind === 'choice' && rule?.does === 'asked') {
    const choice = rule.choices[value.at];
    return {
      side,
      code,
      rule: {
        does: 'fixed',
        why: `${choice?.text ?? ''} ${origin}`,
        sets: shownSets(choice?.sets ?? new Map(), fresh),
      },
    };
  }
  if (value?.kind === 'own')
    return {
      side,
      code,
      rule: {
        does: 'fixed',
        why: `${value.reason} ${origin}`,
        sets: shownSets(new Map(Object.entries(value.values)), fresh),
      },
    };
  const reason = value?.kind === 'accepted' ? value.reason : '';
  return { side, code, rule: { does: side === 'old' ? 'carried' : 'check', why: `${reason} ${origin}` } };
}
