// What the sheet of a replacement is computed from: the set that was chosen, the wiring, both models, the cross-reference that
// was in force, and what people have said.

import { Injectable } from '@nestjs/common';
import { findMeaning, type Code, type Dictionary } from '@drive-keep/core/dictionary';
import {
  readCrossReference,
  replaceBy,
  sayingsFrom,
  type Replacement as Computed,
  type SheetInput,
} from '@drive-keep/core/replace';
import type { ParameterSet } from '@drive-keep/core/sets';
import { meaningOf, type Reading } from '@drive-keep/core/values';
import type { Wiring } from '@drive-keep/core/wiring';
import { DataSource, type EntityManager } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { Site } from '../register/site.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { ReplacementSaying } from './replacement-saying.entity.ts';
import type { Replacement } from './replacement.entity.ts';

export interface Ground {
  readonly input: SheetInput;
  readonly source: ParameterSet;
  readonly wiring: { readonly revision: number; readonly wiring: Wiring };
  readonly old: Dictionary;
  readonly fresh: Dictionary;
}

@Injectable()
export class ReplacementGround {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
    private readonly contents: ContentStore,
    private readonly wirings: Wirings,
    private readonly site: Site,
  ) {}

  async of(replacement: Replacement, manager: EntityManager = this.dataSource.manager): Promise<Ground> {
    const { position, oldUnit } = replacement;
    const { bridge } = this.meanings;
    const old = await this.dictionaries.get(replacement.oldDictionaryId);
    const fresh = await this.dictionaries.get(replacement.dictionaryId);
    const source = await this.contents.get(replacement.sourceHash);
    const wiring = await this.wirings.kept(
      position.id,
      position.tag,
      replacement.oldWiringRevision ?? undefined,
    );
    const read =
      replacement.crossContent === null ? null : readCrossReference(replacement.crossContent, old, fresh);
    const outfit = { rating: oldUnit.rating, region: oldUnit.region };
    const input: SheetInput = {
      ...{ bridge, words: bridge.vocabulary, fresh },
      old: {
        set: bridge.read(old, outfit, source.readings),
        ...{ outfit, wiring: wiring.wiring, onLine: oldUnit.line !== null },
        ambient: (await this.site.of(position.tag)).cabinet?.ambient ?? null,
      },
      ...{ region: replacement.region, rating: replacement.rating },
      // One with faults is left aside, as the screen does and says.
      cross: read?.ok ? read.value : null,
      sayings: sayingsFrom(await this.sayings(replacement.id, manager)),
    };
    return { input, source, wiring, old, fresh };
  }

  sayings(id: string, manager: EntityManager = this.dataSource.manager): Promise<ReplacementSaying[]> {
    return manager.find(ReplacementSaying, { where: { replacementId: id }, order: { id: 'ASC' } });
  }
}

/** What the sheet promises of the successor, by the rating that counts; its address is where the register has it. */
export function promiseOf(
  { input, fresh }: Ground,
  { newUnit }: Replacement,
): {
  readonly rating: string;
  readonly set: ParameterSet;
  readonly computed: Computed;
} {
  const { rating, replacement } = replaceBy(input);
  const readings = new Map<Code, Reading>(replacement.settings.readings);
  const address = findMeaning(fresh, meaningOf('network.address'))?.code;
  if (address !== undefined && newUnit?.lineAddress) readings.set(address, newUnit.lineAddress);
  return { rating, set: { dictionary: fresh.id, readings }, computed: replacement };
}
