// The parts of the sheet, all of them visible, each with its state in the margin and its fields.

import { SECTION_NAMES, type DraftSheet, type Section } from '@drive-keep/core/start';
import type { ReactNode } from 'react';
import { SheetPart } from '../ui/page.tsx';
import { FieldRow } from './field-row.tsx';
import type { Typing } from './use-typing.ts';

export function FieldsPart({
  section,
  sheet,
  typing,
  children,
  after,
  only = () => true,
}: {
  section: Section;
  sheet: DraftSheet;
  typing: Typing;
  children?: ReactNode;
  after?: ReactNode;
  only?: (key: string) => boolean;
}) {
  const fields = sheet.fields.filter((field) => field.section === section);
  // What was answered stands before what follows from it.
  const asked = fields.filter(({ key }) => key.startsWith('ask.'));
  const others = fields.filter(({ key }) => !key.startsWith('ask.') && only(key));
  if (fields.length === 0 && !children && !after) return null;
  const open = fields.filter((field) => field.open).length;
  const wrong = fields.filter(({ fault }) => fault !== null).length;
  const typed = fields.filter(({ from }) => from === 'typed').length;
  return (
    <SheetPart
      narrow
      name={SECTION_NAMES[section]}
      state={
        <>
          {wrong > 0 && <b className="block text-stop">{wrong} not understood</b>}
          {open > 0 && <b className="block text-ink">{open} to be told</b>}
          {typed > 0 && <span className="block">{typed} typed</span>}
        </>
      }
    >
      {children}
      {asked.map((field) => (
        <FieldRow key={field.key} field={field} typing={typing} />
      ))}
      {others.map((field) => (
        <FieldRow key={field.key} field={field} typing={typing} />
      ))}
      {after}
    </SheetPart>
  );
}
