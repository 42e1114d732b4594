// Key-in sheets: made from the same plan that a line would carry out, ticked off by people at the keypad, on devices that
// may be without a network for a while. Of two marks of a line the one counts that came to the server last: clocks of phones
// differ. What somebody else said of it before stays beside it.

import { Injectable } from '@nestjs/common';
import type { KeyInLineView, KeyInMark, KeyInSheetView } from '@drive-keep/api';
import {
  factsOf,
  findParameter,
  isNoise,
  refusalOf,
  describeRefusal,
  type Code,
  type Dictionary,
} from '@drive-keep/core/dictionary';
import {
  describeUnreachable,
  inMenuOrder,
  orderForKeys,
  planWrites,
  type WritePlan,
} from '@drive-keep/core/plans';
import { defaultSet, type ParameterSet } from '@drive-keep/core/sets';
import { isRaw, type Reading } from '@drive-keep/core/values';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { isUuid } from '../storage/uuid.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { KeyInSheet, type StoredMark } from './key-in-sheet.entity.ts';

const MOST_SHEETS = 20;

/** A plan for the keypad, with what it was made from; `first` is done before its first line. */
type SheetToKeep = readonly [
  at: PositionWithUnit,
  dictionary: Dictionary,
  current: ParameterSet,
  plan: WritePlan,
  told: { readonly target: string; readonly person: string; readonly first: readonly string[] },
];

@Injectable()
export class KeyInSheets {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly sets: ReferencedSets,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly logbook: Logbook,
  ) {}

  /** From what the newest backup holds, or from the defaults where there is none of this model, to the referenced set. */
  async plan(
    tag: string,
    target: string,
    codes: readonly string[] | undefined,
    account: Account,
  ): Promise<KeyInSheetView> {
    const keep = await this.prepare(tag, target, codes, account);
    return this.view(await this.dataSource.transaction(keep));
  }

  /** Everything but the keeping, which the caller does in a transaction of its own; answers with the id of the sheet. */
  async prepare(
    tag: string,
    target: string,
    codes: readonly string[] | undefined,
    { person }: Account,
  ): Promise<(manager: EntityManager) => Promise<string>> {
    const [at] = await this.register.inPlace([tag]);
    if (!at) throw notFound(tag);
    const dictionary = await this.dictionaries.get(at.unit.dictionaryId);
    const wanted = await this.sets.get(at, target);
    if (wanted.set.dictionary !== dictionary.id) {
      const detail = `The set is of ${wanted.set.dictionary}; the unit at ${tag} is of ${dictionary.id}.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    const current = await this.current(at, dictionary);
    const asked = (codes ?? [...wanted.set.readings.keys()]) as readonly Code[];
    const lines = new Map<Code, Reading | undefined>(
      asked.map((code) => [code, wanted.set.readings.get(code)]),
    );
    const facts = factsOf(dictionary, at.unit) ?? {};
    const plan = planWrites(dictionary, facts, current, lines, 'keypad');
    const told = { target: wanted.side.title, person, first: [] };
    return (manager) => this.keep(manager, at, dictionary, current, plan, told);
  }

  async store(...what: SheetToKeep): Promise<KeyInSheetView> {
    return this.view(await this.dataSource.transaction((manager) => this.keep(manager, ...what)));
  }

  /** Inside a transaction of the caller; answers with the id of the sheet. */
  async keep(
    manager: EntityManager,
    ...[at, dictionary, current, plan, { target, person, first }]: SheetToKeep
  ): Promise<string> {
    const { position, unit } = at;
    const sheet = sheetOf(dictionary, at, current, plan);
    const saving = dictionary.procedures.find(({ purpose }) => purpose === 'save');
    const repository = manager.getRepository(KeyInSheet);
    const { id } = await repository.save(
      repository.create({
        ...{ position, unit, dictionaryId: dictionary.id, target, madeBy: person, ...sheet },
        ...{ first: [...first], afterwards: (saving?.steps ?? []).map(({ text }) => text) },
      }),
    );
    const changes = sheet.lines.filter(({ kind }) => kind === 'change').length;
    const text = `Made a key-in sheet of ${changes} changes towards ${target}.`;
    const { tag } = position;
    await this.logbook.write({ person, action: 'key-in-made', tag, text, facts: { sheet: id } }, manager);
    return id;
  }

  async view(id: string): Promise<KeyInSheetView> {
    return this.viewOf(await this.load(id));
  }

  async of(tag: string): Promise<readonly KeyInSheetView[]> {
    const sheets = await this.dataSource.getRepository(KeyInSheet).find({
      where: { position: { tag } },
      relations: { position: true, unit: true },
      order: { madeAt: 'DESC' },
      take: MOST_SHEETS,
    });
    return Promise.all(sheets.map((sheet) => this.viewOf(sheet)));
  }

  /** Takes marks that a device brings: the last one of a line to come counts. */
  async mark(id: string, marks: readonly KeyInMark[], { person }: Account): Promise<KeyInSheetView> {
    const sheet = await this.load(id);
    const dictionary = await this.dictionaries.get(sheet.dictionaryId);
    for (const mark of marks) requireAcceptable(dictionary, sheet, mark);
    await this.dataSource.transaction(async (manager) => {
      const now = await this.lock(manager, id);
      if (now.finishedAt !== null) throw finished(now);
      const kept = { ...now.marks };
      for (const mark of marks) {
        const fresh = { ...mark, by: person, other: null };
        const known = kept[mark.place];
        if (known && isSentAgain(known, fresh)) continue;
        kept[mark.place] = known ? together(known, fresh) : fresh;
      }
      await manager.update(KeyInSheet, { id }, { marks: kept });
    });
    return this.view(id);
  }

  /** Closes the sheet; what is still open on it is said in the logbook. */
  async finish(id: string, { person }: Account): Promise<KeyInSheetView> {
    const { position } = await this.load(id);
    await this.dataSource.transaction(async (manager) => {
      const sheet = await this.lock(manager, id);
      if (sheet.finishedAt !== null) throw finished(sheet);
      await manager.update(KeyInSheet, { id }, { finishedBy: person, finishedAt: () => 'now()' });
      const facts = { sheet: id, marks: Object.values(sheet.marks) };
      const note = { person, action: 'key-in-finished', tag: position.tag, text: finishText(sheet), facts };
      await this.logbook.write(note, manager);
    });
    return this.view(id);
  }

  private lock = (manager: EntityManager, id: string): Promise<KeyInSheet> =>
    manager.findOneOrFail(KeyInSheet, { where: { id }, lock: { mode: 'pessimistic_write' } });

  private async current({ position, unit }: PositionWithUnit, dictionary: Dictionary): Promise<ParameterSet> {
    const newest = await this.backups.newest(position.id);
    const set = newest && (await this.contents.get(newest.contentHash));
    if (set?.dictionary === dictionary.id) return set;
    return defaultSet(dictionary, unit) ?? { dictionary: dictionary.id, readings: new Map() };
  }

  private async load(id: string): Promise<KeyInSheet> {
    const sheet = isUuid(id)
      ? await this.dataSource
          .getRepository(KeyInSheet)
          .findOne({ where: { id }, relations: { position: true, unit: true } })
      : null;
    if (!sheet) throw notFound('This key-in sheet');
    return sheet;
  }

  private async viewOf(sheet: KeyInSheet): Promise<KeyInSheetView> {
    const { position, unit, first, afterwards, lines, unreachable, presses, plainPresses } = sheet;
    const dictionary = await this.dictionaries.get(sheet.dictionaryId);
    return {
      ...{ id: sheet.id, tag: position.tag, duty: position.duty, dictionary: sheet.dictionaryId },
      ...{ model: `${dictionary.maker} ${dictionary.name}`, rating: unit.rating, serial: unit.serial },
      ...{ target: sheet.target, madeBy: sheet.madeBy, madeAt: sheet.madeAt.toISOString() },
      state: sheet.finishedAt ? 'finished' : 'open',
      finishedBy: sheet.finishedBy,
      finishedAt: sheet.finishedAt?.toISOString() ?? null,
      ...{ first, afterwards, lines, unreachable, presses, plainPresses },
      marks: Object.values(sheet.marks)
        .map((mark) => ({ ...mark, other: mark.other ?? null }))
        .sort((a, b) => a.place - b.place),
    };
  }
}

function finishText({ marks: kept, lines, target }: KeyInSheet): string {
  const marks = Object.values(kept);
  const codes = (some: readonly StoredMark[]) => some.map(({ place }) => lines[place]?.code).join(', ');
  const done = marks.filter(({ state }) => state === 'done');
  const other = marks.filter(({ state }) => state === 'other-found');
  const contrary = marks.filter((mark) => mark.other);
  const open = lines.length - done.length - other.length;
  const told = [
    `Finished a key-in sheet towards ${target}: ${done.length} lines done`,
    ...(other.length > 0 ? [`other values found at ${codes(other)}`] : []),
    ...(contrary.length > 0 ? [`two people say different things of ${codes(contrary)}`] : []),
    ...(open > 0 ? [`${open} left open`] : []),
  ];
  return `${told.join('; ')}.`;
}

/** A device that got no answer brings the same mark once more; what came in between is not undone by that. */
const isSentAgain = (known: StoredMark, fresh: StoredMark): boolean =>
  [known, known.other].some(
    (each) => each?.by === fresh.by && each.at === fresh.at && each.state === fresh.state,
  );

/** Two marks of one line: the later one, with the last word of somebody else where that says something else. */
function together(earlier: StoredMark, later: StoredMark): StoredMark {
  const { by, state, found, note, at, other: before } = earlier;
  const words = [{ by, state, found, note, at }, before].filter(
    (each) => each !== undefined && each !== null,
  );
  const other = words.find(
    (each) => each.by !== later.by && (each.state !== later.state || each.found !== later.found),
  );
  return { ...later, other: other ?? null };
}

/** Changes in the order of the keys, then what is only looked at in the order of the menus. */
function sheetOf(
  dictionary: Dictionary,
  { position, unit }: PositionWithUnit,
  current: ParameterSet,
  plan: WritePlan,
): Pick<KeyInSheet, 'lines' | 'unreachable' | 'presses' | 'plainPresses'> {
  const order = orderForKeys(dictionary, unit, plan.steps);
  if (!order) {
    const detail = `${dictionary.name} has no keypad: ${position.tag} is written to over its line.`;
    throw new ProblemException(422, 'no-keypad', `${detail} Nothing was made.`);
  }
  const changes = order.lines.map(({ step, way, edit }): Omit<KeyInLineView, 'place'> => {
    const { code, to, reason, stopped } = step;
    return {
      kind: 'change',
      code,
      from: isRaw(step.from) ? step.from : null,
      to,
      reason,
      stopped,
      way,
      edit,
    };
  });
  const checks = inMenuOrder(dictionary, plan.alreadyThere).flatMap(
    (code): Omit<KeyInLineView, 'place'>[] => {
      const parameter = findParameter(dictionary, code);
      const to = current.readings.get(code);
      if (!parameter || isNoise(parameter) || !isRaw(to)) return [];
      return [{ kind: 'check', code, from: to, to, reason: null, stopped: false, way: 0, edit: 0 }];
    },
  );
  return {
    lines: [...changes, ...checks].map((line, place) => ({ place, ...line })),
    unreachable: plan.unreachable.map((each) => ({
      code: each.code,
      text: describeUnreachable(each, dictionary),
    })),
    presses: order.presses,
    plainPresses: order.plainPresses,
  };
}

function requireAcceptable(dictionary: Dictionary, { lines, unit }: KeyInSheet, mark: KeyInMark): void {
  const line = lines[mark.place];
  const bad = (detail: string) => new ProblemException(422, 'mark-odd', `${detail} Nothing was kept.`);
  if (!line) throw bad(`The sheet has no line ${mark.place}.`);
  if ((mark.state === 'other-found') !== (mark.found !== null))
    throw bad(`A value is told for ${line.code} only where another one was found there.`);
  const parameter = findParameter(dictionary, line.code);
  if (mark.found === null || !parameter) return;
  const refused = refusalOf(parameter, mark.found, factsOf(dictionary, unit) ?? {});
  if (refused) throw bad(`${line.code}: ${describeRefusal(parameter, refused)}.`);
}

const finished = ({ finishedBy }: KeyInSheet): ProblemException =>
  new ProblemException(
    409,
    'sheet-finished',
    `This sheet was finished${finishedBy ? ` by ${finishedBy}` : ''}. Make a new one for what is left.`,
  );
