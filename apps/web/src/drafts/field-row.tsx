// One field: what it is, what stands there and who says so, what somebody types, what is proposed and what is wrong with it.

import type { Field, FieldFrom } from '@drive-keep/core/start';
import { useId } from 'react';
import { Button } from '../ui/button.tsx';
import type { Typing } from './use-typing.ts';

const FROM: Readonly<Record<FieldFrom, string>> = {
  typed: 'typed',
  asked: 'answered',
  plate: 'from the plate',
  proposed: 'proposed',
  point: 'starting point',
  wires: 'by the wires',
  base: 'as it began',
  default: 'as delivered',
  none: '',
};

const GRID =
  'grid grid-cols-[minmax(0,1fr)] items-start gap-x-3 gap-y-1 border-b border-rule py-1 sm:grid-cols-[minmax(9rem,13rem)_10.5rem_minmax(0,1fr)] lg:max-xl:grid-cols-[minmax(0,13rem)_minmax(0,1fr)]';
const INPUT =
  'h-8 w-full rounded border bg-sheet px-2 text-sm tabular-nums placeholder:text-ink max-lg:h-12 max-lg:text-base';

export function FieldRow({ field, typing }: { field: Field; typing: Typing }) {
  const id = useId();
  const { key, name, unit, open, fault } = field;
  const refused = typing.refused.get(key);
  return (
    <div
      data-field={key}
      className={`${GRID} ${fault !== null || refused !== undefined ? 'bg-stop-wash' : open ? 'bg-look-wash' : ''}`}
    >
      <label htmlFor={id} className="pt-1.5 text-sm leading-tight">
        {name}
        {field.codes.length > 0 && (
          <span className="ml-1.5 font-mono text-xs text-soft">{field.codes.join(' ')}</span>
        )}
      </label>
      <span className="flex items-center gap-1.5">
        {field.options ? (
          <Options id={id} field={field} typing={typing} />
        ) : (
          <input
            id={id}
            value={textIn(typing, key)}
            placeholder={open ? 'to be told' : field.shown}
            disabled={!typing.may}
            autoComplete="off"
            inputMode={unit === '' ? undefined : 'text'}
            aria-invalid={fault !== null}
            onChange={({ target }) => typing.type({ [key]: target.value })}
            className={`${INPUT} ${fault !== null ? 'border-stop' : 'border-rule'}`}
          />
        )}
        <span className="w-11 shrink-0 text-xs text-soft">{unit}</span>
      </span>
      <Beside field={field} typing={typing} refused={refused} />
    </div>
  );
}

const textIn = (typing: Typing, key: string): string =>
  typing.fields.find((each) => each.key === key)?.text ?? '';

function Options({ id, field, typing }: { id: string; field: Field; typing: Typing }) {
  const options = field.options ?? [];
  const typed = textIn(typing, field.key);
  const stands = options.find((each) => each.id === field.shown)?.text ?? field.shown;
  const strange = typed !== '' && options.every((each) => each.id !== typed);
  return (
    <select
      id={id}
      value={typed}
      disabled={!typing.may}
      onChange={({ target }) => typing.type({ [field.key]: target.value })}
      className={`${INPUT} ${field.fault !== null ? 'border-stop' : 'border-rule'}`}
    >
      <option value="">{typed === '' ? stands : 'not chosen here'}</option>
      {strange && <option value={typed}>{typed}</option>}
      {options.map((option) => (
        <option key={option.id} value={option.id}>
          {option.text}
        </option>
      ))}
    </select>
  );
}

/** Who says so and why; beside it what is proposed, and what somebody else has typed. */
function Beside({ field, typing, refused }: { field: Field; typing: Typing; refused: string | undefined }) {
  const { key, from, why, fault, proposal, open } = field;
  const word = typing.word(key);
  const isTyped = textIn(typing, key) !== '';
  return (
    <div className="min-w-0 pt-1.5 text-xs leading-snug text-soft lg:max-xl:col-start-2 lg:max-xl:pt-0">
      {refused !== undefined ? (
        <span className="text-ink">
          {refused}{' '}
          <Button className="min-h-7! py-0" onClick={() => typing.takeTheirs(key)}>
            Take theirs
          </Button>{' '}
          <Button className="min-h-7! py-0" onClick={() => typing.keepMine(key)}>
            Keep mine
          </Button>
        </span>
      ) : (
        <>
          {fault !== null && <b className="font-medium text-stop">{fault} </b>}
          {isTyped ? (
            <span className="text-ink">
              {typing.isOnTheWay(key) ? 'being kept' : `typed by ${word?.by ?? ''}`}
              {word?.other &&
                `; ${word.other.by} had ${word.other.text === '' ? 'nothing' : word.other.text}`}
            </span>
          ) : (
            !open && <span>{FROM[from]}</span>
          )}
          {why !== '' && !isTyped && from !== 'proposed' && (
            <span>{FROM[from] === '' || open ? why : `: ${why}`}</span>
          )}
          {why !== '' && isTyped && field.section === 'plate' && <span>. {why}</span>}
          {isTyped && typing.may && (
            <button
              type="button"
              className="ml-1.5 whitespace-nowrap text-plum underline"
              onClick={() => typing.type({ [key]: '' })}
              aria-label={`Take back what was typed into ${field.name}`}
            >
              take back
            </button>
          )}
          {proposal && <Proposed field={field} isTyped={isTyped} />}
        </>
      )}
    </div>
  );
}

/** With its formula and its numbers; beside a typed value it says what would follow. */
function Proposed({ field: { proposal, unit, shown }, isTyped }: { field: Field; isTyped: boolean }) {
  if (!proposal) return null;
  const { missing, formula, worked, remark } = proposal;
  if (proposal.shown === '')
    return (
      <details className="inline">
        <summary className="inline cursor-pointer text-plum"> nothing proposed</summary>
        <span className="block">
          {formula}. {missing.length > 0 ? `Missing: ${missing.join(', ')}.` : remark}
        </span>
      </details>
    );
  const differs = isTyped && proposal.shown !== shown;
  return (
    <details className="inline">
      <summary className={`inline cursor-pointer ${differs ? 'font-medium text-ink' : 'text-plum'}`}>
        {' '}
        {isTyped ? `proposed: ${proposal.shown} ${unit}` : 'how'}
      </summary>
      <span className="block">
        {formula}. {worked !== null && `Here: ${worked}.`}{' '}
        {missing.length > 0 && `Missing: ${missing.join(', ')}.`} {remark}
      </span>
    </details>
  );
}
