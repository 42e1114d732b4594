// Drafts leave and come in as files: a draft whole, with all that was typed, to go on with elsewhere; a kept revision as a set, in
// the formats of every set; and a set from a file as the beginning of a draft.

import { Injectable } from '@nestjs/common';
import type { FindingView, SettingsDraftView } from '@drive-keep/api';
import { hasStop } from '@drive-keep/core/findings';
import type { SetFileKind } from '@drive-keep/core/formats';
import type { Code } from '@drive-keep/core/dictionary';
import { isReading } from '@drive-keep/core/sets';
import type { Reading } from '@drive-keep/core/values';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { StartingPoints } from '../catalogue/starting-points.service.ts';
import { DraftRevisions } from '../drafts/draft-revisions.service.ts';
import { contentOf, type UploadedFile } from '../file-content/uploaded-file.ts';
import { SetExport, type WrittenFile } from '../files/set-export.service.ts';
import { SetImport } from '../files/set-import.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { ProblemException } from '../problems/problem.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Drafts, type BaseSet } from './drafts.service.ts';
import { isFieldKey, LONGEST_TEXT, MOST_FIELDS } from './field-key.ts';

/** Name in the head of the file; another one is a set, or nothing. */
const FORMAT = 'drive-keep/draft';
/** Goes up when older readers would read the file wrongly. */
const VERSION = 1;
const MOST_TOLD = 20;

export interface BroughtDraft {
  readonly draft: SettingsDraftView;
  /** What somebody should know of the file. */
  readonly findings: readonly FindingView[];
}

export interface FileTarget {
  readonly name: string;
  readonly tag: string | null;
  readonly dictionary: string;
  readonly region: string;
  readonly rating: string | null;
}

interface DraftFile {
  readonly name: string;
  readonly dictionary: string;
  readonly region: string;
  readonly rating: string | null;
  readonly point: { readonly id: string; readonly text: string } | null;
  readonly base:
    (Omit<BaseSet, 'set'> & { readonly dictionary: string; readonly readings: [Code, Reading][] }) | null;
  readonly fields: readonly { readonly key: string; readonly text: string; readonly why: string }[];
}

@Injectable()
export class DraftFiles {
  constructor(
    private readonly drafts: Drafts,
    private readonly revisions: DraftRevisions,
    private readonly contents: ContentStore,
    private readonly dictionaries: Dictionaries,
    private readonly points: StartingPoints,
    private readonly exports: SetExport,
    private readonly imports: SetImport,
  ) {}

  async whole(id: string): Promise<WrittenFile> {
    const { name, dictionary, region, rating, point, base, fields } = await this.drafts.view(id);
    const document = {
      ...{ format: FORMAT, version: VERSION, name, dictionary, region, rating },
      point: point && { id: point.id, text: point.text },
      base,
      fields: fields.filter(({ text }) => text !== '').map(({ key, text, why }) => ({ key, text, why })),
    };
    const content = `${JSON.stringify(document, null, 1)}\n`;
    return { name: `${fileName(name)}.draft.json`, type: 'application/json; charset=utf-8', content };
  }

  async revision(id: string, format: SetFileKind, account: Account): Promise<WrittenFile> {
    const { revision, record, title } = await this.revisions.get(id);
    const set = await this.contents.get(revision.contentHash);
    const origin = {
      ...{ rating: revision.rating, region: revision.region, takenAt: revision.keptAt.toISOString() },
      ...{ takenBy: revision.keptBy, how: 'draft', reason: `${title}: ${revision.why}` },
    };
    const name = `${fileName(record.name)}_${revision.revision}`;
    return this.exports.writeSet(set, revision, origin, format, { name, what: title }, account);
  }

  /** Nothing is kept of a file that is not understood whole. */
  async bring(file: UploadedFile, target: FileTarget, account: Account): Promise<BroughtDraft> {
    const content = await contentOf(file);
    const own = content.kind === 'text' ? draftIn(content.text) : undefined;
    if (own) return { draft: await this.bringDraft(own, target, account), findings: [] };
    const dictionary = await this.dictionaries.get(target.dictionary);
    const rating = target.rating ?? dictionary.ratings[0]?.id ?? '';
    const { read } = await this.imports.readFor(dictionary, { rating, region: target.region }, file);
    if (hasStop(read.findings) || read.set.readings.size === 0) {
      const told = read.findings.slice(0, MOST_TOLD).map((each) => findingLine(findingView(each)));
      const first = told[0] ?? 'It holds no value.';
      throw new ProblemException(
        422,
        'file-not-acceptable',
        `The file cannot be a draft of a ${dictionary.name}: ${first} Nothing was kept.`,
        told,
      );
    }
    const base: BaseSet = {
      ...{ title: file.originalname, set: read.set, rating, region: target.region, wiring: '' },
    };
    const draft = await this.drafts.beginWith({ ...target, base }, account);
    return { draft, findings: read.findings.map(findingView) };
  }

  private async bringDraft(
    own: DraftFile,
    { name, tag }: FileTarget,
    account: Account,
  ): Promise<SettingsDraftView> {
    const outfit = { dictionary: own.dictionary, region: own.region, rating: own.rating };
    const head = { ...outfit, name: name === '' ? own.name : name, tag };
    if (own.point) this.points.read(own.point.text);
    const made = own.base
      ? await this.drafts.beginWith(
          {
            ...head,
            base: {
              ...own.base,
              set: { dictionary: own.base.dictionary as never, readings: new Map(own.base.readings) },
            },
          },
          account,
        )
      : await this.drafts.begin(
          { ...head, begins: own.point ? { kind: 'file', ...own.point } : { kind: 'delivered' } },
          account,
        );
    if (own.fields.length === 0) return made;
    return this.drafts.type(
      made.id,
      own.fields.map((field) => ({ ...field, seen: null })),
      account,
    );
  }
}

const fileName = (name: string): string =>
  name
    .trim()
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .slice(0, 60) || 'draft';

/** Nothing where the text is no draft file; a draft file with faults is refused. */
function draftIn(text: string): DraftFile | undefined {
  let found: unknown;
  try {
    found = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    return undefined;
  }
  if (typeof found !== 'object' || found === null || !('format' in found) || found.format !== FORMAT)
    return undefined;
  const file = found as Record<string, unknown>;
  if (file['version'] !== VERSION) throw odd('is of another version');
  const texts = ['name', 'dictionary', 'region'].every((key) => typeof file[key] === 'string');
  const rating = file['rating'] === null || typeof file['rating'] === 'string';
  const fields =
    Array.isArray(file['fields']) && file['fields'].length <= MOST_FIELDS && file['fields'].every(isField);
  if (!texts || !rating || !fields)
    throw odd('is damaged: name, model, region, rating or fields are not as they were written');
  if (file['point'] !== null && !isPoint(file['point']))
    throw odd('is damaged: its starting point is not as it was written');
  if (file['base'] !== null && !isBase(file['base']))
    throw odd('is damaged: the set that it begins with is not as it was written');
  return file as unknown as DraftFile;
}

const isText = (value: unknown): value is string => typeof value === 'string' && value.length <= 400_000;

function isField(value: unknown): boolean {
  if (typeof value !== 'object' || value === null) return false;
  const { key, text, why } = value as Record<string, unknown>;
  const short = (each: unknown) => typeof each === 'string' && each.length <= LONGEST_TEXT;
  return typeof key === 'string' && isFieldKey(key) && short(text) && short(why);
}

const isPoint = (value: unknown): boolean =>
  typeof value === 'object' &&
  value !== null &&
  'id' in value &&
  isText(value.id) &&
  'text' in value &&
  isText(value.text);

function isBase(value: unknown): boolean {
  if (typeof value !== 'object' || value === null) return false;
  const { title, dictionary, rating, region, wiring, readings } = value as Record<string, unknown>;
  const pair = (each: unknown) =>
    Array.isArray(each) && each.length === 2 && typeof each[0] === 'string' && isReading(each[1]);
  return (
    [title, dictionary, rating, region, wiring].every(isText) &&
    Array.isArray(readings) &&
    readings.every(pair)
  );
}

const odd = (what: string): ProblemException =>
  new ProblemException(422, 'draft-file', `This draft file ${what}. Bring it as it left. Nothing was kept.`);
