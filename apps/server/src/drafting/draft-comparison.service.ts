// A draft beside anything else: defaults, another draft, or any set of a position; by what the parameters mean, so that it may be
// of another model.

import { Injectable } from '@nestjs/common';
import type { AcrossView } from '@drive-keep/api';
import { defaultSet } from '@drive-keep/core/sets';
import { Across, type AcrossNamed } from '../compare/across.service.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { DraftRevisions } from '../drafts/draft-revisions.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { DraftSheets } from './draft-sheets.service.ts';
import { DraftViews } from './draft-views.service.ts';
import { Drafts, refused } from './drafts.service.ts';

@Injectable()
export class DraftComparison {
  constructor(
    private readonly drafts: Drafts,
    private readonly views: DraftViews,
    private readonly sheets: DraftSheets,
    private readonly revisions: DraftRevisions,
    private readonly contents: ContentStore,
    private readonly dictionaries: Dictionaries,
    private readonly across: Across,
  ) {}

  /** `with`: `delivered`, `draft:ID`, `revision:ID`, or `TAG:REFERENCE`. */
  async of(id: string, other: string): Promise<AcrossView> {
    const [left, right] = await Promise.all([this.draft(id), this.other(id, other)]);
    return this.across.between(right, left);
  }

  private async other(id: string, other: string): Promise<AcrossNamed> {
    const [kind = '', ...rest] = other.split(':');
    const name = rest.join(':');
    if (other === 'delivered') return this.delivered(id);
    if (kind === 'draft') return this.draft(name);
    if (kind === 'revision') return this.revision(name);
    if (name === '') throw refused(`"${other}" names nothing to compare with.`);
    return this.across.named({ tag: kind, reference: name });
  }

  private async draft(id: string): Promise<AcrossNamed> {
    const draft = await this.drafts.load(id);
    const { sheet, set } = await this.sheets.of(draft, await this.views.fields(id));
    const dictionary = await this.dictionaries.get(draft.dictionaryId);
    const outfit = { rating: sheet.rating, region: draft.region };
    return this.across.aside(
      { dictionary, set, outfit },
      { tag: draft.name, duty: sheet.rating, title: 'Draft as it stands' },
    );
  }

  private async revision(id: string): Promise<AcrossNamed> {
    const { revision, record, title } = await this.revisions.get(id);
    const dictionary = await this.dictionaries.get(revision.dictionaryId);
    const set = await this.contents.get(revision.contentHash);
    const outfit = { rating: revision.rating, region: revision.region };
    return this.across.aside({ dictionary, set, outfit }, { tag: record.name, duty: revision.rating, title });
  }

  private async delivered(id: string): Promise<AcrossNamed> {
    const draft = await this.drafts.load(id);
    const { sheet } = await this.sheets.of(draft, await this.views.fields(id));
    const dictionary = await this.dictionaries.get(draft.dictionaryId);
    const outfit = { rating: sheet.rating, region: draft.region };
    const set = defaultSet(dictionary, outfit);
    if (!set) throw refused(`${dictionary.name} has no rating ${outfit.rating}.`);
    return this.across.aside(
      { dictionary, set, outfit },
      { tag: 'As delivered', duty: outfit.rating, title: 'Defaults' },
    );
  }
}
