// Replacements are begun, said to, changed and given up. What is said is kept word by word; of one line the last word counts,
// and nobody overrides a word that he has not seen.

import { createHash } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { Injectable } from '@nestjs/common';
import type { NewSaying, ReplacementMark, ReplacementRecord, ReplacementView } from '@drive-keep/api';
import {
  describeRefusal,
  factsOf,
  findParameter,
  refusalOf,
  type Dictionary,
} from '@drive-keep/core/dictionary';
import { belongs, type Saying } from '@drive-keep/core/replace';
import { DataSource, In, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { CrossReferences } from '../catalogue/cross-references.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { Register } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { isUuid } from '../storage/uuid.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { ReplacementSaying } from './replacement-saying.entity.ts';
import { ReplacementViews } from './replacement-views.service.ts';
import { Replacement } from './replacement.entity.ts';

export interface Wanted {
  readonly dictionary: string;
  readonly region: string;
  readonly rating: string | null;
}

@Injectable()
export class Replacements {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly references: CrossReferences,
    private readonly sets: ReferencedSets,
    private readonly contents: ContentStore,
    private readonly views: ReplacementViews,
    private readonly wirings: Wirings,
    private readonly logbook: Logbook,
  ) {}

  async begin(
    tag: string,
    wanted: Wanted & { readonly source: string; readonly why: string },
    { person }: Account,
  ): Promise<ReplacementView> {
    const [at] = await this.register.inPlace([tag]);
    if (!at) throw notFound(`The position ${tag}`);
    const { position, unit } = at;
    const fresh = await this.dictionaries.get(wanted.dictionary);
    requireOutfit(fresh, wanted);
    const found = await this.sets.get(at, wanted.source);
    const [own, old] = [
      await this.dictionaries.get(unit.dictionaryId),
      await this.dictionaries.get(found.set.dictionary),
    ];
    if (own.model !== old.model)
      throw refused(
        `${found.side.title} is of a ${old.name}; a ${own.name} sits at ${tag}. Choose another set.`,
      );
    if (old.model === fresh.model && old.version === fresh.version)
      throw refused(`${tag} has a ${old.name}: another unit of the same model is a swap, not a replacement.`);
    const cross = await this.references.of(old.model, fresh.model);
    const id = await this.dataSource.transaction(async (manager) => {
      await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [
        `replacing ${position.id}`,
      ]);
      if (await manager.existsBy(Replacement, { position: { id: position.id }, state: 'open' }))
        throw refused(`A replacement of ${tag} is open already. Go on with it, or give it up first.`);
      const saved = await manager.save(Replacement, {
        ...{ position, oldUnit: unit, oldDictionaryId: old.id },
        sourceHash: await this.contents.keep(found.set, manager),
        ...{ sourceReference: found.side.lastingReference, sourceTitle: found.side.title },
        sourceAt: found.side.at === null ? null : new Date(found.side.at),
        ...{ dictionaryId: fresh.id, region: wanted.region, rating: wanted.rating },
        ...{ crossRevision: cross.revision, crossContent: cross.text, why: wanted.why, startedBy: person },
      });
      const text = `Began a replacement: ${old.maker} ${old.name} ${unit.rating} by ${fresh.maker} ${fresh.name}, from ${found.side.title} (${wanted.why}).`;
      const facts = { replacement: saved.id };
      await this.logbook.write({ person, action: 'replacement-begun', tag, text, facts }, manager);
      return saved.id;
    });
    return this.view(id);
  }

  async view(id: string): Promise<ReplacementView> {
    return this.views.of(await this.load(id));
  }

  async marks(tag?: string): Promise<readonly ReplacementMark[]> {
    const all = await this.dataSource.getRepository(Replacement).find({
      where: tag === undefined ? {} : { position: { tag } },
      relations: { position: true },
      order: { startedAt: 'DESC' },
    });
    const names = await this.views.names();
    return all.map((each) => this.views.markOf(each, names));
  }

  /** What people have said of lines. All of it is taken, or none. */
  async say(id: string, fresh: readonly NewSaying[], { person }: Account): Promise<ReplacementView> {
    const replacement = await this.load(id);
    await this.requireSayable(replacement, fresh);
    await this.dataSource.transaction(async (manager) => {
      const locked = await this.lock(manager, id);
      if (locked.state !== 'open') throw over(locked);
      const now = await this.wordsOf(manager, id, fresh);
      for (const { part, line, value, seen, toldAt } of fresh) {
        const words = now.filter((each) => each.part === part && each.line === line);
        const known = words.at(-1);
        if (part !== 'task' && isDeepStrictEqual(known?.value ?? null, value)) continue;
        // A device that got no answer brings its word once more: what was said since is not undone by that.
        const told = new Date(toldAt).getTime();
        if (words.some((each) => each.saidBy === person && each.toldAt.getTime() === told)) continue;
        if (part !== 'task' && (known?.id ?? null) !== seen && known?.saidBy !== person)
          throw saidMeanwhile(known, line);
        if (part === 'terminal' && locked.newUnit !== null) throw hangs(replacement.position.tag);
        await manager.insert(ReplacementSaying, {
          ...{ replacementId: id, part, line, value, saidBy: person, toldAt: new Date(toldAt) },
        });
      }
    });
    return this.view(id);
  }

  /** Another model, rating or region of the successor, or another set of the old unit. */
  async change(
    id: string,
    wanted: Partial<Wanted> & { readonly source?: string; readonly newestCross?: boolean },
    version: number,
    { person }: Account,
  ): Promise<ReplacementView> {
    const before = await this.load(id);
    const { tag } = before.position;
    const [at] = await this.register.find([tag]);
    if (!at) throw notFound(`The position ${tag}`);
    const fresh = await this.dictionaries.get(wanted.dictionary ?? before.dictionaryId);
    const next = {
      region: wanted.region ?? before.region,
      rating: wanted.rating === undefined ? before.rating : wanted.rating,
    };
    requireOutfit(fresh, next);
    const found = wanted.source === undefined ? undefined : await this.sets.get(at, wanted.source);
    const old = await this.dictionaries.get(before.oldDictionaryId);
    if (found && found.set.dictionary !== old.id)
      throw refused(
        `${found.side.title} is of ${found.set.dictionary}, and this sheet is of ${old.id}. Give it up and begin from that set.`,
      );
    const cross =
      wanted.newestCross === true || fresh.id !== before.dictionaryId
        ? await this.references.of(old.model, fresh.model)
        : undefined;
    await this.dataSource.transaction(async (manager) => {
      const locked = await this.lock(manager, id);
      if (locked.state !== 'open') throw over(locked);
      requireSameVersion(locked.version, version, `The replacement of ${tag}`);
      if (locked.newUnit !== null)
        throw refused(`The new unit sits at ${tag} already. Put the old one back first.`);
      await manager.update(
        Replacement,
        { id },
        {
          ...{ dictionaryId: fresh.id, ...next, version: version + 1 },
          ...(found && {
            sourceHash: await this.contents.keep(found.set, manager),
            ...{ sourceReference: found.side.lastingReference, sourceTitle: found.side.title },
            sourceAt: found.side.at === null ? null : new Date(found.side.at),
          }),
          ...(cross && {
            ...{ crossRevision: cross.revision, crossContent: cross.text, attemptFrom: new Date() },
          }),
        },
      );
      // Answers name choices of the file and settings of the model by their place: of others they say nothing.
      if (cross) await this.takeBack(manager, id, person, ['setting', 'terminal', 'point']);
      const what = [
        `${fresh.name} ${next.rating ?? 'in the smallest rating that fits'}, ${next.region}`,
        ...(found ? [`from ${found.side.title}`] : []),
        ...(cross ? [`by revision ${cross.revision} of the cross-reference`] : []),
      ].join(', ');
      const facts = { replacement: id };
      const text = `Changed the replacement: ${what}.`;
      await this.logbook.write({ person, action: 'replacement-changed', tag, text, facts }, manager);
    });
    return this.view(id);
  }

  async giveUp(id: string, why: string, { person }: Account): Promise<ReplacementView> {
    const { position } = await this.load(id);
    await this.dataSource.transaction(async (manager) => {
      const locked = await this.lock(manager, id);
      if (locked.state !== 'open') throw over(locked);
      if (locked.newUnit !== null)
        throw refused(
          `The new unit sits at ${position.tag}. Put the old one back first, or close the sheet.`,
        );
      // What hangs there later belongs to another sheet.
      const oldWiringRevision = (await this.wirings.newestRevision(position.id)) ?? 0;
      const ended = { state: 'given-up' as const, endedBy: person, endedAt: new Date(), endedWhy: why };
      await manager.update(Replacement, { id }, { ...ended, oldWiringRevision });
      const facts = { replacement: id };
      const text = `Gave the replacement up: ${why}. What was said on its sheet stays.`;
      await this.logbook.write(
        { person, action: 'replacement-given-up', tag: position.tag, text, facts },
        manager,
      );
    });
    return this.view(id);
  }

  /** The sheet as it stood when it was closed, after its hash was looked at. */
  async record(id: string): Promise<ReplacementRecord> {
    const { recordHash, position } = await this.load(id);
    const [row]: { record: string | null }[] = await this.dataSource.query(
      'select record from replacement where id = $1',
      [id],
    );
    if (!row?.record) throw notFound(`A closed sheet of ${position.tag}`);
    if (recordOf(row.record) === recordHash) return JSON.parse(row.record) as ReplacementRecord;
    const detail = `The kept sheet of the replacement of ${position.tag} is damaged: nothing of it is shown. Restore a copy of the database.`;
    throw new ProblemException(500, 'record-damaged', detail);
  }

  async load(id: string): Promise<Replacement> {
    const found = isUuid(id)
      ? await this.dataSource.getRepository(Replacement).findOne({
          where: { id },
          relations: { position: true, oldUnit: { line: true }, newUnit: { line: true } },
        })
      : null;
    if (!found) throw notFound('This replacement');
    return found;
  }

  /** The row for oneself; whoever comes later waits. */
  async lock(manager: EntityManager, id: string): Promise<Replacement> {
    await manager.query('select 1 from replacement where id = $1 for update', [id]);
    return manager.findOneOrFail(Replacement, {
      where: { id },
      relations: { position: true, oldUnit: { line: true }, newUnit: { line: true } },
    });
  }

  /** Every word of these parts that still counts is taken back. */
  async takeBack(
    manager: EntityManager,
    id: string,
    person: string,
    parts: readonly Saying['part'][],
  ): Promise<void> {
    await manager.query(
      `insert into replacement_saying (replacement_id, part, line, value, said_by, told_at)
       select replacement_id, part, line, null, $2, now() from (
         select distinct on (part, line) * from replacement_saying
         where replacement_id = $1 and part = any($3) order by part, line, id desc) last
       where value is not null`,
      [id, person, parts],
    );
  }

  /** All that was said of these lines, in the order in which it came. */
  private wordsOf(
    manager: EntityManager,
    id: string,
    fresh: readonly NewSaying[],
  ): Promise<readonly ReplacementSaying[]> {
    const lines = [...new Set(fresh.map(({ line }) => line))];
    return manager.find(ReplacementSaying, {
      where: { replacementId: id, line: In(lines) },
      order: { id: 'ASC' },
    });
  }

  /** What no sheet can take is refused before anything is kept. */
  private async requireSayable(replacement: Replacement, fresh: readonly NewSaying[]): Promise<void> {
    const { dictionaryId, region, rating } = replacement;
    const dictionary = await this.dictionaries.get(dictionaryId);
    // Where the smallest that fits is not fixed yet, a value counts that one of the ratings takes.
    const ratings = rating === null ? dictionary.ratings.map(({ id }) => id) : [rating];
    const outfits = ratings.map((each) => factsOf(dictionary, { region, rating: each }) ?? {});
    for (const saying of fresh) {
      if (!belongs(saying)) throw refused(`"${saying.line}" cannot be answered so.`);
      if (saying.value?.kind !== 'own') continue;
      for (const [code, raw] of Object.entries(saying.value.values)) {
        const parameter = findParameter(dictionary, code);
        if (!parameter) throw refused(`${dictionary.name} has no setting ${code}.`);
        if (parameter.access === 'read') throw refused(`${code} is read, not set.`);
        const [why, ...others] = outfits.map((facts) => refusalOf(parameter, raw, facts));
        if (why && others.every(Boolean)) throw refused(`${code}: ${describeRefusal(parameter, why)}.`);
      }
    }
  }
}

function requireOutfit(
  { name, ratings, regions }: Dictionary,
  { region, rating }: Pick<Wanted, 'region' | 'rating'>,
): void {
  if (ratings.length === 0) throw refused(`${name} tells no rating: nothing can be worked out for it.`);
  if (!regions.some(({ id }) => id === region))
    throw refused(`${name} has no region "${region}". It has: ${regions.map(({ id }) => id).join(', ')}.`);
  if (rating !== null && !ratings.some(({ id }) => id === rating))
    throw refused(`${name} has no rating "${rating}". It has: ${ratings.map(({ id }) => id).join(', ')}.`);
}

/** The hash under which a closed sheet is kept. */
export const recordOf = (record: string): string => createHash('sha256').update(record).digest('hex');

export const refused = (detail: string): ProblemException =>
  new ProblemException(409, 'replacement-refused', `${detail} Nothing was changed.`);

const hangs = (tag: string): ProblemException =>
  refused(
    `The wires hang on the new unit at ${tag}. Put the old one back, or change its wiring where it is kept`,
  );

function over({ state, endedBy }: Replacement): ProblemException {
  const how = state === 'closed' ? 'closed' : 'given up';
  return refused(`This replacement was ${how}${endedBy ? ` by ${endedBy}` : ''}: its sheet stays as it is.`);
}

function saidMeanwhile(known: ReplacementSaying | undefined, line: string): ProblemException {
  const who = known ? `${known.saidBy} has` : 'Somebody has';
  const detail = `${who} said something of "${line}" after you looked at it. Look at it, then say it again. Nothing of yours was kept.`;
  return new ProblemException(409, 'said-meanwhile', detail);
}
