// A reading in its column: numbers aligned at the decimal point, the unit a shade lighter. What could not be read is
// said in words and never looks like a value.

import { displayRaw, isRaw, isUnreadable, type Form, type Reading } from '@drive-keep/core/values';

const REASONS = {
  refused: 'refused',
  failed: 'failed',
  busy: 'busy',
  'not-read-off': 'not read off',
} as const;

/** `named` is what the number stands for, where it is one of a list that no form tells. */
export function ValueText({
  form,
  reading,
  named,
}: {
  form: Form;
  reading: Reading | null;
  named?: string | undefined;
}) {
  if (isUnreadable(reading ?? undefined)) {
    return (
      <span className="text-soft italic">
        ? {REASONS[(reading as { unreadable: keyof typeof REASONS }).unreadable]}
      </span>
    );
  }
  if (!isRaw(reading ?? undefined)) return <span className="text-soft italic">not there</span>;
  const { text, unit } = displayRaw(form, reading as number);
  if (form.kind === 'option') {
    return (
      <span className="block truncate" title={`${text} ${unit}`}>
        <span className="font-mono">{text}</span> {unit}
      </span>
    );
  }
  if (form.kind === 'bits') {
    return (
      <span className="block truncate font-mono text-sm" title={unit}>
        {text.slice(2)}
      </span>
    );
  }
  // Aligned at the mark, whichever it is.
  const at = text.search(/[.,]/);
  const [whole, fraction] = at < 0 ? [text, ''] : [text.slice(0, at), text.slice(at)];
  return (
    <span className="grid grid-cols-[3.25rem_1fr] font-mono">
      <span className="text-right">{whole}</span>
      <span>
        {fraction} <span className="font-sans text-soft">{named ?? unit}</span>
      </span>
    </span>
  );
}
