// The field in which somebody says why a line is right as it stands; kept while it is typed.

import type { SayingPart } from '@drive-keep/core/replace';
import { useEffect, useRef, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { showTime } from '../words/dates.ts';
import { useSpeaking } from './saying.tsx';

/** Shorter is no reason. */
const LEAST_REASON = 3;
/** As long as somebody thinks between two letters. */
const PAUSE_MS = 600;

export function Accept({
  part,
  line,
  label,
  ask = 'Why it is right as it stands',
}: {
  part: SayingPart;
  line: string;
  /** What a screen reader says the reason is for. */
  label: string;
  ask?: string;
}) {
  const speaking = useSpeaking();
  const word = speaking.last(part, line);
  const kept = word?.value?.kind === 'accepted' ? word.value.reason : '';
  const [typed, setTyped] = useState<string>();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  if (!speaking.may) return kept === '' ? null : <Kept line={line} part={part} text={kept} />;
  const keep = (text: string) => {
    clearTimeout(timer.current);
    const reason = text.trim();
    if (reason === kept) return;
    if (reason.length >= LEAST_REASON) speaking.say(part, line, { kind: 'accepted', reason });
    else if (kept !== '') speaking.say(part, line, null);
  };
  const earlier = speaking.before(part, line).filter(({ value }) => value?.kind === 'accepted');
  const [first] = earlier;
  return (
    <div className="mt-1">
      <input
        aria-label={`${ask}: ${label}`}
        placeholder={ask}
        maxLength={1000}
        className="h-9 w-full max-w-xl rounded border border-rule bg-sheet px-2 text-sm max-lg:h-12"
        value={typed ?? kept}
        onChange={({ target }) => {
          setTyped(target.value);
          clearTimeout(timer.current);
          timer.current = setTimeout(() => keep(target.value), PAUSE_MS);
        }}
        onBlur={() => {
          if (typed !== undefined) keep(typed);
          setTyped(undefined);
        }}
      />
      {first?.value?.kind === 'accepted' && kept === '' && (
        <p className="mt-1 text-sm text-soft">
          {first.tag}, {first.by}, {showTime(first.at)}: “{first.value.reason}”{' '}
          <Button weight="quiet" onClick={() => first.value && speaking.say(part, line, first.value)}>
            Say the same here
          </Button>
        </p>
      )}
      <Told part={part} line={line} />
    </div>
  );
}

const Kept = ({ part, line, text }: { part: SayingPart; line: string; text: string }) => (
  <div className="mt-1 text-sm">
    <span aria-hidden="true">✓ </span>
    {text}
    <Told part={part} line={line} />
  </div>
);

/** Who has said it and when, whether it is kept, and what somebody else said before. */
export function Told({ part, line }: { part: SayingPart; line: string }) {
  const speaking = useSpeaking();
  const word = speaking.last(part, line);
  const key = `${part} ${line}`;
  const refused = speaking.refused.get(key);
  if (refused)
    return (
      <p role="alert" className="mt-1 border-l-4 border-stop bg-stop-wash px-2 py-1 text-sm">
        {refused}
      </p>
    );
  if (speaking.onTheWay.has(key)) return <p className="text-sm text-soft">Not kept yet …</p>;
  if (!word?.value) return null;
  const { other } = word;
  const said = other?.value?.kind === 'accepted' ? `“${other.value.reason}”` : 'something else';
  return (
    <p className="text-sm text-soft">
      {word.by}, {showTime(word.at)}
      {other?.value && `; before that ${other.by} said ${said}`}
    </p>
  );
}
