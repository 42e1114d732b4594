// A form drawn from a published schema: every fact of a group with a field of its kind, lists as rows that are added and taken
// away. A field is taken over when it is left, so that a text beside the form does not jump at every letter.

import { useState, type ReactNode } from 'react';
import type { FactPath } from '@drive-keep/core/dictionary';
import { Button } from '../ui/button.tsx';

/** As much of JSON Schema as the formats use. */
export interface JsonSchema {
  readonly type?: string;
  readonly description?: string;
  readonly enum?: readonly string[];
  readonly const?: string;
  readonly properties?: Readonly<Record<string, JsonSchema>>;
  readonly required?: readonly string[];
  readonly additionalProperties?: boolean | JsonSchema;
  readonly items?: JsonSchema;
  readonly oneOf?: readonly JsonSchema[];
  readonly $ref?: string;
  readonly $defs?: Readonly<Record<string, JsonSchema>>;
}

export type ChangeFact = (path: FactPath, value: unknown) => void;

interface Props {
  /** The file's schema, in which references lead. */
  readonly root: JsonSchema;
  readonly schema: JsonSchema;
  readonly value: unknown;
  readonly path: FactPath;
  readonly change: ChangeFact;
  readonly disabled: boolean;
}

export function SchemaForm(props: Props) {
  const schema = resolved(props.root, props.schema);
  const next = { ...props, schema };
  if (schema.properties) return <GroupForm {...next} />;
  if (schema.type === 'array' && isGroup(resolved(props.root, schema.items ?? {})))
    return <ListForm {...next} />;
  if (schema.type === 'object') return <PairsForm {...next} />;
  return <FactField {...next} />;
}

function resolved(root: JsonSchema, schema: JsonSchema): JsonSchema {
  const name = /^#\/\$defs\/(\w+)$/.exec(schema.$ref ?? '')?.[1];
  const found = name === undefined ? schema : { ...root.$defs?.[name], ...schema };
  // Of several shapes, the form knows the plain one; the others are written as text.
  if (!found.oneOf || found.type !== undefined) return found;
  const choice = found.oneOf.find((each) => each.enum);
  return choice ? { ...found, ...choice } : { ...found, type: 'register' };
}

const isGroup = ({ properties }: JsonSchema): boolean => properties !== undefined;
const wordsOf = (key: string): string => {
  const words = key.replace(/_/g, ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
};
const asGroup = (value: unknown): Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? (value as Record<string, unknown>)
    : {};

function GroupForm({ root, schema, value, path, change, disabled }: Props) {
  const facts = asGroup(value);
  const entries = Object.entries(schema.properties ?? {});
  const isNested = (each: JsonSchema) => {
    const found = resolved(root, each);
    return found.properties !== undefined || found.type === 'object' || isListOfGroups(root, found);
  };
  const plain = entries.filter(([, each]) => !isNested(each));
  const nested = entries.filter(([, each]) => isNested(each));
  return (
    <>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-2">
        {plain.map(([key, each]) => (
          <SchemaForm
            key={key}
            {...{ root, change, disabled }}
            schema={each}
            value={facts[key]}
            path={[...path, key]}
          />
        ))}
      </div>
      {nested.map(([key, each]) => (
        <Nested
          key={key}
          name={wordsOf(key)}
          there={facts[key] !== undefined && facts[key] !== null}
          disabled={disabled}
          add={() => change([...path, key], emptyOf(root, each))}
          remove={schema.required?.includes(key) ? undefined : () => change([...path, key], undefined)}
        >
          <SchemaForm
            {...{ root, change, disabled }}
            schema={each}
            value={facts[key]}
            path={[...path, key]}
          />
        </Nested>
      ))}
    </>
  );
}

const isListOfGroups = (root: JsonSchema, { type, items }: JsonSchema): boolean =>
  type === 'array' && isGroup(resolved(root, items ?? {}));

function Nested({
  name,
  there,
  add,
  remove,
  disabled,
  children,
}: {
  name: string;
  there: boolean;
  add: () => void;
  remove: (() => void) | undefined;
  disabled: boolean;
  children: ReactNode;
}) {
  if (!there)
    return (
      <div className="mt-2">
        <Button weight="quiet" disabled={disabled} onClick={add}>
          + {name}
        </Button>
      </div>
    );
  return (
    <fieldset className="mt-2 rounded border border-rule p-2">
      <legend className="px-1 text-sm font-semibold">
        {name}
        {remove && (
          <Button weight="quiet" disabled={disabled} onClick={remove} aria-label={`Take ${name} away`}>
            take away
          </Button>
        )}
      </legend>
      {children}
    </fieldset>
  );
}

function ListForm({ root, schema, value, path, change, disabled }: Props) {
  const rows: readonly unknown[] = Array.isArray(value) ? value : [];
  const item = schema.items ?? {};
  return (
    <div>
      {rows.map((row, at) => (
        <details key={at} className="border-b border-rule" open={rows.length === 1}>
          <summary className="cursor-pointer py-1">{summaryOf(row) || `No. ${at + 1}`}</summary>
          <div className="pb-3 pl-3">
            <SchemaForm {...{ root, change, disabled }} schema={item} value={row} path={[...path, at]} />
            <Button
              weight="quiet"
              disabled={disabled}
              aria-label={`Take ${summaryOf(row) || `No. ${at + 1}`} away`}
              onClick={() => change([...path, at], undefined)}
            >
              take away
            </Button>
          </div>
        </details>
      ))}
      <Button
        weight="quiet"
        disabled={disabled}
        onClick={() =>
          rows.length === 0
            ? change(path, [emptyOf(root, item)])
            : change([...path, rows.length], emptyOf(root, item))
        }
      >
        + one more
      </Button>
    </div>
  );
}

/** The first facts of a row, by which one knows it. */
const summaryOf = (row: unknown): string =>
  Object.values(asGroup(row))
    .filter((each) => (typeof each === 'string' || typeof each === 'number') && each !== '')
    .slice(0, 3)
    .join(' · ');

/** What is required, empty, so that it can be filled in. */
function emptyOf(root: JsonSchema, schema: JsonSchema): unknown {
  const found = resolved(root, schema);
  if (found.properties) {
    const wanted = (found.required ?? []).flatMap((key) => {
      const each = found.properties?.[key];
      return each ? [[key, emptyOf(root, each)] as const] : [];
    });
    return Object.fromEntries(wanted);
  }
  if (found.enum) return found.enum[0];
  if (found.type === 'array') return [];
  if (found.type === 'object') return {};
  if (found.type === 'integer' || found.type === 'number' || found.type === 'register') return 0;
  return found.type === 'boolean' ? false : '';
}

/** Facts by name: `heavy` `3.7`. */
function PairsForm({ schema, value, path, change, disabled }: Props) {
  const [name, setName] = useState('');
  const whole =
    typeof schema.additionalProperties === 'object' && schema.additionalProperties.type === 'integer';
  return (
    <div>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-2">
        {Object.entries(asGroup(value)).map(([key, fact]) => (
          <Typed
            key={key}
            label={key}
            text={shown(fact)}
            disabled={disabled}
            take={(text) => change([...path, key], text === '' ? undefined : whole ? numberOr(text) : text)}
          />
        ))}
      </div>
      <form
        className="mt-1 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() === '') return;
          change([...path, name.trim()], whole ? 0 : '0');
          setName('');
        }}
      >
        <label className="text-sm">
          Name of a further fact
          <input
            value={name}
            disabled={disabled}
            onChange={({ target }) => setName(target.value)}
            className="block h-9 rounded border border-rule bg-sheet px-2 max-lg:h-12"
          />
        </label>
        <Button type="submit" disabled={disabled || name.trim() === ''}>
          Add
        </Button>
      </form>
    </div>
  );
}

function FactField({ schema, value, path, change, disabled }: Props) {
  const key = String(path.at(-1) ?? '');
  const label = wordsOf(key);
  const note = schema.description;
  if (schema.enum || schema.type === 'boolean') {
    const choices = schema.enum ?? ['true', 'false'];
    return (
      <label className="text-sm">
        {label}
        <Note text={note} />
        <select
          value={shown(value)}
          disabled={disabled}
          onChange={({ target }) =>
            change(
              path,
              target.value === '' ? undefined : schema.enum ? target.value : target.value === 'true',
            )
          }
          className="mt-0.5 block h-9 w-full rounded border border-rule bg-sheet px-2 max-lg:h-12"
        >
          <option value="">– not told –</option>
          {choices.map((each) => (
            <option key={each} value={each}>
              {schema.enum ? each.replace(/-/g, ' ') : each === 'true' ? 'yes' : 'no'}
            </option>
          ))}
        </select>
      </label>
    );
  }
  const take = (text: string) => change(path, factOf(schema, text));
  return <Typed label={label} note={note} text={shown(value)} take={take} disabled={disabled} />;
}

/** The fact that a text is; nothing for an empty one. */
function factOf(schema: JsonSchema, text: string): unknown {
  if (text.trim() === '') return undefined;
  if (schema.type === 'array') {
    const pieces = text
      .split(',')
      .map((each) => each.trim())
      .filter((each) => each !== '');
    return schema.items?.type === 'integer' ? pieces.map(numberOr) : pieces;
  }
  if (schema.type === 'integer' || schema.type === 'number' || schema.type === 'register')
    return numberOr(text.trim());
  return text;
}

/** What is no number stays as it was typed: the check says what is wanted. */
const numberOr = (text: string): number | string =>
  /^-?\d+(\.\d+)?$/.test(text.trim()) ? Number(text) : text;

function shown(value: unknown): string {
  if (Array.isArray(value)) return value.map(shown).join(', ');
  if (typeof value === 'string') return value;
  if (typeof value === 'number' || typeof value === 'boolean') return String(value);
  return value === undefined || value === null ? '' : JSON.stringify(value);
}

function Note({ text }: { text: string | undefined }) {
  return text ? <span className="block text-xs text-soft">{text}</span> : null;
}

/** A field whose text is taken over when it is left or confirmed. */
function Typed({
  label,
  note,
  text,
  take,
  disabled,
}: {
  label: string;
  note?: string | undefined;
  text: string;
  take: (text: string) => void;
  disabled: boolean;
}) {
  const [typed, setTyped] = useState<string>();
  const leave = () => {
    if (typed !== undefined && typed !== text) take(typed);
    setTyped(undefined);
  };
  return (
    <label className="text-sm">
      {label}
      <Note text={note} />
      <input
        value={typed ?? text}
        disabled={disabled}
        onChange={({ target }) => setTyped(target.value)}
        onBlur={leave}
        onKeyDown={({ key }) => {
          if (key === 'Enter') leave();
        }}
        className="mt-0.5 block h-9 w-full rounded border border-rule bg-sheet px-2 font-mono max-lg:h-12"
      />
    </label>
  );
}
