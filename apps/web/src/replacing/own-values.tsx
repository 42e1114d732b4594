// Values of the successor that somebody types instead of what was worked out, with a reason.

import { findParameter, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import type { LineText } from '@drive-keep/core/replace';
import { formatRaw, parseRaw } from '@drive-keep/core/values';
import { useId, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { Told } from './accept.tsx';
import { useSpeaking } from './saying.tsx';

const LEAST_REASON = 3;

export function OwnValues({ line, fresh }: { line: LineText; fresh: Dictionary }) {
  const { may, last, say } = useSpeaking();
  const [open, setOpen] = useState(false);
  const word = last('setting', line.id)?.value;
  if (word?.kind === 'own')
    return (
      <div className="mt-1 border-l-4 border-plum pl-2">
        Own: {word.reason}
        <Told part="setting" line={line.id} />
        {may && (
          <Button weight="quiet" onClick={() => say('setting', line.id, null)}>
            Take back
          </Button>
        )}
      </div>
    );
  // What is asked is answered; a value of one's own would say something beside it.
  if (!may || line.question) return null;
  if (!open)
    return (
      <Button
        weight="quiet"
        className="-ml-3 min-h-7"
        onClick={() => setOpen(true)}
        aria-label={`Own value for ${line.code}`}
      >
        Own value
      </Button>
    );
  return <OwnForm line={line} fresh={fresh} close={() => setOpen(false)} />;
}

function OwnForm({ line, fresh, close }: { line: LineText; fresh: Dictionary; close: () => void }) {
  const { say } = useSpeaking();
  const list = useId();
  const given = line.id.startsWith('old ') ? (line.now[0]?.code ?? '') : line.code;
  const [code, setCode] = useState(given);
  const [text, setText] = useState('');
  const [reason, setReason] = useState('');
  const parameter = findParameter(fresh, code.trim());
  const raw = parameter && parseRaw(parameter.form, text.trim());
  const ready = raw?.ok === true && reason.trim().length >= LEAST_REASON;
  return (
    <form
      className="mt-1 space-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (!ready || !parameter) return;
        say('setting', line.id, {
          kind: 'own',
          values: { [parameter.code]: raw.value },
          reason: reason.trim(),
        });
        close();
      }}
    >
      <input
        aria-label="Setting of the successor"
        list={list}
        className="h-9 w-28 rounded border border-rule bg-sheet px-2 font-mono max-lg:h-12"
        value={code}
        onChange={({ target }) => setCode(target.value)}
      />
      <datalist id={list}>
        {fresh.parameters
          .filter(({ access }) => access !== 'read')
          .map((each) => (
            <option key={each.code} value={each.code}>
              {each.name}
            </option>
          ))}
      </datalist>{' '}
      <ValueField parameter={parameter} text={text} setText={setText} />
      {code !== '' && !parameter && (
        <p className="text-stop">
          {fresh.name} has no {code}.
        </p>
      )}
      {text !== '' && raw && !raw.ok && (
        <p className="text-stop">
          {parameter.code} cannot hold “{text}”.
        </p>
      )}
      <input
        aria-label="Why"
        placeholder="Why"
        maxLength={1000}
        className="h-9 w-full rounded border border-rule bg-sheet px-2 max-lg:h-12"
        value={reason}
        onChange={({ target }) => setReason(target.value)}
      />
      <Button type="submit" disabled={!ready}>
        Keep
      </Button>
      <Button weight="quiet" onClick={close}>
        Not now
      </Button>
    </form>
  );
}

function ValueField({
  parameter,
  text,
  setText,
}: {
  parameter: Parameter | undefined;
  text: string;
  setText: (text: string) => void;
}) {
  if (parameter?.form.kind === 'option')
    return (
      <select
        aria-label="Value"
        className="h-9 max-w-48 rounded border border-rule bg-sheet px-2 max-lg:h-12"
        value={text}
        onChange={({ target }) => setText(target.value)}
      >
        <option value="">…</option>
        {parameter.form.options.map(({ raw, text: name }) => (
          <option key={raw} value={formatRaw(parameter.form, raw)}>
            {name}
          </option>
        ))}
      </select>
    );
  return (
    <span>
      <input
        aria-label="Value"
        className="h-9 w-28 rounded border border-rule bg-sheet px-2 text-right font-mono max-lg:h-12"
        value={text}
        onChange={({ target }) => setText(target.value)}
      />{' '}
      <span className="text-soft">{parameter?.form.kind === 'number' ? parameter.form.unit : ''}</span>
    </span>
  );
}
