// One line of a key-in sheet: where it is in the menus, what it holds, what it gets, and what was found there.

import type { KeyInLineView, KeyInMark, OtherKeyInMark } from '@drive-keep/api';
import { defaultOf, type Facts, type Parameter } from '@drive-keep/core/dictionary';
import { formatRaw, hasBit, showRaw } from '@drive-keep/core/values';
import { useState } from 'react';
import { ValuePad } from '../read-off/value-pad.tsx';
import { Button } from '../ui/button.tsx';
import { showTime } from '../words/dates.ts';
import type { OwnMark } from './key-in-store.ts';

interface LineProps {
  readonly line: KeyInLineView;
  readonly parameter: Parameter;
  /** Path of the menu where a new one begins; nothing inside it. */
  readonly menu: string | null;
  readonly facts: Facts;
  readonly mark: OwnMark | undefined;
  readonly mayMark: boolean;
  readonly set: (change: Partial<KeyInMark>) => void;
}

export function KeyInLine({ line, parameter, menu, facts, mark, mayMark, set }: LineProps) {
  const [open, setOpen] = useState<'other' | 'note'>();
  const state = mark?.state ?? null;
  const ground = state === 'other-found' ? 'bg-look-wash' : '';
  return (
    <li data-code={line.code} className={`break-inside-avoid border-b border-rule py-2 ${ground}`}>
      {menu && <p className="pb-1 text-sm font-medium text-plum">{menu}</p>}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <span className="w-20 shrink-0 font-mono text-xl font-semibold">{line.code}</span>
        <span className="min-w-40 flex-1">
          <span className="block">{parameter.name}</span>
          <Values line={line} parameter={parameter} />
        </span>
        {mayMark && (
          <span className="flex gap-2 print:hidden">
            <Button
              weight={state === 'done' ? 'main' : 'plain'}
              aria-pressed={state === 'done'}
              aria-label={`${line.code} ${line.kind === 'change' ? 'is keyed in' : 'is as it should be'}`}
              className="min-h-14 min-w-24 text-base"
              onClick={() => set({ state: state === 'done' ? null : 'done' })}
            >
              {state === 'done' ? '✓ done' : line.kind === 'change' ? 'Keyed in' : 'As it should'}
            </Button>
            <Button
              aria-expanded={open === 'other'}
              aria-label={`Another value was found at ${line.code}`}
              className="min-h-14"
              onClick={() => setOpen(open === 'other' ? undefined : 'other')}
            >
              Other found
            </Button>
            <Button
              weight="quiet"
              aria-expanded={open === 'note'}
              aria-label={`Note for ${line.code}`}
              className="min-h-14"
              onClick={() => setOpen(open === 'note' ? undefined : 'note')}
            >
              Note
            </Button>
          </span>
        )}
      </div>
      <Told mark={mark} parameter={parameter} />
      {open === 'other' && (
        <div className="pt-2">
          <p className="pb-1 text-sm">What does the keypad show before anything is changed?</p>
          <ValuePad
            parameter={parameter}
            facts={facts}
            present={mark?.found ?? undefined}
            usual={defaultOf(parameter, facts)}
            enter={(found) => {
              set({ state: 'other-found', found });
              setOpen(undefined);
            }}
          />
        </div>
      )}
      {open === 'note' && (
        <input
          autoFocus
          aria-label={`Note for ${line.code}`}
          defaultValue={mark?.note ?? ''}
          maxLength={500}
          className="mt-2 h-12 w-full rounded border border-rule bg-sheet px-3"
          onBlur={({ target }) => {
            setOpen(undefined);
            if (target.value !== (mark?.note ?? ''))
              set({ state, found: mark?.found ?? null, note: target.value });
          }}
        />
      )}
    </li>
  );
}

function Values({ line, parameter: { form } }: Pick<LineProps, 'line' | 'parameter'>) {
  if (form.kind === 'bits') {
    const turned = form.bits.filter(
      ({ bit }) =>
        line.kind === 'check' || line.from === null || hasBit(line.from, bit) !== hasBit(line.to, bit),
    );
    return (
      <span className="block">
        <span className="font-mono text-sm text-soft">{formatRaw(form, line.to).replace(/^0b/, '')}</span>
        {turned.map(({ bit, text }) => (
          <span key={bit} className="block">
            bit {bit} {text}: <b>{hasBit(line.to, bit) ? 'on' : 'off'}</b>
          </span>
        ))}
      </span>
    );
  }
  return (
    <span className="block text-lg">
      {line.kind === 'change' && (
        <span className="text-soft">{line.from === null ? 'not known' : showRaw(form, line.from)} → </span>
      )}
      <b className="font-mono">{showRaw(form, line.to)}</b>
      <span className="block text-sm text-soft">
        {line.kind === 'change' &&
          `${line.way === 1 ? '1 key' : `${line.way} keys`} to it, ${line.edit} to change it`}
        {line.stopped && ' · only while it stands'}
        {line.reason?.kind === 'put-back-by' && ` · because ${line.reason.by} changes it`}
        {line.reason?.kind === 'makes-way' && ` · for a while, so that ${line.reason.for} can be set`}
        {line.reason?.kind === 'unlocks' && ' · takes the lock off'}
      </span>
    </span>
  );
}

function Told({ mark, parameter }: Pick<LineProps, 'mark' | 'parameter'>) {
  if (!mark) return null;
  const found = mark.state === 'other-found' && mark.found !== null;
  const { other } = mark;
  if (!found && mark.note === '' && !mark.by && !other) return null;
  return (
    <div className="pt-1 text-sm">
      {found && (
        <b>
          <span aria-hidden="true">◆ </span>Found {showRaw(parameter.form, mark.found ?? 0)}.{' '}
        </b>
      )}
      {mark.note}
      {mark.state !== null && mark.by && <span className="text-soft"> {mark.by}</span>}
      {other && (
        <p className="mt-1 border-l-4 border-look bg-look-wash px-3 py-1">
          {other.by} says something else, {showTime(other.at)}: {wordsOf(other, parameter)}{' '}
          {other.note && <>({other.note}) </>}Look at the keypad.
        </p>
      )}
    </div>
  );
}

function wordsOf({ state, found }: OtherKeyInMark, { form }: Parameter): string {
  switch (state) {
    case 'done':
      return 'done.';
    case 'other-found':
      return `found ${showRaw(form, found ?? 0)}.`;
    case null:
      return 'not done.';
  }
}
