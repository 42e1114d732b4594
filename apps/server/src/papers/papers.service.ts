// Papers of a position: what a set holds, and what a comparison found. Making one is in the logbook, as it leaves.

import { Injectable } from '@nestjs/common';
import type { ChecksView } from '@drive-keep/api';
import { compareSets } from '@drive-keep/core/compare';
import { factsOf, type Dictionary } from '@drive-keep/core/dictionary';
import type { Effects } from '@drive-keep/core/behaviour';
import { NO_WIRING, type Wiring } from '@drive-keep/core/wiring';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Meanings } from '../catalogue/meanings.service.ts';
import { Checks } from '../checks/checks.service.ts';
import { ReferencedSets, untoldOf, type ReferencedSet } from '../compare/referenced-sets.service.ts';
import { Decisions } from '../decisions/decisions.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { KeyInSheets } from '../key-in/key-in-sheets.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Plant } from '../plant/plant.entity.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { History } from '../sets/history.service.ts';
import { COMPARISON_COLUMNS, comparisonParts } from './comparison-record.ts';
import { KEY_IN_COLUMNS, keyInParts } from './key-in-record.ts';
import { effectsFor, effectsText } from './paper-effects.ts';
import { writePaper, type PaperFormat } from './paper-file.ts';
import type { Paper, PaperSignature } from './paper.ts';
import { paperTime } from './paper-time.ts';
import { Site } from '../register/site.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { checkParts, checksText } from './check-parts.ts';
import { SETTINGS_COLUMNS, settingsParts } from './settings-record.ts';
import { wiringParts } from './wiring-parts.ts';

export interface WrittenPaper {
  readonly name: string;
  readonly content: string | Uint8Array;
}

@Injectable()
export class Papers {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly dictionaries: Dictionaries,
    private readonly decisions: Decisions,
    private readonly history: History,
    private readonly sheets: KeyInSheets,
    private readonly logbook: Logbook,
    private readonly wirings: Wirings,
    private readonly site: Site,
    private readonly meanings: Meanings,
    private readonly checks: Checks,
  ) {}

  async settings(
    tag: string,
    reference: string,
    format: PaperFormat,
    account: Account,
  ): Promise<WrittenPaper> {
    const at = await this.register.unitAt(tag);
    const found = await this.sets.get(at, reference);
    const dictionary = await this.dictionaries.get(found.set.dictionary);
    const wiring = await this.wiringOrDamaged(at.position.id, tag);
    const checks = await this.checksOrWhy(tag, reference);
    const paper: Paper = {
      ...(await this.head(at, dictionary, account)),
      title: 'Settings record',
      columns: SETTINGS_COLUMNS,
      facts: [
        ...this.unitFacts(at, dictionary),
        ...(await this.siteFacts(tag)),
        ...sideFacts('Set', found),
        ...(wiring ? ([['Field wiring', wiring.text]] as const) : []),
        ['Checks', checks.text],
      ],
      parts: [
        ...(checks.view ? checkParts(checks.view) : []),
        ...settingsParts(dictionary, factsOf(dictionary, at.unit) ?? {}, found.set),
        ...(wiring?.wiring ? wiringParts(wiring.wiring) : []),
      ],
      nothing: 'The set holds nothing.',
      signatures: [...(await this.signed(at, reference)), toSign('Checked at the drive')],
    };
    return this.leave(paper, `${tag}_settings`, tag, format, account);
  }

  /** A set that cannot be checked is printed all the same, with the reason. */
  private async checksOrWhy(
    tag: string,
    reference: string,
  ): Promise<{ readonly text: string; readonly view?: ChecksView }> {
    try {
      const view = await this.checks.of(tag, reference);
      return { text: checksText(view), view };
    } catch (error) {
      if (error instanceof ProblemException) return { text: `not made: ${error.message}` };
      throw error;
    }
  }

  /** A damaged wiring is said on the paper; the settings beside it are still worth having. */
  private async wiringOrDamaged(
    positionId: string,
    tag: string,
  ): Promise<{ readonly text: string; readonly wiring?: Wiring } | undefined> {
    try {
      const kept = await this.wirings.newest(positionId, tag);
      if (!kept) return undefined;
      const { revision, savedAt, savedBy, why, wiring } = kept;
      return { text: `revision ${revision}, ${paperTime(new Date(savedAt))}, ${savedBy}: ${why}`, wiring };
    } catch (error) {
      if (error instanceof ProblemException && error.problem.type === 'urn:drive-keep:wiring-damaged')
        return { text: error.message };
      throw error;
    }
  }

  async comparison(
    tag: string,
    references: { readonly a: string; readonly b: string },
    format: PaperFormat,
    account: Account,
  ): Promise<WrittenPaper> {
    const at = await this.register.unitAt(tag);
    const [a, b] = await Promise.all([this.sets.get(at, references.a), this.sets.get(at, references.b)]);
    if (a.set.dictionary !== b.set.dictionary) {
      const detail = `A is a set of ${a.set.dictionary}, B one of ${b.set.dictionary}; they have no parameters in common.`;
      throw new ProblemException(422, 'different-models', detail);
    }
    const dictionary = await this.dictionaries.get(a.set.dictionary);
    const { rows, same, tolerated, leftOut } = compareSets(dictionary, a.set, b.set, {
      ...{ noise: false, untold: untoldOf(a, b) },
    });
    const effects = await this.effects(at, dictionary, a, b);
    // Decisions are about the baseline and what the unit holds now; of other sets they say nothing.
    const aboutNow = references.a === 'baseline' && references.b === 'newest';
    const decided = aboutNow ? await this.decisions.view(tag, account) : { inForce: [], open: [] };
    const origins = aboutNow ? await this.history.origins(at.position.id) : [];
    const paper: Paper = {
      ...(await this.head(at, dictionary, account)),
      title: 'Comparison record',
      columns: COMPARISON_COLUMNS,
      facts: [
        ...this.unitFacts(at, dictionary),
        ...sideFacts('A', a),
        ...sideFacts('B', b),
        [
          'Found',
          `${rows.length} different, ${same} same, ${tolerated} measured values within tolerance, ${leftOut} monitors and counters left out`,
        ],
        ...(effects ? [['What they do', effectsText(effects.told)] as const] : []),
      ],
      parts: comparisonParts(dictionary, {
        rows,
        decisions: new Map([...decided.inForce, ...decided.open].map((each) => [each.code, each])),
        origins: new Map(origins.map((origin) => [origin.code, origin])),
        does: effects?.told?.byCode ?? {},
      }),
      nothing: 'No differences: B holds what A holds.',
      signatures: [
        ...(await this.signed(at, references.a)),
        toSign('Decided'),
        toSign('Seen by the engineer'),
      ],
    };
    return this.leave(paper, `${tag}_comparison`, tag, format, account);
  }

  /** What the differences do with the field wiring of now; nothing where that is not the model's, or cannot be read. */
  private async effects(
    { position, unit }: PositionWithUnit,
    dictionary: Dictionary,
    a: ReferencedSet,
    b: ReferencedSet,
  ): Promise<{ readonly told: Effects | undefined } | undefined> {
    if (dictionary.id !== unit.dictionaryId || a.side.hash === b.side.hash) return undefined;
    const kept = await this.wiringOrDamaged(position.id, position.tag);
    if (kept && !kept.wiring) return undefined;
    const wiring = kept?.wiring ?? NO_WIRING;
    const outfit = { rating: unit.rating, region: unit.region };
    // What one side does not tell is as on the other.
    const over = (one: ReferencedSet, other: ReferencedSet) =>
      one.untold.size > 0 ? new Map([...other.set.readings, ...one.set.readings]) : one.set.readings;
    const changed = { dictionary, outfit, wiring, before: over(a, b), after: over(b, a) };
    return { told: await effectsFor(this.meanings.vocabulary, changed) };
  }

  /** What the position hangs on, as far as it was said. */
  private async siteFacts(tag: string): Promise<Paper['facts']> {
    const { supply, cabinet } = await this.site.of(tag);
    const [newest] = supply?.measurements ?? [];
    const measured = newest ? `${newest.volts.toFixed(1)} V measured` : 'not measured';
    return [
      ...(supply
        ? [['Supply', `${supply.name}, ${supply.nominalVolts} V nominal, ${measured}`] as const]
        : []),
      ...(cabinet
        ? [
            [
              'Cabinet',
              `${cabinet.name}, ${cabinet.ambient === null ? 'temperature not told' : `up to ${cabinet.ambient} °C`}`,
            ] as const,
          ]
        : []),
    ];
  }

  /** A key-in sheet, to be taken to the cabinet on paper. */
  async keyIn(tag: string, id: string, format: PaperFormat, account: Account): Promise<WrittenPaper> {
    const at = await this.register.unitAt(tag);
    const sheet = await this.sheets.view(id);
    if (sheet.tag !== tag) throw notFound('This key-in sheet');
    const dictionary = await this.dictionaries.get(sheet.dictionary);
    const paper: Paper = {
      ...(await this.head(at, dictionary, account)),
      title: 'Key-in sheet',
      columns: KEY_IN_COLUMNS,
      facts: [
        ['Position', `${tag}, ${sheet.duty}`],
        ['Unit', `${sheet.model} ${sheet.rating}, serial ${sheet.serial}: compare it with the plate first`],
        ['Towards', sheet.target],
        ['Made', `${paperTime(new Date(sheet.madeAt))} by ${sheet.madeBy}`],
        ['Keys', `${sheet.presses} in this order, ${sheet.plainPresses} in the order of the plan`],
      ],
      parts: keyInParts(dictionary, sheet),
      nothing: 'Nothing to key in: the unit holds all of it by its newest backup.',
      signatures: [toSign('Keyed in at the drive')],
    };
    return this.leave(paper, `${tag}_key-in`, tag, format, account);
  }

  async plantName(): Promise<string> {
    return (await this.dataSource.getRepository(Plant).findOneBy({ id: true }))?.name ?? '';
  }

  private async head({ position }: PositionWithUnit, { maker, name }: Dictionary, { person }: Account) {
    return {
      about: `${position.tag}, ${position.duty} (${maker} ${name})`,
      plant: await this.plantName(),
      printed: `${paperTime(new Date())} by ${person}`,
    };
  }

  private unitFacts({ position, unit }: PositionWithUnit, dictionary: Dictionary): Paper['facts'] {
    const region = dictionary.regions.find(({ id }) => id === unit.region)?.name ?? unit.region;
    const rating = dictionary.ratings.find(({ id }) => id === unit.rating)?.name ?? '';
    return [
      ['Position', `${position.tag}, ${position.duty}`],
      ['Motor', position.motor || 'not told'],
      [
        'Unit',
        `${dictionary.maker} ${dictionary.name} ${unit.rating} (${rating}), ${region}, serial ${unit.serial}, firmware ${unit.firmware}`,
      ],
      ['Dictionary', dictionary.id],
    ];
  }

  private async signed(
    { position }: PositionWithUnit,
    reference: string,
  ): Promise<readonly PaperSignature[]> {
    if (!reference.startsWith('baseline')) return [];
    const all = await this.history.baselines(position.id);
    const wanted = reference.split(':')[1];
    const baseline = wanted ? all.find(({ revision }) => String(revision) === wanted) : all.at(-1);
    if (!baseline) return [];
    const what = `Baseline, revision ${baseline.revision}: ${baseline.reason}`;
    return [{ what, by: baseline.signedBy, at: paperTime(baseline.signedAt) }];
  }

  /** As it leaves, it is in the logbook. */
  async leave(
    paper: Paper,
    stem: string,
    tag: string | null,
    format: PaperFormat,
    { person }: Account,
  ): Promise<WrittenPaper> {
    const content = await writePaper(paper, format);
    const text = `Made a paper: ${paper.title} as ${format.toUpperCase()}.`;
    await this.logbook.write({ person, action: 'paper', ...(tag === null ? {} : { tag }), text });
    return { name: `${stem}.${format}`, content };
  }
}

const toSign = (what: string): PaperSignature => ({ what, by: '', at: '' });

const sideFacts = (letter: string, { side }: ReferencedSet): Paper['facts'] => [
  [letter, side.at ? `${side.title}, ${paperTime(new Date(side.at))}` : side.title],
  [`${letter}, content`, side.hash],
];
