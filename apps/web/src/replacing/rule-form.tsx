// One line of a cross-reference: what it does, why, and what it sets or asks.

import type { Dictionary } from '@drive-keep/core/dictionary';
import { readShownValues, showShownValues, type RuleSide, type WrittenRule } from '@drive-keep/core/replace';
import { useState, type ReactNode } from 'react';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { DOES } from './rule-names.ts';

export interface RuleDraft {
  readonly side: RuleSide;
  readonly code: string;
  readonly rule: WrittenRule | null;
}

const KINDS: Readonly<Record<RuleSide, readonly WrittenRule['does'][]>> = {
  old: ['carried', 'fixed', 'asked', 'check', 'left'],
  new: ['stays', 'fixed', 'asked', 'check'],
};
const AREA = 'w-full rounded border border-rule bg-sheet p-2 text-sm';

/** `text: 05C = 1; 064 = 3`, a line for each choice. */
const showChoices = (rule: WrittenRule | null): string =>
  (rule?.choices ?? []).map(({ text, sets }) => `${text} | ${showShownValues(sets)}`).join('\n');

function readChoices(text: string): WrittenRule['choices'] {
  const lines = text.split('\n').filter((line) => line.trim() !== '');
  const read = lines.map((line) => {
    const at = line.lastIndexOf('|');
    const sets = readShownValues(at < 0 ? '' : line.slice(at + 1));
    return sets && { text: (at < 0 ? line : line.slice(0, at)).trim(), sets };
  });
  const good = read.flatMap((each) => (each && each.text !== '' ? [each] : []));
  return good.length === lines.length && good.length >= 2 ? good : undefined;
}

export function RuleForm({
  draft: { side, code, rule },
  old,
  fresh,
  keep,
  close,
}: {
  draft: RuleDraft;
  old: Dictionary;
  fresh: Dictionary;
  keep: (side: RuleSide, code: string, rule: WrittenRule | null) => void;
  close: () => void;
}) {
  const [typed, setTyped] = useState<Typed>({
    does: rule?.does ?? (side === 'old' ? 'carried' : 'stays'),
    why: rule?.why ?? '',
    sets: showShownValues(rule?.sets ?? {}),
    ask: rule?.ask ?? '',
    choices: showChoices(rule),
  });
  const made = ruleOf(typed);
  const name = (side === 'old' ? old : fresh).parameters.find((each) => each.code === code)?.name ?? '';
  return (
    <form
      aria-label={`Line of ${code}`}
      className="my-3 space-y-2 rounded border border-plum bg-sheet p-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (made) keep(side, code, made);
      }}
    >
      <p>
        <b className="font-mono">{code}</b> {name} of the {side === 'old' ? old.name : fresh.name}
      </p>
      <RuleFields
        typed={typed}
        kinds={KINDS[side]}
        fresh={fresh}
        set={(part) => setTyped((before) => ({ ...before, ...part }))}
      />
      <p className="flex flex-wrap gap-2">
        <Button type="submit" weight="main" disabled={!made}>
          Put it in
        </Button>
        {rule && <Button onClick={() => keep(side, code, null)}>Take the line out</Button>}
        <Button weight="quiet" onClick={close}>
          Not now
        </Button>
      </p>
    </form>
  );
}

interface Typed {
  readonly does: WrittenRule['does'];
  readonly why: string;
  readonly sets: string;
  readonly ask: string;
  readonly choices: string;
}

/** Nothing while it is not whole. */
function ruleOf({ does, why, sets, ask, choices }: Typed): WrittenRule | undefined {
  if (why.trim() === '') return undefined;
  const base = { does, why: why.trim() };
  if (does === 'fixed') {
    const values = readShownValues(sets);
    return values && Object.keys(values).length > 0 ? { ...base, sets: values } : undefined;
  }
  if (does !== 'asked') return base;
  const read = readChoices(choices);
  return read && ask.trim() !== '' ? { ...base, ask: ask.trim(), choices: read } : undefined;
}

function RuleFields({
  typed: { does, why, sets, ask, choices },
  kinds,
  fresh,
  set,
}: {
  typed: Typed;
  kinds: readonly WrittenRule['does'][];
  fresh: Dictionary;
  set: (part: Partial<Typed>) => void;
}) {
  return (
    <>
      <Choice
        label="What becomes of it"
        value={does}
        options={kinds.map((id) => ({ id, name: DOES[id] }))}
        onChange={({ target }) => set({ does: target.value as WrittenRule['does'] })}
      />
      <Part name="Why">
        <textarea
          className={AREA}
          rows={2}
          maxLength={2000}
          value={why}
          onChange={({ target }) => set({ why: target.value })}
        />
      </Part>
      {does === 'fixed' && (
        <Part
          name={`Values of the ${fresh.name}, as its keypad shows them: 05C = 1; 064 = 3.0`}
          odd={readShownValues(sets) === undefined}
        >
          <input className={AREA} value={sets} onChange={({ target }) => set({ sets: target.value })} />
        </Part>
      )}
      {does === 'asked' && (
        <>
          <Part name="Question">
            <input
              className={AREA}
              maxLength={500}
              value={ask}
              onChange={({ target }) => set({ ask: target.value })}
            />
          </Part>
          <Part
            name="Choices, one a line, each with what it sets: It waits | CA6 = 1"
            odd={choices !== '' && readChoices(choices) === undefined}
          >
            <textarea
              className={`${AREA} font-mono`}
              rows={4}
              value={choices}
              onChange={({ target }) => set({ choices: target.value })}
            />
          </Part>
        </>
      )}
    </>
  );
}

const Part = ({ name, odd = false, children }: { name: string; odd?: boolean; children: ReactNode }) => (
  <label className="block text-sm">
    <span className="mb-1 block font-medium">{name}</span>
    {children}
    {odd && <span className="text-stop">A piece of it is no pair of code and value.</span>}
  </label>
);
