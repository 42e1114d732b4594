// What the parameters of a draft may mean: by the words of the trade, and by what the models of this plant call things.

import { meaningOf } from '@drive-keep/core/values';
import { Injectable } from '@nestjs/common';
import type { MeaningProposalView } from '@drive-keep/api';
import { findParameter } from '@drive-keep/core/dictionary';
import { MeaningProposer } from '@drive-keep/core/meanings';
import { Dictionaries } from './dictionaries.service.ts';
import { Meanings } from './meanings.service.ts';
import { ModelDrafts } from './model-drafts.service.ts';

@Injectable()
export class MeaningProposals {
  constructor(
    private readonly drafts: ModelDrafts,
    private readonly dictionaries: Dictionaries,
    private readonly meanings: Meanings,
  ) {}

  /** Made anew each time: models come in, and a draft is seldom asked about. */
  async of(id: string): Promise<readonly MeaningProposalView[]> {
    const dictionary = await this.drafts.dictionaryOf(id);
    const { vocabulary } = this.meanings;
    const proposer = new MeaningProposer(vocabulary, await this.dictionaries.newest());
    return proposer.propose(dictionary).map((proposal) => {
      const entry = vocabulary.of(meaningOf(proposal.meaning));
      return {
        ...proposal,
        name: findParameter(dictionary, proposal.code)?.name ?? '',
        term: entry?.term ?? proposal.meaning,
        is: entry?.is ?? '',
      };
    });
  }
}
