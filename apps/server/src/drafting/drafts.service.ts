// Drafts of first settings are begun, typed into by several people, carried over and kept as revisions. What is typed is kept word
// by word; of one field the last word counts, and nobody overrides a word that he has not seen.

import { Injectable } from '@nestjs/common';
import type {
  DraftFieldView,
  DraftMark,
  DraftRecord,
  NewDraftField,
  SettingsDraftView,
} from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import { formatWiring, NO_WIRING } from '@drive-keep/core/wiring';
import { DataSource, In, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { CrossReferences } from '../catalogue/cross-references.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { StartingPoints } from '../catalogue/starting-points.service.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { DraftField } from '../drafts/draft-field.entity.ts';
import { DraftRevision } from '../drafts/draft-revision.entity.ts';
import { revisionHash } from '../drafts/draft-revisions.service.ts';
import { SettingsDraft } from '../drafts/settings-draft.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { Register } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { isUuid } from '../storage/uuid.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { DraftSheets, type WorkedDraft } from './draft-sheets.service.ts';
import { DraftViews } from './draft-views.service.ts';

/** What a draft begins with. */
export type Beginning =
  | { readonly kind: 'point'; readonly id: string }
  /** A starting point that a file brings with it. */
  | { readonly kind: 'file'; readonly id: string; readonly text: string }
  | { readonly kind: 'position'; readonly tag: string; readonly reference: string }
  | { readonly kind: 'delivered' };

export interface BaseSet {
  readonly title: string;
  readonly set: ParameterSet;
  readonly rating: string;
  readonly region: string;
  readonly wiring: string;
}

/** A draft with its sheet, as both were at one moment. */
export interface WorkedOut extends WorkedDraft {
  readonly draft: SettingsDraft;
  readonly fields: readonly DraftFieldView[];
}

interface Outfit {
  readonly dictionary: string;
  readonly region: string;
  readonly rating: string | null;
}

type NewDraft = Outfit & { readonly name: string; readonly tag: string | null };

type Begun = Pick<
  SettingsDraft,
  | 'pointId'
  | 'pointContent'
  | 'baseTitle'
  | 'baseHash'
  | 'baseRating'
  | 'baseRegion'
  | 'baseWiring'
  | 'crossContent'
>;
const NOTHING_BEGUN: Begun = {
  ...{ pointId: null, pointContent: null, baseTitle: null, baseHash: null, baseRating: null },
  ...{ baseRegion: null, baseWiring: null, crossContent: null },
};

@Injectable()
export class Drafts {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly points: StartingPoints,
    private readonly references: CrossReferences,
    private readonly sets: ReferencedSets,
    private readonly contents: ContentStore,
    private readonly wirings: Wirings,
    private readonly sheets: DraftSheets,
    private readonly views: DraftViews,
    private readonly logbook: Logbook,
  ) {}

  begin(
    { begins, ...wanted }: NewDraft & { readonly begins: Beginning },
    person: Account,
  ): Promise<SettingsDraftView> {
    return this.start(wanted, person, (manager, fresh) => this.begun(manager, begins, fresh));
  }

  /** A draft that begins with a set from elsewhere, such as a file. */
  beginWith(
    { base, ...wanted }: NewDraft & { readonly base: BaseSet },
    person: Account,
  ): Promise<SettingsDraftView> {
    return this.start(wanted, person, (manager, fresh) => this.withBase(manager, base, fresh));
  }

  private async start(
    wanted: NewDraft,
    { person }: Account,
    begin: (manager: EntityManager, fresh: Dictionary) => Promise<Begun>,
  ): Promise<SettingsDraftView> {
    const fresh = await this.dictionaries.get(wanted.dictionary);
    requireOutfit(fresh, wanted);
    const positionId = await this.positionOf(wanted.tag);
    const id = await this.dataSource.transaction(async (manager) => {
      const begun = await begin(manager, fresh);
      const own = { name: wanted.name, positionId, person, fromId: null };
      return this.insert(manager, { ...begun, ...outfitOf(wanted), ...own });
    });
    return this.view(id);
  }

  async view(id: string): Promise<SettingsDraftView> {
    return this.views.of(await this.load(id));
  }

  marks(tag?: string): Promise<readonly DraftMark[]> {
    return this.views.marks(tag);
  }

  /** All of what was typed is taken, or none. */
  async type(id: string, fresh: readonly NewDraftField[], { person }: Account): Promise<SettingsDraftView> {
    await this.dataSource.transaction(async (manager) => {
      requireOpen(await this.lock(manager, id));
      const words = await manager.find(DraftField, {
        where: { draftId: id, key: In(fresh.map(({ key }) => key)) },
        order: { id: 'ASC' },
      });
      for (const { key, text, why, seen } of fresh) {
        const known = words.findLast((each) => each.key === key);
        if (known ? known.text === text && known.why === why : text === '') continue;
        if ((known?.id ?? null) !== seen && known?.saidBy !== person) throw typedMeanwhile(known, key);
        await manager.insert(DraftField, { draftId: id, key, text, why, saidBy: person });
      }
    });
    return this.view(id);
  }

  /** Another name, position, model, rating, region or beginning; what was typed stays. */
  async change(
    id: string,
    wanted: Partial<Outfit> & {
      readonly name?: string | undefined;
      readonly tag?: string | null | undefined;
      readonly begins?: Beginning | undefined;
    },
    version: number,
    { person }: Account,
  ): Promise<SettingsDraftView> {
    const before = await this.load(id);
    const fresh = await this.dictionaries.get(wanted.dictionary ?? before.dictionaryId);
    const next = {
      dictionary: fresh.id,
      region: wanted.region ?? regionLike(fresh, before.region),
      rating: wanted.rating === undefined ? before.rating : wanted.rating,
    };
    requireOutfit(fresh, next);
    const position =
      wanted.tag === undefined
        ? {}
        : { position: wanted.tag === null ? null : { id: await this.positionOf(wanted.tag) } };
    await this.dataSource.transaction(async (manager) => {
      const now = await this.lock(manager, id);
      requireOpen(now);
      requireSameVersion(now.version, version, `The draft "${now.name}"`);
      const begun = wanted.begins
        ? await this.begun(manager, wanted.begins, fresh)
        : await this.recrossed(now, fresh);
      await manager.update(
        SettingsDraft,
        { id },
        {
          ...begun,
          ...outfitOf(next),
          ...(wanted.name === undefined ? {} : { name: wanted.name }),
          ...(position as Partial<SettingsDraft>),
          version: version + 1,
        },
      );
      const text = `Changed the draft "${before.name}".`;
      await this.logbook.write({ person, action: 'draft-changed', text }, manager);
    });
    return this.view(id);
  }

  /** The same on another model or size: a draft of its own, with all that was typed of meanings. */
  async carry(
    id: string,
    wanted: Outfit & { readonly name: string },
    { person }: Account,
  ): Promise<SettingsDraftView> {
    const before = await this.load(id);
    const fresh = await this.dictionaries.get(wanted.dictionary);
    requireOutfit(fresh, wanted);
    const own = await this.dictionaries.get(before.dictionaryId);
    const fields = await this.views.fields(id);
    const copy = await this.dataSource.transaction(async (manager) => {
      const begun = await this.recrossed(before, fresh);
      const made = await this.insert(manager, {
        ...{ ...begun, ...outfitOf(wanted), name: wanted.name, person, fromId: id },
        positionId: before.position?.id ?? null,
      });
      // Codes and terminals are names of one model; on another they say something else, or nothing.
      const goes = (key: string) => own.model === fresh.model || !/^(code|terminal)\./.test(key);
      for (const { key, text, why } of fields)
        if (goes(key) && text !== '')
          await manager.insert(DraftField, { draftId: made, key, text, why, saidBy: person });
      return made;
    });
    return this.view(copy);
  }

  async putAway(id: string, why: string, { person }: Account): Promise<SettingsDraftView> {
    await this.dataSource.transaction(async (manager) => {
      const now = await this.lock(manager, id);
      requireOpen(now);
      const ended = { state: 'put-away' as const, endedBy: person, endedAt: new Date(), endedWhy: why };
      await manager.update(SettingsDraft, { id }, { ...ended, version: now.version + 1 });
      const text = `Put the draft "${now.name}" away: ${why}.`;
      await this.logbook.write({ person, action: 'draft-put-away', text }, manager);
    });
    return this.view(id);
  }

  async takeOut(id: string, { person }: Account): Promise<SettingsDraftView> {
    await this.dataSource.transaction(async (manager) => {
      const now = await this.lock(manager, id);
      if (now.state === 'open') return;
      const open = { state: 'open' as const, endedBy: null, endedAt: null, endedWhy: null };
      await manager.update(SettingsDraft, { id }, { ...open, version: now.version + 1 });
      const text = `Took the draft "${now.name}" out again.`;
      await this.logbook.write({ person, action: 'draft-taken-out', text }, manager);
    });
    return this.view(id);
  }

  /** The sheet of what was typed until now. */
  async work(id: string): Promise<WorkedOut> {
    const draft = await this.load(id);
    const fields = await this.views.fields(id);
    return { draft, fields, ...(await this.sheets.of(draft, fields)) };
  }

  /**
   * As it stands now; the newest revision where nothing has changed since. Answers with the id of the revision. What was worked out
   * before is kept only while it is still what stands there.
   */
  async keep(id: string, why: string, { person }: Account, worked?: WorkedOut): Promise<string> {
    const { draft, fields, sheet, set } = worked ?? (await this.work(id));
    const record: DraftRecord = {
      ...{ name: draft.name, owner: draft.owner, tag: draft.position?.tag ?? null, region: draft.region },
      ...{
        dictionary: draft.dictionaryId,
        rating: sheet.rating,
        begins: this.views.beginsOf(draft),
        fields,
        sheet,
      },
    };
    return this.dataSource.transaction(async (manager) => {
      const now = await this.lock(manager, id);
      requireOpen(now);
      requireSameVersion(now.version, draft.version, `The draft "${draft.name}"`);
      await requireSameFields(manager, id, fields);
      const before = await manager
        .createQueryBuilder(DraftRevision, 'r')
        .addSelect('r.record')
        .where('r.draft_id = :id', { id })
        .orderBy('r.revision', 'DESC')
        .getOne();
      const contentHash = await this.contents.keep(set, manager);
      const text = JSON.stringify(record);
      if (
        before?.contentHash === contentHash &&
        before.record === text &&
        revisionHash(before) === before.hash
      )
        return before.id;
      const kept = {
        ...{ draftId: id, revision: (before?.revision ?? 0) + 1, dictionaryId: draft.dictionaryId },
        ...{ rating: sheet.rating, region: draft.region, contentHash, record: text, why, keptBy: person },
        wiring: sheet.wiring.devices.length === 0 ? '' : formatWiring(sheet.wiring),
        chosen: sheet.lines.filter(({ from }) => from === 'typed').map(({ code }) => code),
        ...{ changes: sheet.lines.length, keptAt: new Date() },
      };
      const saved = await manager.save(DraftRevision, { ...kept, hash: revisionHash(kept) });
      const said = `Kept revision ${kept.revision} of the draft "${draft.name}", ${kept.changes} settings not as delivered: ${why}.`;
      const tag = draft.position?.tag;
      await this.logbook.write(
        {
          person,
          action: 'draft-kept',
          text: said,
          ...(tag === undefined ? {} : { tag }),
          facts: { draft: id },
        },
        manager,
      );
      return saved.id;
    });
  }

  async load(id: string): Promise<SettingsDraft> {
    const found = isUuid(id)
      ? await this.dataSource
          .getRepository(SettingsDraft)
          .findOne({ where: { id }, relations: { position: true } })
      : null;
    if (!found) throw notFound('This draft');
    return found;
  }

  private async lock(manager: EntityManager, id: string): Promise<SettingsDraft> {
    if (!isUuid(id)) throw notFound('This draft');
    await manager.query('select 1 from settings_draft where id = $1 for update', [id]);
    const found = await manager.findOne(SettingsDraft, { where: { id }, relations: { position: true } });
    if (!found) throw notFound('This draft');
    return found;
  }

  private async insert(
    manager: EntityManager,
    {
      positionId,
      person,
      ...facts
    }: Begun & { dictionaryId: string; region: string; rating: string | null; name: string } & {
      readonly positionId: string | null;
      readonly person: string;
      readonly fromId: string | null;
    },
  ): Promise<string> {
    const position = positionId === null ? null : { id: positionId };
    const { id } = await manager.save(SettingsDraft, { ...facts, owner: person, position });
    const text = `Began the draft "${facts.name}" for a ${facts.dictionaryId}.`;
    await this.logbook.write({ person, action: 'draft-begun', text, facts: { draft: id } }, manager);
    return id;
  }

  private async begun(manager: EntityManager, begins: Beginning, fresh: Dictionary): Promise<Begun> {
    switch (begins.kind) {
      case 'delivered':
        return NOTHING_BEGUN;
      case 'point': {
        const { id, text } = await this.points.get(begins.id);
        this.points.read(text);
        return { ...NOTHING_BEGUN, pointId: id, pointContent: text };
      }
      case 'file':
        return { ...NOTHING_BEGUN, pointId: begins.id, pointContent: begins.text };
      case 'position': {
        const at = await this.register.unitAt(begins.tag);
        const { side, set } = await this.sets.whole(at, begins.reference);
        if (set.dictionary !== at.unit.dictionaryId)
          throw refused(
            `${side.title} of ${begins.tag} is of a unit that sits there no more. Choose another set of it.`,
          );
        const kept = await this.wirings.kept(at.position.id, begins.tag);
        const base: BaseSet = {
          ...{ title: `${begins.tag}, ${side.title}`, set, rating: at.unit.rating, region: at.unit.region },
          wiring: kept.wiring === NO_WIRING ? '' : formatWiring(kept.wiring),
        };
        return this.withBase(manager, base, fresh);
      }
    }
  }

  private async withBase(manager: EntityManager, base: BaseSet, fresh: Dictionary): Promise<Begun> {
    const { title, set, rating, region, wiring } = base;
    const own = await this.dictionaries.get(set.dictionary);
    return {
      ...{ ...NOTHING_BEGUN, baseTitle: title, baseRating: rating, baseRegion: region, baseWiring: wiring },
      baseHash: await this.contents.keep(set, manager),
      crossContent:
        own.model === fresh.model ? null : (await this.references.of(own.model, fresh.model)).text,
    };
  }

  /** The same beginning for another model: by what is known of that pair. */
  private async recrossed(draft: SettingsDraft, fresh: Dictionary): Promise<Begun> {
    const { pointId, pointContent, baseTitle, baseHash, baseRating, baseRegion, baseWiring } = draft;
    const begun = { pointId, pointContent, baseTitle, baseHash, baseRating, baseRegion, baseWiring };
    if (baseHash === null) return { ...begun, crossContent: null };
    const own = await this.dictionaries.get((await this.contents.get(baseHash)).dictionary);
    const crossContent =
      own.model === fresh.model ? null : (await this.references.of(own.model, fresh.model)).text;
    return { ...begun, crossContent };
  }

  private async positionOf(tag: string | null): Promise<string | null> {
    if (tag === null) return null;
    return (await this.register.unitAt(tag)).position.id;
  }
}

const outfitOf = ({ dictionary, region, rating }: Outfit) => ({ dictionaryId: dictionary, region, rating });

/** Of another model the region of that name, or its first one. */
const regionLike = ({ regions }: Dictionary, region: string): string =>
  (regions.find(({ id }) => id === region) ?? regions[0])?.id ?? region;

function requireOutfit({ name, ratings, regions }: Dictionary, { region, rating }: Outfit): void {
  if (ratings.length === 0) throw refused(`${name} tells no rating: nothing can be worked out for it.`);
  if (!regions.some(({ id }) => id === region))
    throw refused(`${name} has no region "${region}". It has: ${regions.map(({ id }) => id).join(', ')}.`);
  if (rating !== null && !ratings.some(({ id }) => id === rating))
    throw refused(`${name} has no rating "${rating}". It has: ${ratings.map(({ id }) => id).join(', ')}.`);
}

function requireOpen({ state, name, endedBy }: SettingsDraft): void {
  if (state !== 'open')
    throw refused(`The draft "${name}" was put away by ${endedBy ?? 'somebody'}. Take it out again first.`);
}

/** What was worked out is what was typed until now. */
async function requireSameFields(
  manager: EntityManager,
  draftId: string,
  seen: readonly { readonly id: string }[],
): Promise<void> {
  const [last]: { id: string | null }[] = await manager.query(
    'select max(id) as id from draft_field where draft_id = $1',
    [draftId],
  );
  if (Number(last?.id ?? 0) !== Math.max(0, ...seen.map(({ id }) => Number(id))))
    throw new ProblemException(
      409,
      'changed-meanwhile',
      'Somebody typed something on the sheet meanwhile. Look at it, then keep it. Nothing was kept.',
    );
}

export const refused = (detail: string): ProblemException =>
  new ProblemException(409, 'draft-refused', `${detail} Nothing was changed.`);

function typedMeanwhile(known: DraftField | undefined, key: string): ProblemException {
  const who = known ? `${known.saidBy} has` : 'Somebody has';
  const what = known?.text ? ` ("${known.text}")` : '';
  const detail = `${who} typed something into "${key}" after you looked at it${what}. Look at it, then type it again. Nothing of yours was kept.`;
  return new ProblemException(409, 'typed-meanwhile', detail);
}
