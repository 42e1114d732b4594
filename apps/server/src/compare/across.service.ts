// Two positions side by side by what their parameters mean, and one parameter over time on many positions.

import { Injectable } from '@nestjs/common';
import type { AcrossView, ParameterHistoryView } from '@drive-keep/api';
import { compareAcross, countsAlike, type AcrossSide, type ModelSet } from '@drive-keep/core/compare';
import { findParameter, type Dictionary, type Outfit, type Parameter } from '@drive-keep/core/dictionary';
import { DataSource } from 'typeorm';
import { Meanings } from '../catalogue/meanings.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { History } from '../sets/history.service.ts';
import { ReferencedSets } from './referenced-sets.service.ts';

export interface NamedSet {
  readonly tag: string;
  readonly reference: string;
}

/** One side of a comparison. */
export interface AcrossNamed {
  readonly modelSet: ModelSet;
  readonly view: AcrossView['a'];
}

@Injectable()
export class Across {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly dictionaries: Dictionaries,
    private readonly history: History,
    private readonly contents: ContentStore,
    private readonly meanings: Meanings,
  ) {}

  async compare(a: NamedSet, b: NamedSet): Promise<AcrossView> {
    const [left, right] = await Promise.all([this.named(a), this.named(b)]);
    return this.between(left, right);
  }

  between(left: AcrossNamed, right: AcrossNamed): AcrossView {
    const { bridge } = this.meanings;
    const { rows, same, withoutMeaning } = compareAcross(bridge, left.modelSet, right.modelSet);
    const shown = (side: AcrossSide | null, { set }: ModelSet) =>
      side && {
        meaning: side.meaning,
        plain: side.plain,
        holds: side.codes.map((code) => ({ code, reading: set.readings.get(code) ?? null })),
      };
    return {
      a: left.view,
      b: right.view,
      rows: rows.map((row) => ({
        ...row,
        a: shown(row.a, left.modelSet),
        b: shown(row.b, right.modelSet),
      })),
      terms: this.meanings.termsOf(rows),
      same,
      withoutMeaning,
    };
  }

  /** Steps of one parameter on several positions of one model, with what their baselines want. */
  async parameter(tags: readonly string[], code: string): Promise<readonly ParameterHistoryView[]> {
    const units = await this.register.find(tags);
    const [first] = units;
    if (!first) throw notFound('A position without a tag');
    const dictionary = await this.dictionaries.get(first.unit.dictionaryId);
    const parameter = findParameter(dictionary, code);
    if (!parameter) throw notFound(`The parameter ${code}`);
    const other = await this.countingOtherwise(units, dictionary, parameter);
    if (other) {
      const detail = `${other.position.tag} is of another model, or its version counts ${code} otherwise than ${dictionary.id}.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    return Promise.all(
      units.map(async ({ position: { id, tag, duty } }) => {
        const baselines = await this.history.baselines(id);
        const wanted = await Promise.all(
          baselines.map(async ({ signedAt, contentHash }) => ({
            at: signedAt.toISOString(),
            reading: (await this.contents.get(contentHash)).readings.get(parameter.code) ?? null,
          })),
        );
        return { tag, duty, steps: await this.history.ofParameter(id, parameter.code), wanted };
      }),
    );
  }

  private async countingOtherwise(
    units: readonly PositionWithUnit[],
    { id, model }: Dictionary,
    parameter: Parameter,
  ): Promise<PositionWithUnit | undefined> {
    for (const each of units) {
      if (each.unit.dictionaryId === id) continue;
      const own = await this.dictionaries.get(each.unit.dictionaryId);
      if (own.model !== model || !countsAlike(parameter, own)) return each;
    }
    return undefined;
  }

  /** The last unit of that model that sat there: its rating and region say what its set means. */
  private async stayOf({ position }: PositionWithUnit, dictionaryId: string): Promise<Outfit | null> {
    const [stay]: Outfit[] = await this.dataSource.query(
      `select rating, region from unit where position_id = $1 and dictionary_id = $2
        order by installed_at desc limit 1`,
      [position.id, dictionaryId],
    );
    return stay ?? null;
  }

  /** A set that no position has. */
  aside(
    modelSet: ModelSet,
    { tag, duty, title }: Pick<AcrossNamed['view'], 'tag' | 'duty' | 'title'>,
  ): AcrossNamed {
    const { maker, name, id } = modelSet.dictionary;
    return { modelSet, view: { tag, duty, model: `${maker} ${name}`, dictionary: id, title, at: null } };
  }

  async named({ tag, reference }: NamedSet): Promise<AcrossNamed> {
    const at = await this.register.unitAt(tag);
    const { side, set } = await this.sets.get(at, reference);
    const dictionary = await this.dictionaries.get(set.dictionary);
    const { duty } = at.position;
    const model = `${dictionary.maker} ${dictionary.name}`;
    const own = set.dictionary === at.unit.dictionaryId ? at.unit : await this.stayOf(at, set.dictionary);
    return {
      modelSet: { dictionary, set, outfit: own },
      view: { tag, duty, model, dictionary: dictionary.id, title: side.title, at: side.at },
    };
  }
}
