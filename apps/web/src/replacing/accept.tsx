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
  const { typed, type, leave, field } = useTyped(kept, (text) => {
    const reason = text.trim();
    if (reason === kept) return;
    if (reason.length >= LEAST_REASON) speaking.say(part, line, { kind: 'accepted', reason });
    else if (kept !== '') speaking.say(part, line, null);
  });
  if (!speaking.may) return kept === '' ? null : <Kept line={line} part={part} text={kept} />;
  const earlier = speaking.before(part, line).filter(({ value }) => value?.kind === 'accepted');
  const [first] = earlier;
  return (
    <div className="mt-1">
      <input
        aria-label={`${ask}: ${label}`}
        placeholder={ask}
        maxLength={1000}
        className="h-9 w-full max-w-xl rounded border border-rule bg-sheet px-2 text-sm max-lg:h-12"
        ref={field}
        value={typed ?? kept}
        onChange={({ target }) => type(target.value)}
        onBlur={leave}
      />
      {typed !== undefined && typed.trim() !== '' && typed.trim().length < LEAST_REASON && (
        <p className="text-sm text-soft">Not kept: too short for a reason.</p>
      )}
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

/**
 * What is typed, kept when somebody pauses, leaves the field, or the field goes. It stands until it is what is kept: a word that was
 * not taken is still there to be said again.
 */
function useTyped(kept: string, keep: (text: string) => void) {
  const [typed, setTyped] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const waiting = useRef<string>(undefined);
  const latest = useRef(keep);
  const send = () => {
    clearTimeout(timer.current);
    const text = waiting.current;
    waiting.current = undefined;
    if (text !== undefined) latest.current(text);
  };
  useEffect(() => {
    latest.current = keep;
  });
  useEffect(() => send, []);
  useEffect(() => {
    if (document.activeElement !== field.current)
      setTyped((before) => (before?.trim() === kept ? undefined : before));
  }, [kept]);
  return {
    ...{ typed, field },
    type: (text: string) => {
      setTyped(text);
      waiting.current = text;
      clearTimeout(timer.current);
      timer.current = setTimeout(send, PAUSE_MS);
    },
    leave: () => {
      send();
      if (typed?.trim() === kept) setTyped(undefined);
    },
  };
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
