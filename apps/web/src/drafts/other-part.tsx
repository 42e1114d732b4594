// Any other setting of the model, by its code and as its keypad shows it.

import type { Dictionary } from '@drive-keep/core/dictionary';
import type { DraftSheet } from '@drive-keep/core/start';
import { useId, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { SheetPart } from '../ui/page.tsx';
import type { Typing } from './use-typing.ts';

const MOST_LISTED = 12;

export function OtherPart({
  dictionary,
  sheet,
  typing,
}: {
  dictionary: Dictionary;
  sheet: DraftSheet;
  typing: Typing;
}) {
  const typed = typing.fields.filter(({ key, text }) => key.startsWith('code.') && text !== '');
  const faults = new Map(sheet.faults.map(({ key, text }) => [key, text]));
  return (
    <SheetPart narrow name="Any other setting" state={typed.length > 0 ? `${typed.length} typed` : ''}>
      {typed.map(({ key, text }) => {
        const code = key.slice('code.'.length);
        const parameter = dictionary.parameters.find((each) => each.code === code);
        const fault = faults.get(key);
        return (
          <div
            key={key}
            data-field={key}
            className={`flex flex-wrap items-center gap-3 border-b border-rule py-1 text-sm ${fault === undefined ? '' : 'bg-stop-wash'}`}
          >
            <span className="font-mono">{code}</span>
            <span className="min-w-40">{parameter?.name ?? 'unknown here'}</span>
            <input
              aria-label={`Value of ${code}`}
              value={text}
              disabled={!typing.may}
              onChange={({ target }) => typing.type({ [key]: target.value })}
              className="h-8 w-32 rounded border border-rule bg-sheet px-2 max-lg:h-12"
            />
            {fault !== undefined && <b className="font-medium text-stop">{fault}</b>}
            {typing.may && (
              <Button weight="quiet" onClick={() => typing.type({ [key]: '' })}>
                Take back
              </Button>
            )}
          </div>
        );
      })}
      {typing.may && <Another dictionary={dictionary} typing={typing} />}
    </SheetPart>
  );
}

function Another({ dictionary, typing }: { dictionary: Dictionary; typing: Typing }) {
  const id = useId();
  const [find, setFind] = useState('');
  const [value, setValue] = useState('');
  const words = find
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  const settings = dictionary.parameters.filter(
    ({ access, keeping }) => access !== 'read' && keeping === 'setting',
  );
  const found = settings.find(({ code }) => code.toLowerCase() === find.trim().toLowerCase());
  const listed = settings.filter(({ code, name, otherNames }) =>
    words.every((word) => `${code} ${name} ${otherNames.join(' ')}`.toLowerCase().includes(word)),
  );
  return (
    <div className="flex flex-wrap items-center gap-2 py-2 text-sm">
      <label htmlFor={id}>Code or name</label>
      <input
        id={id}
        list={`${id}-list`}
        value={find}
        onChange={({ target }) => setFind(target.value)}
        className="h-9 w-56 rounded border border-rule bg-sheet px-2 max-lg:h-12"
      />
      <datalist id={`${id}-list`}>
        {listed.slice(0, MOST_LISTED).map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </datalist>
      <input
        aria-label="Value, as the keypad shows it"
        placeholder="as its keypad shows it"
        value={value}
        onChange={({ target }) => setValue(target.value)}
        className="h-9 w-44 rounded border border-rule bg-sheet px-2 max-lg:h-12"
      />
      <Button
        disabled={!found || value.trim() === ''}
        onClick={() => {
          if (found) typing.type({ [`code.${found.code}`]: value.trim() });
          setFind('');
          setValue('');
        }}
      >
        Set it
      </Button>
      <span className="text-soft">
        {found ? found.name : words.length > 0 ? `${listed.length} are like it` : ''}
      </span>
    </div>
  );
}
