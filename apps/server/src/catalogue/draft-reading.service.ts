// A real unit at hand while a dictionary is made: registers as they are, how the maker counts them, and every parameter of a
// draft as the unit holds it. Nothing is written, and nothing of it is kept.

import { Injectable } from '@nestjs/common';
import type { ReadAllView, RegisterSearchView, RegistersView } from '@drive-keep/api';
import {
  candidatesFor,
  explain,
  factsOf,
  describeRefusal,
  refusalOf,
  type Dictionary,
  type LineFacts,
  type Parameter,
  type Shown,
} from '@drive-keep/core/dictionary';
import { showRaw, showRegister, type Reading } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import type { Identity } from '../lines/identity.ts';
import { faultText } from '../lines/line-text.ts';
import { Line } from '../lines/line.entity.ts';
import { Lines } from '../lines/lines.service.ts';
import type { ReadFault } from '../lines/unit-reader.ts';
import { readWhoever } from '../lines/whoever.ts';
import { WordReader } from '../lines/word-reader.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { ModelDrafts } from './model-drafts.service.ts';

export interface AtUnit {
  readonly line: string;
  readonly address: number;
}

const MOST_GUESSES = 6;

@Injectable()
export class DraftReading {
  constructor(
    private readonly dataSource: DataSource,
    private readonly lines: Lines,
    private readonly drafts: ModelDrafts,
  ) {}

  async registers(at: AtUnit, registers: readonly number[]): Promise<RegistersView> {
    const { words } = await this.words(at, registers);
    const told = registers.map((register) => ({
      register: showRegister(register),
      word: words.get(register) ?? null,
    }));
    return { at: new Date().toISOString(), words: told };
  }

  async search(at: AtUnit, shown: readonly Shown[]): Promise<RegisterSearchView> {
    const candidates = candidatesFor(shown.map(({ number }) => number));
    const { words, refused } = await this.words(at, candidates);
    const guesses = explain(shown, words).slice(0, MOST_GUESSES);
    return { at: new Date().toISOString(), read: words.size, refused: refused.size, guesses };
  }

  async readAll(
    id: string,
    { line: name, address, rating, region }: AtUnit & { readonly rating: string; readonly region: string },
  ): Promise<ReadAllView> {
    const dictionary = await this.drafts.dictionaryOf(id);
    const facts = factsOf(dictionary, { rating, region });
    if (!facts) throw new ProblemException(422, 'outfit', 'The model does not have this rating and region.');
    const { line } = dictionary;
    if (!line)
      throw new ProblemException(422, 'no-line', 'The model has no section "line" yet. Complete it first.');
    const found = await this.lines.withLine(await this.line(name), 'look', async (drive) => {
      const read = await readWhoever(drive, address, dictionary, line);
      if (!read.ok) throw silent(read.fault);
      return read.value;
    });
    const readings = new Map<string, Reading>([...found.reading.set.readings, ...found.reading.aside]);
    const rows = dictionary.parameters.flatMap((parameter) => {
      const reading = readings.get(parameter.code);
      if (reading === undefined || !parameter.register) return [];
      return [rowOf(parameter, reading, facts)];
    });
    const answered = rows.filter(({ raw }) => raw !== null).length;
    return {
      at: new Date().toISOString(),
      answered,
      refused: rows.length - answered,
      outside: rows.filter(({ outside }) => outside !== '').length,
      withoutRegister: dictionary.parameters.length - rows.length,
      identity: identityRows(dictionary, line, found.who),
      rows,
    };
  }

  private words({ line: name, address }: AtUnit, registers: readonly number[]): Promise<WordReader> {
    return this.line(name).then((line) =>
      this.lines.withLine(line, 'look', async (drive) => {
        const places = registers.map((register) => ({ address: register, count: 1 as const }));
        const reader = new WordReader(drive, address, places);
        const fault = await reader.takeAll();
        if (fault) throw silent(fault);
        return reader;
      }),
    );
  }

  private async line(name: string): Promise<Line> {
    const line = await this.dataSource.getRepository(Line).findOneBy({ name });
    if (!line || line.retiredAt) throw notFound(`The line ${name}`);
    return line;
  }
}

const silent = (fault: ReadFault): ProblemException =>
  new ProblemException(
    422,
    'not-read',
    faultText(fault, { tag: 'The unit', serial: 0, modelName: 'this model' }),
  );

function rowOf(
  parameter: Parameter,
  reading: Reading,
  facts: Readonly<Record<string, string>>,
): ReadAllView['rows'][number] {
  const { code, name, register, form, access } = parameter;
  const raw = typeof reading === 'number' ? reading : null;
  // Monitors have no range that they could be outside of: what they show is what it is.
  const refusal = raw === null || access === 'read' ? undefined : refusalOf(parameter, raw, facts);
  return {
    code,
    name,
    register: showRegister(register?.address ?? 0),
    raw,
    value: raw === null ? '' : showRaw(form, raw),
    outside: refusal ? describeRefusal(parameter, refusal) : '',
  };
}

function identityRows(
  dictionary: Dictionary,
  { identity }: LineFacts,
  who: Identity | undefined,
): ReadAllView['identity'] {
  if (!who) return [{ fact: 'Identity', text: 'The unit refuses a register of it.', right: false }];
  const { model, rating, firmware, serial } = identity;
  return [
    ...(model
      ? [
          {
            fact: 'Model number',
            text: `${String(who.model)}${who.model === model.value ? '' : `, wanted ${model.value}`}`,
            right: who.model === model.value,
          },
        ]
      : []),
    ...(rating !== null
      ? [
          {
            fact: 'Rating',
            text: who.rating ?? `${String(who.ratingNumber)}, which no rating has as its number`,
            right: who.rating !== null,
          },
        ]
      : []),
    ...(firmware !== null
      ? [{ fact: 'Firmware', text: who.firmware, right: covers(dictionary, who.firmware) }]
      : []),
    ...(serial ? [{ fact: 'Serial number', text: String(who.serial), right: (who.serial ?? 0) > 0 }] : []),
  ];
}

const covers = ({ firmware: { from, to } }: Dictionary, firmware: string): boolean =>
  Number(firmware) >= Number(from) && Number(firmware) <= Number(to);
