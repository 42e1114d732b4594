// Starting points: those that come with the catalogue, as they stand in their files, and before them the plant's own revisions.

import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Injectable } from '@nestjs/common';
import type { StartingPointView } from '@drive-keep/api';
import { readStartingPoint, type StartingPoint } from '@drive-keep/core/start';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { Meanings } from './meanings.service.ts';
import { StartingPointRevision } from './starting-point-revision.entity.ts';

const MOST_TOLD = 20;
/** Files that were read are remembered: every look at a draft asks for the name of its own. */
const MOST_READ = 300;

@Injectable()
export class StartingPoints {
  private readonly shipped = new Map<string, string>();
  private readonly known = new Map<string, StartingPoint | null>();

  constructor(
    private readonly dataSource: DataSource,
    private readonly meanings: Meanings,
    private readonly logbook: Logbook,
  ) {}

  /** `modelsFolder` is beside them in the catalogue. */
  load(modelsFolder: string): void {
    const folder = join(modelsFolder, '../starting-points');
    for (const file of existsSync(folder) ? readdirSync(folder).sort() : [])
      this.shipped.set(file.replace('.yaml', ''), readFileSync(join(folder, file), 'utf8'));
  }

  async all(): Promise<readonly StartingPointView[]> {
    const own = await this.dataSource
      .getRepository(StartingPointRevision)
      .find({ order: { id: 'ASC', revision: 'DESC' } });
    const ids = [...new Set([...this.shipped.keys(), ...own.map(({ id }) => id)])].sort();
    return ids.flatMap(
      (id) =>
        this.viewOf(
          id,
          own.filter((each) => each.id === id),
        ) ?? [],
    );
  }

  async get(id: string): Promise<StartingPointView> {
    const own = await this.dataSource
      .getRepository(StartingPointRevision)
      .find({ where: { id }, order: { revision: 'DESC' } });
    const view = this.viewOf(id, own);
    if (!view) throw notFound(`The starting point "${id}"`);
    return view;
  }

  /** A further revision of the plant; a file with faults is refused with each of them. `seen` is the one that was looked at. */
  async save(
    id: string,
    { text, why, seen }: { text: string; why: string; seen: number },
    { person }: Account,
  ): Promise<StartingPointView> {
    const point = this.read(text);
    if (point.id !== id) throw refused(`The file says it is "${point.id}", and it was brought as "${id}".`);
    await this.dataSource.transaction(async (manager) => {
      await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [`starting point ${id}`]);
      const last = (await manager.maximum(StartingPointRevision, 'revision', { id })) ?? 0;
      requireSameVersion(last, seen, `The starting point "${point.name}"`);
      await manager.insert(StartingPointRevision, {
        ...{ id, revision: last + 1, content: text, savedBy: person, why },
      });
      const told = `Kept revision ${last + 1} of the starting point "${point.name}": ${why}.`;
      await this.logbook.write({ person, action: 'starting-point-kept', text: told }, manager);
    });
    return this.get(id);
  }

  /** Nothing for a text that is no starting point. */
  ofText(text: string): StartingPoint | null {
    const known = this.known.get(text);
    if (known !== undefined) return known;
    const read = readStartingPoint(text, this.meanings.vocabulary);
    if (this.known.size >= MOST_READ) this.known.clear();
    this.known.set(text, read.ok ? read.value : null);
    return read.ok ? read.value : null;
  }

  /** What is in force under this id; nothing where there is none any more. */
  async textOf(id: string): Promise<string | undefined> {
    const [own] = await this.dataSource
      .getRepository(StartingPointRevision)
      .find({ where: { id }, order: { revision: 'DESC' }, take: 1 });
    return own?.content ?? this.shipped.get(id);
  }

  /** Of a file that was kept, or is to be: its faults are told line by line. */
  read(text: string): StartingPoint {
    const read = readStartingPoint(text, this.meanings.vocabulary);
    if (read.ok) return read.value;
    const told = read.fault.slice(0, MOST_TOLD).map((each) => findingLine(findingView(each)));
    const count = read.fault.length === 1 ? 'one fault' : `${read.fault.length} faults`;
    throw new ProblemException(
      422,
      'starting-point-faults',
      `The starting point has ${count}. Mend the lines that are named, then bring it again. Nothing was kept.`,
      told,
    );
  }

  private viewOf(id: string, own: readonly StartingPointRevision[]): StartingPointView | undefined {
    const [newest] = own;
    const text = newest?.content ?? this.shipped.get(id);
    if (text === undefined) return undefined;
    // The plant's own file may be older than the vocabulary: it is shown with its faults, not lost.
    const about = 'This file is not understood any more. Open it to see why.';
    const { name, load, assumes, ...point } = this.ofText(text) ?? { name: id, about, load: '', assumes: [] };
    return {
      ...{ id, name, about: point.about, load, assumes, text, revision: newest?.revision ?? 0 },
      revisions: own.map((each) => ({
        ...{ revision: each.revision, savedBy: each.savedBy, why: each.why },
        savedAt: each.savedAt.toISOString(),
      })),
    };
  }
}

const refused = (detail: string): ProblemException =>
  new ProblemException(422, 'starting-point-refused', `${detail} Nothing was kept.`);
