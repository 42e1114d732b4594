// Looking parameters up over all models, for nobody's drive or for a position's. Of several versions of a model the
// position's own counts, else the newest.

import { Injectable } from '@nestjs/common';
import type { FaultHitView, LookUpView, SameMeaningView } from '@drive-keep/api';
import {
  factsOf,
  FaultLookUp,
  findParameter,
  LookUp,
  rawOfBound,
  type Bound,
  type Dictionary,
  type LookUpHit,
  type Parameter,
} from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import type { Vocabulary } from '@drive-keep/core/meanings';
import { showRaw, type Bit, type Option, type Reading, meaningOf } from '@drive-keep/core/values';
import { notFound } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';

/** A screen shows no more, and nobody reads on. */
const MOST_HITS = 40;
/** A parameter is found once for each version of its model; this many hits leave enough when only one of them counts. */
const WITH_VERSIONS = 4 * MOST_HITS;

interface AtPosition {
  readonly at: PositionWithUnit;
  readonly set: ParameterSet | undefined;
}

@Injectable()
export class LookUps {
  private built: { readonly of: string; readonly lookUp: LookUp; readonly faults: FaultLookUp } | undefined;

  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
    private readonly register: Register,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
  ) {}

  async find(text: string, tag: string | undefined): Promise<readonly LookUpView[]> {
    const [{ lookUp }, position] = await Promise.all([this.indexes(), this.position(tag)]);
    const unit = position?.at.unit;
    const hits = oneVersion(lookUp.find(text, WITH_VERSIONS), unit?.dictionaryId).slice(0, MOST_HITS);
    const own = hits.filter(({ dictionary }) => dictionary.id === unit?.dictionaryId);
    const others = hits.filter((hit) => !own.includes(hit));
    return [...own, ...others].map((hit) => ({
      ...view(hit, position),
      carrying: carrying(hit.parameter, text, this.meanings.vocabulary),
    }));
  }

  /** Faults by number, name or words; those of the position's own model first. */
  async faults(text: string, tag: string | undefined): Promise<readonly FaultHitView[]> {
    const [{ faults }, position] = await Promise.all([this.indexes(), this.position(tag)]);
    const own = position?.at.unit.dictionaryId;
    const newest = new Map<string, Dictionary>();
    const found = faults.find(text, WITH_VERSIONS);
    for (const { dictionary } of found) {
      const known = newest.get(dictionary.model);
      if (dictionary.id === own || !known || (known.id !== own && known.version < dictionary.version))
        newest.set(dictionary.model, dictionary);
    }
    return found
      .filter(({ dictionary }) => newest.get(dictionary.model) === dictionary)
      .sort((a, b) => Number(b.dictionary.id === own) - Number(a.dictionary.id === own))
      .slice(0, MOST_HITS)
      .map(({ dictionary, fault }) => ({
        ...{ dictionary: dictionary.id, model: `${dictionary.maker} ${dictionary.name}`, fault },
        parameters: fault.parameters.map((code) => ({
          code,
          name: findParameter(dictionary, code)?.name ?? '',
        })),
      }));
  }

  /** The same on the other models, then what counts it another way, or holds it among other things. */
  async sameMeaning(id: string, code: string): Promise<readonly SameMeaningView[]> {
    const dictionary = await this.dictionaries.get(id);
    const meaning = findParameter(dictionary, code)?.meaning;
    if (meaning === undefined) throw notFound(`The parameter ${code}`);
    if (meaning === null) return [];
    const others = (await this.dictionaries.newest()).filter(({ model }) => model !== dictionary.model);
    const alike = others.flatMap((other) => this.alike(meaning, other));
    const form = findParameter(dictionary, code)?.form;
    const unit = (each: Parameter['form'] | undefined) => (each?.kind === 'number' ? each.unit : '');
    return alike
      .map((hit) => ({
        countsOtherwise: hit.parameter.meaning !== meaning || unit(hit.parameter.form) !== unit(form),
        hit: view(hit, undefined),
      }))
      .sort((a, b) => Number(a.countsOtherwise) - Number(b.countsOtherwise));
  }

  /** Parameters of another model that say the same in the end, whatever they count in; a bit of a word, too. */
  private alike(meaning: string, dictionary: Dictionary): readonly LookUpHit[] {
    const { bridge, vocabulary } = this.meanings;
    const { of, stated } = bridge.carriersOf(dictionary);
    const carriers = vocabulary
      .canonicalsOf(meaningOf(meaning))
      .flatMap((each) => of.get(each.meaning) ?? []);
    const carrying = carriers.flatMap((carrier) => ('parameter' in carrier ? [carrier.parameter] : []));
    const itself = stated.get(vocabulary.nameOfToday(meaning));
    return [...new Set([...(itself ? [itself] : []), ...carrying])].map((parameter) => ({
      dictionary,
      parameter,
    }));
  }

  /** Built again when a model or a later wording of one has come in, whichever server process took it. */
  private async indexes(): Promise<NonNullable<LookUps['built']>> {
    const all = await this.dictionaries.everyVersion();
    const of = all.map(({ id, revision }) => `${id} ${revision}`).join(' ');
    if (this.built?.of !== of)
      this.built = {
        ...{ of, lookUp: new LookUp(all, this.meanings.vocabulary), faults: new FaultLookUp(all) },
      };
    return this.built;
  }

  private async position(tag: string | undefined): Promise<AtPosition | undefined> {
    if (!tag) return undefined;
    const at = await this.register.unitAt(tag);
    const backup = await this.backups.newest(at.position.id);
    return { at, set: backup ? await this.contents.getIfGood(backup.contentHash) : undefined };
  }
}

/** One hit for each parameter of a model: of the wanted dictionary, else of the newest that has it. */
function oneVersion(hits: readonly LookUpHit[], wanted: string | undefined): readonly LookUpHit[] {
  const kept = new Map<string, LookUpHit>();
  for (const hit of hits) {
    const key = `${hit.dictionary.model} ${hit.parameter.code}`;
    const known = kept.get(key);
    const newer =
      known && known.dictionary.id !== wanted && known.dictionary.version < hit.dictionary.version;
    if (!known || newer || hit.dictionary.id === wanted) kept.set(key, hit);
  }
  return [...kept.values()];
}

function view({ dictionary, parameter }: LookUpHit, position: AtPosition | undefined): LookUpView {
  const own = position?.at.unit.dictionaryId === dictionary.id ? position : undefined;
  const outfit = own?.at.unit ?? firstOutfit(dictionary);
  const facts = factsOf(dictionary, outfit) ?? {};
  const show = (bound: Bound | null): string => {
    const raw = bound ? rawOfBound(parameter, bound, facts) : undefined;
    return raw === undefined ? '' : showRaw(parameter.form, raw);
  };
  const present = own?.set?.readings.get(parameter.code) ?? null;
  const number = parameter.form.kind === 'number';
  return {
    dictionary: dictionary.id,
    model: `${dictionary.maker} ${dictionary.name}`,
    parameter,
    range: number ? `${show(parameter.minimum)} to ${show(parameter.maximum)}` : '',
    default: show(parameter.default),
    present,
    presentText: showReading(parameter, present),
    carrying: [],
  };
}

/** The choices that what was typed asks for, by the maker's words or by those of the trade. */
function carrying({ form }: Parameter, text: string, vocabulary: Vocabulary): readonly number[] {
  const wanted = text.trim().toLowerCase();
  if (form.kind === 'number' || wanted === '') return [];
  const choices: readonly (Option | Bit)[] = form.kind === 'option' ? form.options : form.bits;
  return choices
    .filter((choice) => {
      const meaning = 'meaning' in choice ? (choice.meaning ?? '') : '';
      const says = (choice.says ?? []).flatMap((each) => vocabulary.wordsFor(each.meaning));
      const words = [choice.text, ...vocabulary.wordsForOption(meaning), ...says];
      return words.some((word) => word.toLowerCase() === wanted);
    })
    .map((choice) => ('raw' in choice ? choice.raw : choice.bit));
}

const firstOutfit = ({ ratings, regions }: Dictionary) => ({
  rating: ratings[0]?.id ?? '',
  region: regions[0]?.id ?? '',
});

function showReading({ form }: Parameter, reading: Reading | null): string {
  if (reading === null) return '';
  return typeof reading === 'number' ? showRaw(form, reading) : 'unreadable';
}
