// A whole model at once: every position where an old model sits, what speaks for doing it soon, how far it is, and what one
// successor would make of each.

import { fileURLToPath } from 'node:url';
import { Injectable } from '@nestjs/common';
import type {
  PositionView,
  ReplaceEstimate,
  ReplaceListModel,
  ReplaceListRow,
  ReplacementMark,
} from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { defaultSet } from '@drive-keep/core/sets';
import { DataSource } from 'typeorm';
import { CrossReferences } from '../catalogue/cross-references.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { inOwnProcess, type Bounds } from '../file-content/own-process.ts';
import { Overview } from '../overview/overview.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { Site } from '../register/site.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Clock } from '../storage/clock.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { ReplacementGround } from './replacement-ground.service.ts';
import { Replacements } from './replacements.service.ts';

const PROGRAM = fileURLToPath(new URL('../../workers/survey-process.mjs', import.meta.url));
const BOUNDS: Bounds = { memoryMb: 512, ms: 60_000 };
const YEAR_MS = 365.25 * 86_400_000;
/** Electrolytic capacitors of a bus are past the middle of their life then. */
const OLD_YEARS = 8;
const STALE_DAYS = 30;

interface Subject {
  readonly tag: string;
  readonly fresh: Dictionary;
}

@Injectable()
export class ReplaceLists {
  constructor(
    private readonly dataSource: DataSource,
    private readonly overview: Overview,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly references: CrossReferences,
    private readonly meanings: Meanings,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly wirings: Wirings,
    private readonly replacements: Replacements,
    private readonly ground: ReplacementGround,
    private readonly clock: Clock,
    private readonly site: Site,
  ) {}

  /** Models for which a cross-reference names a successor, and those of which a replacement was begun. */
  async models(): Promise<readonly ReplaceListModel[]> {
    const [pairs, positions, marks, newest] = await Promise.all([
      this.references.pairs(),
      this.overview.positions(),
      this.replacements.marks(),
      this.dictionaries.newest(),
    ]);
    const begun: { tag: string; model: string; fresh: string }[] = await this.dataSource.query(
      `select p.tag, o.model, f.model as fresh from replacement r join position p on p.id = r.position_id
         join dictionary o on o.id = r.old_dictionary_id join dictionary f on f.id = r.dictionary_id
        where r.state <> 'given-up'`,
    );
    const modelOf = await this.modelNames();
    const since = await this.installed();
    const olds = [...new Set([...pairs.map(({ old }) => old), ...begun.map(({ model }) => model)])].sort();
    return olds.flatMap((model): ReplaceListModel[] => {
      const own = newest.find((each) => each.model === model);
      if (!own) return [];
      const fresh = [
        ...new Set([
          ...pairs.filter(({ old }) => old === model).map((pair) => pair.fresh),
          ...begun.filter((each) => each.model === model).map((each) => each.fresh),
        ]),
      ];
      const replaced = new Set(begun.filter((each) => each.model === model).map(({ tag }) => tag));
      const rows = positions
        .filter(({ tag, unit, retiredAt }) =>
          retiredAt === null ? modelOf.get(unit.dictionary) === model || replaced.has(tag) : false,
        )
        .map((position) => this.rowOf(position, marks, since.get(position.tag) ?? this.clock.now()));
      return [
        {
          ...{ model, name: `${own.maker} ${own.name}`, rows },
          successors: fresh.flatMap((name) => {
            const found = newest.find((each) => each.model === name);
            const pair = pairs.find((each) => each.old === model && each.fresh === name);
            return found
              ? [
                  {
                    ...{ dictionary: found.id, model: name, name: `${found.maker} ${found.name}` },
                    revision: pair?.revision ?? null,
                  },
                ]
              : [];
          }),
        },
      ];
    });
  }

  /** What one successor would make of each position of an old model: open replacements by what was said of them. */
  async estimates(model: string, dictionaryId: string): Promise<readonly ReplaceEstimate[]> {
    const fresh = await this.dictionaries.get(dictionaryId);
    if (fresh.ratings.length === 0)
      throw new ProblemException(422, 'no-rating', `${fresh.name} tells no rating.`);
    const models = await this.models();
    const listed = models.find((each) => each.model === model);
    if (!listed) throw notFound(`The list of ${model}`);
    const subjects: Subject[] = [];
    for (const row of listed.rows) {
      const subject = await this.subjectOf(row, fresh);
      if (subject) subjects.push(subject);
    }
    const { entries, functions } = this.meanings.vocabulary;
    const told = await inOwnProcess<ReplaceEstimate[]>(PROGRAM, { entries, functions, subjects }, BOUNDS);
    if (told) return told;
    throw new ProblemException(
      503,
      'takes-too-long',
      'The list could not be worked out in a minute. Try again later.',
    );
  }

  private async modelNames(): Promise<ReadonlyMap<string, string>> {
    const all = await this.dictionaries.all();
    return new Map(all.map(({ id, model }) => [id, model]));
  }

  /** Since when the unit sits there that sits there now. */
  private async installed(): Promise<ReadonlyMap<string, Date>> {
    const rows: { tag: string; since: Date }[] = await this.dataSource.query(
      `select p.tag, u.installed_at as since from unit u join position p on p.id = u.position_id
        where u.removed_at is null`,
    );
    return new Map(rows.map(({ tag, since }) => [tag, since]));
  }

  /** Nothing of a position whose replacement is closed, or of which no set can be read. */
  private async subjectOf(
    { tag, replacement }: ReplaceListRow,
    fresh: Dictionary,
  ): Promise<Subject | undefined> {
    if (replacement?.state === 'closed') return undefined;
    if (replacement?.state === 'open') {
      const row = await this.replacements.load(replacement.id);
      const { input, old, source, fresh: own } = await this.ground.of(row);
      // Of another version of the model it is the same order.
      if (own.model !== fresh.model) return undefined;
      const sayings = (await this.ground.sayings(row.id)).map(({ part, line, value }) => ({
        part,
        line,
        value,
      }));
      const { outfit, wiring, onLine, ambient } = input.old;
      const { region, rating } = input;
      const cross = row.crossContent;
      return {
        ...{ tag, fresh: own },
        ...{ old, outfit, readings: source.readings, wiring, onLine, ambient, region, rating },
        ...{ cross, sayings },
      };
    }
    const { position, unit } = await this.register.unitAt(tag);
    const old = await this.dictionaries.get(unit.dictionaryId);
    const newest = await this.backups.newest(position.id);
    const kept = newest ? await this.contents.getIfGood(newest.contentHash) : undefined;
    const set = kept?.dictionary === old.id ? kept : defaultSet(old, unit);
    if (!set) return undefined;
    const { wiring } = await this.wirings.kept(position.id, tag);
    const cross = (await this.references.of(old.model, fresh.model)).text;
    const region = fresh.regions.find(({ id }) => id === unit.region)?.id ?? fresh.regions[0]?.id ?? '';
    const outfit = { rating: unit.rating, region: unit.region };
    const onLine = unit.line !== null;
    const ambient = (await this.site.of(tag)).cabinet?.ambient ?? null;
    return {
      ...{ tag, fresh },
      ...{ old, outfit, readings: set.readings, wiring, onLine, ambient, region, rating: null },
      ...{ cross, sayings: [] },
    };
  }

  private rowOf(position: PositionView, marks: readonly ReplacementMark[], since: Date): ReplaceListRow {
    const { tag, duty, area, machine, unit } = position;
    const found = risksOf(position, since, this.clock.now());
    const weight = found.reduce((sum, each) => sum + each.weight, 0);
    return {
      ...{ tag, duty, area, machine, rating: unit.rating, serial: unit.serial },
      ...{ installedAt: since.toISOString(), model: unit.dictionary },
      risks: [...found].sort((a, b) => b.weight - a.weight).map(({ text }) => text),
      risk: weight >= 4 ? 'high' : weight >= 2 ? 'middle' : 'low',
      replacement: marks.find((each) => each.tag === tag && each.state !== 'given-up') ?? null,
    };
  }
}

/** What makes it worse if this unit fails tomorrow, each with its weight. */
function risksOf(
  { criticality, newestBackup, newestIsOfUnit, baselineRevision, state }: PositionView,
  since: Date,
  now: Date,
): readonly { readonly text: string; readonly weight: number }[] {
  const years = (now.getTime() - since.getTime()) / YEAR_MS;
  const days = newestBackup ? (now.getTime() - new Date(newestBackup).getTime()) / 86_400_000 : Infinity;
  return [
    ...(state.attention === 'stop' ? [{ text: state.text, weight: 4 }] : []),
    ...(criticality === 'high' ? [{ text: 'the machine stands without it', weight: 2 }] : []),
    ...(newestBackup === null || !newestIsOfUnit ? [{ text: 'no backup of this unit', weight: 2 }] : []),
    ...(newestBackup !== null && days > STALE_DAYS
      ? [{ text: `newest backup is ${Math.floor(days)} days old`, weight: 1 }]
      : []),
    ...(baselineRevision === null ? [{ text: 'no signed baseline', weight: 1 }] : []),
    ...(years >= OLD_YEARS ? [{ text: `${Math.floor(years)} years in place`, weight: 1 }] : []),
  ];
}
