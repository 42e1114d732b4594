// One row of a maker's list to the catalogue's columns, cell by cell. Each cell is understood whole, or it is a finding that quotes
// it: no rest of a cell, and no cell that says something else than its neighbour, goes into a drive.

import { guessPurpose, type Access } from '../dictionary/index.ts';
import type { Finding } from '../findings/index.ts';
import {
  codeFault,
  formatResolution,
  inUnit,
  isKnownUnit,
  looksLikeDate,
  normalUnit,
  parseResolution,
} from '../values/index.ts';
import { accessIn } from './list-access.ts';
import { unitBehind, type ColumnUse } from './list-headings.ts';
import { hexIn, storedNumber, unitIn, type WrittenNumber } from './list-number.ts';
import {
  bitsOf,
  choicesIn,
  mayBeMasks,
  showChoices,
  type ChoiceFault,
  type Choices,
  type WrittenChoice,
} from './list-options.ts';
import { rangeIn } from './list-range.ts';
import { isTold, RowCells, UNTOLD, type ListReading } from './list-row-cells.ts';
import { stepIn } from './list-step.ts';
import type { ListRow } from './list-rows.ts';
import type { ParameterCells } from './own-model.ts';

export interface ReadRow {
  readonly cells: ParameterCells;
  readonly findings: readonly Finding[];
  /** The word of the access that has to be said, where it is not understood. */
  readonly asked: string | null;
}

interface Limits {
  readonly minimum: WrittenNumber;
  readonly maximum: WrittenNumber;
}
const NO_NUMBER: WrittenNumber = { number: UNTOLD, unit: '' };

const CHOICE_FAULTS: Readonly<Record<ChoiceFault, string>> = {
  'no-list': 'options such as "0 = off; 1 = on"',
  range: 'each option with a number of its own',
  negative: 'options with numbers from 0',
  twice: 'each number once',
  rest: 'options such as "0 = off; 1 = on", with nothing between them',
};

/** `group` is the menu where no column tells it. */
export function readListRow(row: ListRow, reading: ListReading, group: string): ReadRow {
  return new RowReader(row, reading, group).read();
}

class RowReader extends RowCells {
  private asked: string | null = null;
  private readonly group: string;

  constructor(row: ListRow, reading: ListReading, group: string) {
    super(row, reading);
    this.group = group;
  }

  read(): ReadRow {
    const { rest: name, unit: nameUnit } = this.nameAndUnit();
    const menu = (this.of('menu') || this.group).replace(/\s*(>|»|\\)\s*/g, ' / ');
    const access = this.access();
    const kept = { code: this.code(), name, menu, access };
    const common = {
      ...kept,
      description: this.of('description'),
      other_names: this.of('other_names'),
      purpose: access === 'read' ? 'monitor' : guessPurpose(`${name} ${menu}`),
      keeping: access === 'read' ? 'monitor' : 'setting',
      meaning: this.of('meaning'),
    };
    const cells = { ...common, ...this.form(access, nameUnit, common.description) };
    return { cells, findings: this.findings, asked: this.asked };
  }

  private code(): string {
    const text = this.of('code');
    const fault = codeFault(text, this.stored('code'));
    if (fault === 'date') this.say('stop', 'code', 'code-is-date', { text });
    if (fault === 'formula') this.say('stop', 'code', 'formula', { column: 'code' });
    if (fault === 'number') this.say('stop', 'code', 'code-is-number', { text });
    if (fault === 'run') this.say('stop', 'code', 'code-is-run', { text });
    return text;
  }

  private nameAndUnit(): { readonly rest: string; readonly unit: string } {
    const text = this.of('name');
    const { rest, unit } = unitBehind(text);
    // Only in brackets is it surely a unit: `Start, V` could be anything.
    return /[\])]$/.test(text) && unit !== '' ? { rest, unit } : { rest: text, unit: '' };
  }

  private access(): Access | undefined {
    const answers = (['access', 'running'] as const).flatMap((use) => {
      const column = this.column(use);
      if (!column) return [];
      const text = this.of(use);
      const question = use === 'running' ? 'running' : column.told.question;
      const said = this.reading.access.get(text) ?? accessIn(text, question);
      if (said === undefined) {
        this.asked ??= text;
        this.say('stop', use, 'access-asked', { text });
      }
      return said ?? [];
    });
    const [kind, whileRunning] = answers;
    if (kind === 'write-stopped' && whileRunning === 'write')
      this.say('stop', 'running', 'columns-disagree', { text: this.of('running'), other: this.of('access') });
    if (answers.includes('read')) return 'read';
    // What may be changed while it runs is told by one of two columns alone.
    const running = this.column('running');
    if (running) return answers.at(-1);
    return answers[0] ?? (this.column('access') ? undefined : 'write-stopped');
  }

  private form(access: Access | undefined, nameUnit: string, description: string): ParameterCells {
    if (this.of('bits') !== '') return this.bits('bits');
    const options = this.of('options');
    const range = this.of('range');
    if (options !== '') {
      const list = choicesIn(options);
      if (list.ok)
        return this.listed('options', list, () => this.choices(list.choices, access, nameUnit, description));
      // Some makers write the range into the column of the options.
      if (range === '' && rangeIn(options, this.reading.mark))
        return this.number(access, nameUnit, 'options');
      this.odd('options', CHOICE_FAULTS[list.why]);
    }
    const inRange = range === '' ? undefined : choicesIn(range, true);
    if (inRange?.ok && !rangeIn(range, this.reading.mark) && /\p{L}{2}/u.test(range))
      return this.listed('range', inRange, () => this.option(inRange.choices));
    return this.number(access, nameUnit, 'range');
  }

  /** What is named by bits is a word of bits, in whatever column it stands. */
  private listed(
    use: 'options' | 'range',
    list: Extract<Choices, { ok: true }>,
    asOptions: () => ParameterCells,
  ): ParameterCells {
    if (list.counted === 'bit') return this.bits(use);
    if (mayBeMasks(list)) this.odd(use, 'whether they are bits ("Bit 0 = …") or options ("1 = …")');
    return asOptions();
  }

  /** Options, or a number of which some values have a name. */
  private choices(
    choices: readonly WrittenChoice[],
    access: Access | undefined,
    nameUnit: string,
    description: string,
  ): ParameterCells {
    const again = choicesIn(this.of('range'), true);
    if (again.ok && showChoices(again.choices) === showChoices(choices)) return this.option(choices);
    const { minimum, maximum } = this.limits('range');
    if (minimum.number === UNTOLD && maximum.number === UNTOLD) return this.option(choices);
    const [low, high] = [Number(minimum.number), Number(maximum.number)];
    const numbers = choices.map(({ number }) => number);
    if (low === Math.min(...numbers) && high === Math.max(...numbers) && Number.isInteger(high))
      return this.option(choices);
    if (numbers.length > 2 || numbers.some((number) => number < low || number > high)) {
      this.say('stop', 'options', 'range-and-options-differ', {
        range: this.of('range') || `${this.of('minimum')} to ${this.of('maximum')}`,
        options: this.of('options'),
      });
      return this.option(choices);
    }
    this.say('look', 'options', 'special-values', { text: this.of('options') });
    const told = this.of('options').replace(/\s*\n\s*/g, '; ');
    return {
      ...this.number(access, nameUnit, 'range'),
      description: [description, `${told}.`].filter(Boolean).join(' '),
    };
  }

  private option(choices: readonly WrittenChoice[]): ParameterCells {
    this.unused(['unit', 'resolution']);
    return {
      kind: 'option',
      options: showChoices(choices),
      default: this.defaultOf(choices),
      register: this.register(false),
    };
  }

  private defaultOf(choices: readonly WrittenChoice[]): string {
    const text = this.of('default');
    if (!isTold(text)) return UNTOLD;
    const bare = /^\[(.*)\]$/.exec(text)?.[1]?.trim() ?? text;
    const plain = /^\d+$/.test(bare) ? Number(bare) : undefined;
    const pair = choicesIn(bare);
    const [only] = pair.ok && pair.choices.length === 1 ? pair.choices : [];
    const named = /^(\d+)\s*\((.+)\)$/.exec(bare) ?? /^(\d+)\s*[=:–-]?\s*(\S.*)$/.exec(bare);
    const alike = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();
    const found = choices.find(({ number, text: words }) => {
      if (plain !== undefined) return number === plain;
      if (only) return number === only.number && alike(words, only.text);
      if (named) return number === Number(named[1]) && alike(words, named[2] ?? '');
      return alike(words, bare);
    });
    if (found) return String(found.number);
    this.say('stop', 'default', 'default-no-option', { text });
    return UNTOLD;
  }

  private bits(use: 'bits' | 'options' | 'range'): ParameterCells {
    const text = this.of(use);
    const others = ['unit', 'resolution', 'range', 'minimum', 'maximum', 'options'] as const;
    this.unused(others.filter((each) => each !== use));
    const list = choicesIn(text);
    const bits = list.ok ? bitsOf(list) : undefined;
    if (!bits) this.odd(use, 'bits such as "0 = fan; 1 = pump"');
    return {
      kind: 'bits',
      options: showChoices(bits ?? []),
      default: this.word(),
      register: this.register(false),
    };
  }

  private word(): string {
    const text = this.of('default');
    if (!isTold(text)) return UNTOLD;
    if (/^0b[01]{1,32}$/.test(text)) return text;
    const hex = this.column('default')?.told.hex === true || /^0x|h$/i.test(text) ? hexIn(text) : undefined;
    const word = hex ?? (/^\d{1,10}$/.test(text) ? text : undefined);
    if (word !== undefined && Number(word) <= 0xffffffff) return `0b${Number(word).toString(2)}`;
    this.odd('default', 'a word such as 0b0101, 0x05 or 5');
    return UNTOLD;
  }

  private number(
    access: Access | undefined,
    nameUnit: string,
    rangeColumn: 'range' | 'options',
  ): ParameterCells {
    const limits = this.limits(rangeColumn);
    if (access === 'read') this.unused(['default']);
    const usual = access === 'read' ? { number: '', unit: '' } : this.value('default');
    const unit = this.unit([limits.minimum, limits.maximum, usual], nameUnit);
    const [minimum, maximum, standard] = [
      this.inUnit(limits.minimum, unit, this.column('minimum') ? 'minimum' : rangeColumn),
      this.inUnit(limits.maximum, unit, this.column('maximum') ? 'maximum' : rangeColumn),
      this.inUnit(usual, unit, 'default'),
    ];
    const resolution = this.resolution([minimum, maximum, standard], unit);
    return {
      kind: 'number',
      ...{ unit, resolution, minimum, maximum, default: standard },
      register: this.register(minimum.startsWith('-')),
    };
  }

  private limits(rangeColumn: 'range' | 'options'): Limits {
    const text = this.of(rangeColumn);
    const own = { minimum: this.value('minimum'), maximum: this.value('maximum') };
    if (!isTold(text)) return own;
    const range = this.namesCode(text) ? undefined : rangeIn(text, this.reading.mark);
    if (!range) {
      const list = choicesIn(text, true);
      const isList = /\d\s*[=:]/.test(text) && !list.ok;
      this.odd(rangeColumn, isList ? CHOICE_FAULTS[list.why] : 'a range such as 0.0 to 400.0 Hz, or "?"');
      return own;
    }
    if (range.converted)
      this.say('look', rangeColumn, 'range-in-one-unit', {
        text,
        read: `${range.minimum} to ${range.maximum} ${range.unit}`,
      });
    const { minimum, maximum, unit } = range;
    for (const [use, end] of [
      ['minimum', minimum],
      ['maximum', maximum],
    ] as const)
      if (own[use].number !== UNTOLD && Number(own[use].number) !== Number(end))
        this.say('stop', use, 'columns-disagree', { text: this.of(use), other: text });
    return { minimum: { number: minimum, unit }, maximum: { number: maximum, unit } };
  }

  /** `?` where the list does not tell it. */
  private value(use: 'minimum' | 'maximum' | 'default'): WrittenNumber {
    const text = this.of(use);
    if (!isTold(text)) return NO_NUMBER;
    const told = this.column(use)?.told;
    if (told?.hex) {
      const hex = hexIn(text);
      if (hex !== undefined) return { number: hex, unit: '' };
      this.odd(use, 'a hexadecimal number, as the heading says');
      return NO_NUMBER;
    }
    const number = this.stored(use) ? storedNumber(text) : this.written(text);
    if (number) return { number: number.number, unit: number.unit || (told?.unit ?? '') };
    if (looksLikeDate(text)) this.say('stop', use, 'value-is-date', { text: this.of('code'), value: text });
    else this.odd(use, 'a number with or without a unit, or "?"');
    return NO_NUMBER;
  }

  /** One unit for the row: that of its column first, then what stands behind numbers, in headings and in the name. */
  private unit(numbers: readonly WrittenNumber[], nameUnit: string): string {
    const column = this.of('unit');
    const own = isTold(column) ? column : '';
    const heads = [...this.reading.columns.values()].map(({ told }) => told.unit);
    const behind = numbers.map(({ unit }) => unit).find((unit) => unit !== '');
    const unit = normalUnit(own || behind || heads.find((each) => each !== '') || nameUnit);
    if (nameUnit !== '' && unit !== nameUnit && inUnit('1', nameUnit, unit) === undefined)
      this.say('stop', 'name', 'columns-disagree', { text: this.of('name'), other: unit });
    if (unit === '' || isKnownUnit(unit)) return unit;
    if (!unitIn(unit) && own === '') this.odd('range', 'a unit');
    this.say('look', this.column('unit') ? 'unit' : 'range', 'unit-unknown', { text: unit });
    return unit;
  }

  private inUnit({ number, unit }: WrittenNumber, wanted: string, use: ColumnUse): string {
    if (unit === '' || number === UNTOLD || number === '' || normalUnit(unit) === wanted) return number;
    const moved = inUnit(number, unit, wanted);
    if (moved === undefined)
      this.say('stop', use, 'columns-disagree', { text: `${number} ${unit}`, other: wanted });
    else
      this.say('look', use, 'number-in-other-unit', {
        text: `${number} ${unit}`,
        read: `${moved} ${wanted}`,
      });
    return moved ?? number;
  }

  /** The step of the list, or the finest in which the numbers of the row are written. */
  private resolution(numbers: readonly string[], unit: string): string {
    const text = this.of('resolution');
    const places = Math.max(0, ...numbers.map((number) => (/\.(\d+)$/.exec(number)?.[1] ?? '').length));
    const finest = formatResolution({ step: 1, places });
    if (!isTold(text)) return finest;
    const written = stepIn(text, this.stored('resolution') ? 'point' : this.reading.mark);
    const step = written && this.inUnit(written, unit, 'resolution');
    if (step === undefined || !parseResolution(step)) {
      this.odd('resolution', 'the smallest step, such as 0.01');
      return finest;
    }
    // `10` under `Scaling` may be ten steps for one unit, or ten units a step.
    const scales = /scal|skal|\bfactor\b|\bfaktor\b|multipl|échelle|escala|schaal/i.test(
      this.column('resolution')?.heading ?? '',
    );
    if (scales && Number(step) > 1) this.say('stop', 'resolution', 'scale-unclear', { text });
    return step;
  }

  /** `1024`, `40001` and `0x0400` as 16 bits, with a sign where the range goes below zero; `1024 s32` stays as it is. */
  private register(signed: boolean): string {
    const text = this.of('register');
    if (!isTold(text)) return '';
    const type = signed ? 's16' : 'u16';
    const hex = this.column('register')?.told.hex === true || /^0x|h$/i.test(text) ? hexIn(text) : undefined;
    if (hex !== undefined) return `${hex} ${type}`;
    const pair = /^(\d{1,6})\s*(?:-|–|\/|to)\s*(\d{1,6})$/.exec(text);
    if (pair && Number(pair[2]) === Number(pair[1]) + 1) return `${pair[1]} ${signed ? 's32' : 'u32'}`;
    return /^\d{1,6}$/.test(text) ? `${text} ${type}` : text;
  }
}
