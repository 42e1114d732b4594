// Sets by reference, as addresses and requests name them: `default`, `baseline`, `baseline:2`, `newest`, `backup:ID`,
// `replacement:ID` for what the sheet of a replacement promises, `drafted:ID` for a revision of first settings, `part:ID` for some values that a file told, and
// `values:02P=360,05C=1` for raw values on top of what the unit was last seen to hold.

import { Injectable } from '@nestjs/common';
import type { ComparedSide } from '@drive-keep/api';
import { factsOf, findParameter, refusalOf, type Code } from '@drive-keep/core/dictionary';
import { defaultSet, hashOf, type ParameterSet } from '@drive-keep/core/sets';
import { showRaw, type Reading } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ProblemException } from '../problems/problem.ts';
import type { PositionWithUnit } from '../register/register.service.ts';
import type { Backup } from '../sets/backup.entity.ts';
import { Backups } from '../sets/backups.service.ts';
import type { Baseline } from '../sets/baseline.entity.ts';
import { DraftRevisions, forUnit } from '../drafts/draft-revisions.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { History } from '../sets/history.service.ts';
import { SetParts } from '../sets/set-parts.service.ts';
import { isUuid } from '../storage/uuid.ts';

export interface ReferencedSet {
  readonly side: ComparedSide;
  readonly set: ParameterSet;
  /** Monitors and counters told beside a backup. */
  readonly aside: ReadonlyMap<Code, Reading>;
  /** Of defaults: what the dictionary does not tell. It is no difference, and the title says how many they are. */
  readonly untold: ReadonlySet<Code>;
}

/** What either side cannot say. */
export const untoldOf = (a: ReferencedSet, b: ReferencedSet): ReadonlySet<Code> =>
  new Set([...a.untold, ...b.untold]);

const VALUES = 'values:';
const NO_ASIDE: ReadonlyMap<Code, Reading> = new Map();
const ALL_TOLD: ReadonlySet<Code> = new Set();

@Injectable()
export class ReferencedSets {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly history: History,
    private readonly parts: SetParts,
    private readonly drafts: DraftRevisions,
  ) {}

  async get(at: PositionWithUnit, reference: string): Promise<ReferencedSet> {
    if (reference === 'default') return this.defaults(at);
    if (reference === 'newest') return this.newest(at);
    if (reference.startsWith(VALUES)) return this.withValues(at, reference);
    const [kind, id = ''] = reference.split(':');
    if (kind === 'baseline') return this.baseline(at, id);
    if (kind === 'backup') return this.ofBackup(reference, await this.backupOf(at, id));
    if (kind === 'replacement') return this.promised(at, id);
    if (kind === 'part') return this.part(at, id);
    if (kind === 'drafted') return this.drafted(at, id);
    throw missing(`"${reference}" names no set. Use default, baseline, newest or backup:… instead.`, 400);
  }

  /** As something that a drive can act by: a part is laid over what the unit was last seen to hold, or over its defaults. */
  async whole(at: PositionWithUnit, reference: string): Promise<ReferencedSet> {
    const found = await this.get(at, reference);
    if (!reference.startsWith('part:')) return found;
    const newest = await this.backups.newest(at.position.id);
    const base = await this.get(at, newest ? 'newest' : 'default');
    if (base.set.dictionary !== found.set.dictionary) return found;
    const readings = new Map([...base.set.readings, ...found.set.readings]);
    return {
      ...found,
      side: { ...found.side, title: `${base.side.title} with ${found.side.title}` },
      set: { dictionary: base.set.dictionary, readings },
    };
  }

  private async defaults({ unit }: PositionWithUnit): Promise<ReferencedSet> {
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    const set = defaultSet(dictionary, unit);
    if (!set) throw missing(`${dictionary.name} has no rating ${unit.rating} in region ${unit.region}.`, 422);
    const region = dictionary.regions.find((each) => each.id === unit.region)?.name ?? unit.region;
    const untold = new Set(
      dictionary.parameters.filter((each) => each.untold.includes('default')).map(({ code }) => code),
    );
    const unknown = untold.size === 0 ? '' : `, ${untold.size} of them not told by the model`;
    const title = `Defaults of ${unit.rating}, ${region}${unknown}`;
    return {
      side: { reference: 'default', lastingReference: 'default', title, at: null, hash: hashOf(set) },
      ...{ set, untold, aside: NO_ASIDE },
    };
  }

  /** What a part does not tell is no difference from it. */
  private async part({ position }: PositionWithUnit, id: string): Promise<ReferencedSet> {
    const part = await this.parts.get(position.id, id);
    const set = await this.contents.get(part.contentHash);
    const { parameters } = await this.dictionaries.get(set.dictionary);
    const reference = `part:${part.id}`;
    return {
      side: {
        ...{ reference, lastingReference: reference, hash: part.contentHash },
        title: `${set.readings.size === 1 ? 'One value' : `${set.readings.size} values`} from ${part.fileName}`,
        at: part.broughtAt.toISOString(),
      },
      ...{ set, aside: NO_ASIDE },
      untold: new Set(parameters.map(({ code }) => code).filter((code) => !set.readings.has(code))),
    };
  }

  /** Values that the unit would refuse are no set. */
  private async withValues(at: PositionWithUnit, reference: string): Promise<ReferencedSet> {
    const newest = await this.newest(at);
    const dictionary = await this.dictionaries.get(newest.set.dictionary);
    const facts = factsOf(dictionary, at.unit) ?? {};
    const readings = new Map(newest.set.readings);
    const said: string[] = [];
    for (const piece of reference.slice(VALUES.length).split(',')) {
      const [, code = '', text = ''] = /^(.+)=(-?\d{1,10})$/.exec(piece) ?? [];
      const parameter = findParameter(dictionary, code);
      if (!parameter) throw missing(`"${piece}" is no value of ${dictionary.name}. Write CODE=RAW.`, 422);
      const raw = Number(text);
      if (refusalOf(parameter, raw, facts) || parameter.access === 'read')
        throw missing(`${code} does not take the raw value ${text} on this unit.`, 422);
      readings.set(parameter.code, raw);
      said.push(`${code} ${showRaw(parameter.form, raw)}`);
    }
    const set = { dictionary: dictionary.id, readings };
    return {
      side: { reference, lastingReference: reference, title: said.join(', '), at: null, hash: hashOf(set) },
      ...{ set, aside: NO_ASIDE, untold: ALL_TOLD },
    };
  }

  private async newest(at: PositionWithUnit): Promise<ReferencedSet> {
    const backup = await this.backups.newest(at.position.id);
    if (!backup) throw missing(`${at.position.tag} has no backup yet. Back it up first.`, 404);
    return this.ofBackup('newest', backup);
  }

  private async baseline({ position }: PositionWithUnit, revision: string): Promise<ReferencedSet> {
    const all = await this.history.baselines(position.id);
    const found = revision === '' ? all.at(-1) : all.find((each) => String(each.revision) === revision);
    if (!found)
      throw missing(`${position.tag} has no such baseline. An engineer signs one from a backup.`, 404);
    return {
      side: baselineSide(found, revision),
      set: await this.contents.get(found.contentHash),
      ...{ aside: NO_ASIDE, untold: ALL_TOLD },
    };
  }

  /** What the sheet of a replacement promised when writing was planned. */
  private async promised({ position }: PositionWithUnit, id: string): Promise<ReferencedSet> {
    const rows: { hash: string | null }[] = isUuid(id)
      ? await this.dataSource.query(
          'select promised_hash as hash from replacement where id = $1 and position_id = $2',
          [id, position.id],
        )
      : [];
    const hash = rows[0]?.hash;
    if (!hash) throw missing(`No replacement of ${position.tag} has promised a set yet.`, 404);
    const reference = `replacement:${id}`;
    const title = 'What the replacement promises';
    return {
      side: { reference, lastingReference: reference, title, at: null, hash },
      set: await this.contents.get(hash),
      ...{ aside: NO_ASIDE, untold: ALL_TOLD },
    };
  }

  /** What it does not say of this unit is no difference. */
  private async drafted({ position, unit }: PositionWithUnit, id: string): Promise<ReferencedSet> {
    const { revision, title } = await this.drafts.get(id);
    const dictionary = await this.dictionaries.get(revision.dictionaryId);
    const newest = await this.backups.newest(position.id);
    const held = newest && (await this.contents.get(newest.contentHash));
    const kept = await this.contents.get(revision.contentHash);
    const set = forUnit(dictionary, kept, revision.chosen, held ?? undefined, unit.lineAddress);
    const reference = `drafted:${id}`;
    return {
      side: {
        ...{ reference, lastingReference: reference, title, hash: hashOf(set) },
        at: revision.keptAt.toISOString(),
      },
      ...{ set, aside: NO_ASIDE },
      untold: new Set(
        dictionary.parameters.map(({ code }) => code).filter((code) => !set.readings.has(code)),
      ),
    };
  }

  private async backupOf({ position }: PositionWithUnit, id: string): Promise<Backup> {
    const backup = await this.backups.get(id);
    if (backup.position.id === position.id) return backup;
    throw missing(`This backup belongs to ${backup.position.tag}, not to ${position.tag}.`, 422);
  }

  private async ofBackup(reference: string, backup: Backup): Promise<ReferencedSet> {
    const side = {
      reference,
      lastingReference: `backup:${backup.id}`,
      title: `${KINDS[backup.how]} by ${backup.takenBy}`,
      at: backup.takenAt.toISOString(),
      hash: backup.contentHash,
    };
    const aside = new Map(Object.entries(backup.aside)) as ReadonlyMap<string, Reading> as ReadonlyMap<
      Code,
      Reading
    >;
    return { side, set: await this.contents.get(backup.contentHash), aside, untold: ALL_TOLD };
  }
}

const KINDS: Readonly<Record<Backup['how'], string>> = {
  read: 'Backup',
  'read-off': 'Read off',
  imported: 'Imported set',
  'before-write': 'Backup before a write',
  'after-write': 'Backup after a write',
};

const baselineSide = (found: Baseline, revision: string): ComparedSide => ({
  reference: revision === '' ? 'baseline' : `baseline:${revision}`,
  lastingReference: `baseline:${found.revision}`,
  title: `Baseline, revision ${found.revision}, signed by ${found.signedBy}`,
  at: found.signedAt.toISOString(),
  hash: found.contentHash,
});

const missing = (detail: string, status: number): ProblemException =>
  new ProblemException(status, 'no-such-set', detail);
