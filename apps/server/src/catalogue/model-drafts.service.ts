// Models of the plant's own on their way to be kept: begun from a list, an EDS, a ZIP or another model, completed section by
// section as texts, checked at every change, and at last kept as a version that never changes.

import { Injectable } from '@nestjs/common';
import type { ModelDraftListing, ModelDraftView, ModelTexts } from '@drive-keep/api';
import {
  factsIn,
  gapsOf,
  readModel,
  withFact,
  type Dictionary,
  type ModelFiles,
} from '@drive-keep/core/dictionary';
import { modelSlug } from '@drive-keep/core/formats';
import type { Finding } from '@drive-keep/core/findings';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import type { UploadedFile } from '../file-content/uploaded-file.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { isUuid } from '../storage/uuid.ts';
import { Dictionaries, filesOf } from './dictionaries.service.ts';
import { StoredDictionary } from './dictionary.entity.ts';
import { ModelDraft } from './model-draft.entity.ts';
import { describeImportFault, ModelImport } from './model-import.ts';
import { filesFromZip, isModelZip } from './model-zip.ts';
import { OwnModels, type OwnModelWish } from './own-models.service.ts';

const MOST_FINDINGS = 200;

@Injectable()
export class ModelDrafts {
  constructor(
    private readonly dataSource: DataSource,
    private readonly models: ModelImport,
    private readonly own: OwnModels,
    private readonly dictionaries: Dictionaries,
    private readonly logbook: Logbook,
  ) {}

  async listing(): Promise<readonly ModelDraftListing[]> {
    const drafts = await this.dataSource
      .getRepository(ModelDraft)
      .find({ order: { changedAt: 'DESC' }, select: LISTED });
    return drafts.map(listed);
  }

  async view(id: string): Promise<ModelDraftView> {
    return this.viewOf(await this.load(id));
  }

  /** The dictionary as it stands, for trying it at a unit; a problem where something is wrong with it. */
  async dictionaryOf(id: string): Promise<Dictionary> {
    const read = readModel(filesIn(await this.load(id)));
    if (read.ok) return read.value;
    const findings = read.fault.map(findingView).map(findingLine);
    const detail = `The model is not right yet: ${findings[0] ?? ''} Mend it first.`;
    throw new ProblemException(422, 'model-not-acceptable', detail, findings);
  }

  async fromFile(file: UploadedFile, wish: OwnModelWish, account: Account): Promise<ModelDraftView> {
    if (isModelZip(file.buffer)) return this.begin(filesFromZip(file.buffer), account, file.originalname);
    return this.begin(await this.own.filesFrom(file, wish), account, file.originalname);
  }

  /** A copy under a name of its own, or the next version of a model of the plant's own. */
  async fromDictionary(
    dictionary: string,
    name: { readonly maker: string; readonly name: string } | undefined,
    account: Account,
  ): Promise<ModelDraftView> {
    const stored = await this.dataSource.getRepository(StoredDictionary).findOneBy({ id: dictionary });
    if (!stored) throw notFound(`The dictionary ${dictionary}`);
    const files = await this.dictionaries.files(dictionary);
    if (!name && stored.importedBy === null) throw shipped(stored.model);
    return this.begin(name ? renamed(files, name) : files, account, dictionary);
  }

  async change(id: string, files: ModelTexts, version: number, { person }: Account): Promise<ModelDraftView> {
    const draft = await this.dataSource.transaction(async (manager) => {
      const found = await this.load(id, manager);
      requireSameVersion(found.version, version, found.title);
      return manager.save(
        ModelDraft,
        Object.assign(found, columnsOf(files), { changedBy: person, changedAt: new Date() }),
      );
    });
    return this.viewOf(draft);
  }

  async remove(id: string, { person }: Account): Promise<void> {
    const draft = await this.load(id);
    await this.dataSource.getRepository(ModelDraft).delete({ id });
    const text = `Threw the draft of the model ${draft.title} away.`;
    await this.logbook.write({ person, action: 'model-draft-removed', text });
  }

  /** As the next version of its model. What was kept before stays as it is. */
  async keep(id: string, version: number, { person }: Account): Promise<ModelDraftView> {
    const draft = await this.load(id);
    requireSameVersion(draft.version, version, draft.title);
    const files = await this.numbered(filesIn(draft));
    const read = readModel(files);
    if (!read.ok) {
      const findings = read.fault.map(findingView).map(findingLine);
      const detail = `The model cannot be kept: ${findings[0] ?? ''} Nothing was kept.`;
      throw new ProblemException(422, 'model-not-acceptable', detail, findings);
    }
    const before = await this.newest(read.value.model);
    if (before && before.importedBy === null) throw shipped(before.model);
    const taken = await this.models.take(files, person);
    if (!taken.ok) throw new ProblemException(409, 'model-not-kept', describeImportFault(taken.fault));
    const drafts = this.dataSource.getRepository(ModelDraft);
    const same = await drafts.update({ id, version }, { ...columnsOf(files), keptAs: taken.value });
    // Somebody has gone on with it meanwhile: what they typed stays.
    if (same.affected === 0) await drafts.update({ id }, { keptAs: taken.value });
    const text = `Kept the model ${read.value.maker} ${read.value.name} as ${taken.value}, with ${read.value.parameters.length} parameters.`;
    await this.logbook.write({ person, action: 'model-imported', text, facts: { dictionary: taken.value } });
    return this.view(id);
  }

  private async begin(files: ModelFiles, { person }: Account, from: string): Promise<ModelDraftView> {
    const drafts = this.dataSource.getRepository(ModelDraft);
    const draft = await drafts.save(
      drafts.create({
        ...columnsOf(files),
        ...{ madeBy: person, changedBy: person, changedAt: new Date(), keptAs: null },
      }),
    );
    const text = `Began the draft of a model, ${draft.title}, from ${from}.`;
    await this.logbook.write({ person, action: 'model-draft-begun', text });
    return this.viewOf(draft);
  }

  private async load(id: string, manager = this.dataSource.manager): Promise<ModelDraft> {
    const draft = isUuid(id) ? await manager.findOneBy(ModelDraft, { id }) : null;
    if (!draft) throw notFound('This draft of a model');
    return draft;
  }

  /** With the version number that comes next for its model; the same content as the newest keeps that one's. */
  private async numbered(files: ModelFiles): Promise<ModelFiles> {
    const facts = factsIn(files.model) as { model?: unknown; version?: unknown } | undefined;
    const newest = typeof facts?.model === 'string' ? await this.newest(facts.model) : null;
    const as = (version: number) => ({
      ...files,
      model:
        facts?.version === version
          ? files.model
          : (withFact(files.model, ['version'], version) ?? files.model),
    });
    if (!newest) return as(1);
    const same = as(newest.version);
    const kept = filesOf(newest);
    const isSame =
      same.model === kept.model &&
      same.parameters === kept.parameters &&
      (same.terminals ?? null) === (kept.terminals ?? null) &&
      (same.faults ?? null) === (kept.faults ?? null);
    return isSame ? same : as(newest.version + 1);
  }

  private newest(model: string): Promise<StoredDictionary | null> {
    return this.dataSource
      .getRepository(StoredDictionary)
      .findOne({ where: { model }, order: { version: 'DESC' } });
  }

  private async viewOf(draft: ModelDraft): Promise<ModelDraftView> {
    const files = await this.numbered(filesIn(draft));
    const read = readModel(files);
    const findings: readonly Finding[] = read.ok ? [] : read.fault;
    const { model = '', version = '' } = (factsIn(files.model) ?? {}) as { model?: string; version?: number };
    return {
      ...listed(draft),
      version: draft.version,
      files: {
        model: draft.modelFile,
        parameters: draft.parametersFile,
        terminals: draft.terminalsFile,
        faults: draft.faultsFile,
      },
      dictionary: `${model}@${version}`,
      findings: findings
        .slice(0, MOST_FINDINGS)
        .map((each) => ({ ...findingView(each), file: each.file ?? 'model.yaml' })),
      gaps: read.ok ? gapsOf(read.value).map(findingView) : [],
    };
  }
}

const LISTED = { id: true, title: true, changedBy: true, changedAt: true, keptAs: true } as const;

const listed = ({ id, title, changedBy, changedAt, keptAs }: ModelDraft): ModelDraftListing => ({
  ...{ id, title, changedBy, keptAs },
  changedAt: changedAt.toISOString(),
});

const filesIn = (draft: ModelDraft): ModelFiles => ({
  model: draft.modelFile,
  parameters: draft.parametersFile,
  terminals: draft.terminalsFile,
  faults: draft.faultsFile,
});

function columnsOf({ model, parameters, terminals, faults }: ModelFiles) {
  const facts = factsIn(model) as { maker?: unknown; name?: unknown } | undefined;
  const title = [facts?.maker, facts?.name]
    .filter((each) => typeof each === 'string' && each !== '')
    .join(' ');
  return {
    title: title === '' ? 'Model without a name' : title.slice(0, 120),
    modelFile: model,
    parametersFile: parameters,
    terminalsFile: textOf(terminals),
    faultsFile: textOf(faults),
  };
}

const textOf = (file: string | null | undefined): string | null =>
  (file ?? '').trim() === '' ? null : (file ?? null);

function renamed(
  files: ModelFiles,
  { maker, name }: { readonly maker: string; readonly name: string },
): ModelFiles {
  const facts: readonly (readonly [string, string | number])[] = [
    ['model', modelSlug(maker, name)],
    ['version', 1],
    ['maker', maker],
    ['name', name],
  ];
  const model = facts.reduce((text, [key, value]) => withFact(text, [key], value) ?? text, files.model);
  return { ...files, model };
}

const shipped = (model: string): ProblemException =>
  new ProblemException(
    409,
    'model-shipped',
    `${model} is a shipped model and stays as it is. Give yours a maker and a name of its own. Nothing was kept.`,
  );
