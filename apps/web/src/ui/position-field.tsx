import { useEffect, useId, useState } from 'react';
import { usePositionSearch } from '../api/queries.ts';

/** A position by its tag or a word of its duty; the list offers what is like it. Empty means none. */
export function PositionField({
  label,
  tag,
  choose,
}: {
  label: string;
  tag: string;
  choose: (tag: string) => void;
}) {
  const [text, setText] = useState(tag);
  const { data: found } = usePositionSearch(text);
  const id = useId();
  const typed = text.trim().toLowerCase();
  const named = found?.positions.find((position) => position.tag.toLowerCase() === typed)?.tag;
  // The list comes a moment after the last letter: what was typed to its end is chosen then.
  useEffect(() => {
    if (named !== undefined && named !== tag) choose(named);
  }, [named, tag, choose]);
  const type = (next: string) => {
    setText(next);
    if (next.trim() === '') choose('');
  };
  return (
    <label className="flex items-center gap-2 text-sm">
      {label}
      <input
        type="search"
        list={id}
        value={text}
        onChange={({ target }) => type(target.value)}
        placeholder="tag or duty"
        className="h-9 w-44 rounded border border-rule bg-sheet px-2 text-base max-lg:h-12"
      />
      <datalist id={id}>
        {(found?.positions ?? []).map(({ tag: each, duty }) => (
          <option key={each} value={each}>
            {duty}
          </option>
        ))}
      </datalist>
    </label>
  );
}
