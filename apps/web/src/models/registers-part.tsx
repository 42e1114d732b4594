// Registers of a unit as they are at this moment, seen in every way in which they could be meant.

import type { RegistersView } from '@drive-keep/api';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { post, type ProblemError } from '../api/client.ts';
import { Field } from '../session/field.tsx';
import { Asking } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';

/** Where a unit of which nobody knows yet who it is can be asked. */
export interface AtUnit {
  readonly line: string;
  readonly address: number;
}

export function RegistersPart({ at }: { at: AtUnit }) {
  const [area, setArea] = useState<'holding' | 'input'>('holding');
  const [around, setAround] = useState('100');
  const read = useMutation<RegistersView, ProblemError>({
    mutationFn: () => {
      const from = Math.max(0, Number(around) - 8);
      return post('registers/read', { ...at, area, from, count: 24 });
    },
  });
  return (
    <SheetPart name="Registers" state={read.data ? `read at ${showTime(read.data.at)}` : 'as they are'}>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          read.mutate();
        }}
      >
        <Choice
          below
          label="Area"
          value={area}
          options={[
            { id: 'holding', name: 'holding registers (function 3)' },
            { id: 'input', name: 'input registers (function 4)' },
          ]}
          onChange={({ target }) => setArea(target.value as 'holding' | 'input')}
        />
        <Field
          label="Around address"
          type="number"
          min={0}
          max={65535}
          required
          value={around}
          onChange={({ target }) => setAround(target.value)}
        />
        <Button type="submit" className="min-h-11" disabled={read.isPending || at.line === ''}>
          Read them
        </Button>
      </form>
      {read.isPending && <Asking what="the registers" />}
      {read.error && <ProblemNotice error={read.error} />}
      {read.data && <WordTable words={read.data.words} centre={around} />}
    </SheetPart>
  );
}

function WordTable({ words, centre }: { words: RegistersView['words']; centre: string }) {
  return (
    <div className="mt-3 overflow-x-auto">
      <table className="text-right font-mono text-sm">
        <thead className="border-b border-rule font-sans text-soft">
          <tr className="[&>th]:px-3 [&>th]:py-1 [&>th]:font-normal">
            <th>Address</th>
            <th>unsigned</th>
            <th>signed</th>
            <th>hex</th>
            <th>bits</th>
            <th>32 bits, high first</th>
            <th>32 bits, low first</th>
          </tr>
        </thead>
        <tbody>
          {words.map(({ register, word }, at) => {
            const next = words[at + 1]?.word ?? null;
            return (
              <tr
                key={register}
                className={`border-b border-rule [&>td]:px-3 [&>td]:py-0.5 ${register.endsWith(centre) ? 'bg-plum-wash' : ''}`}
              >
                <td className="text-soft">{register}</td>
                {word === null ? (
                  <td colSpan={6} className="text-left font-sans text-soft">
                    refused
                  </td>
                ) : (
                  <>
                    <td>{word}</td>
                    <td>{word > 0x7fff ? `−${0x1_0000 - word}` : word}</td>
                    <td>{word.toString(16).toUpperCase().padStart(4, '0')}</td>
                    <td>{(word.toString(2).padStart(16, '0').match(/.{4}/g) ?? []).join(' ')}</td>
                    <td>{next === null ? '–' : word * 0x1_0000 + next}</td>
                    <td>{next === null ? '–' : next * 0x1_0000 + word}</td>
                  </>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
