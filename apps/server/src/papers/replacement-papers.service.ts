// Papers of a replacement: its record, and the wire sheet for the cabinet. Of a closed one they say what was kept.

import { Injectable } from '@nestjs/common';
import type { ReplacementRecord } from '@drive-keep/api';
import { openOf } from '@drive-keep/core/replace';
import type { Account } from '../access/account.entity.ts';
import { ReplacementSheets } from '../replacing/replacement-sheets.service.ts';
import { Replacements } from '../replacing/replacements.service.ts';
import type { PaperFormat } from './paper-file.ts';
import { paperTime } from './paper-time.ts';
import type { Paper } from './paper.ts';
import { Papers, type WrittenPaper } from './papers.service.ts';
import {
  REPLACEMENT_COLUMNS,
  replacementParts,
  replacementSignatures,
  WIRE_SHEET_COLUMNS,
  wireSheetParts,
} from './replacement-record.ts';

@Injectable()
export class ReplacementPapers {
  constructor(
    private readonly papers: Papers,
    private readonly replacements: Replacements,
    private readonly sheets: ReplacementSheets,
  ) {}

  async record(id: string, format: PaperFormat, account: Account): Promise<WrittenPaper> {
    const told = await this.told(id);
    const { sheet, view } = told;
    const paper: Paper = {
      ...(await this.head(told, account)),
      title: 'Replacement record',
      columns: REPLACEMENT_COLUMNS,
      facts: this.facts(told),
      parts: replacementParts(sheet, view),
      nothing: 'The sheet has no line.',
      signatures: replacementSignatures(sheet, view),
    };
    return this.papers.leave(paper, `${view.tag}_replacement`, view.tag, format, account);
  }

  async wires(id: string, format: PaperFormat, account: Account): Promise<WrittenPaper> {
    const told = await this.told(id);
    const { sheet, view } = told;
    const paper: Paper = {
      ...(await this.head(told, account)),
      title: 'Wire sheet',
      columns: WIRE_SHEET_COLUMNS,
      facts: this.facts(told).slice(0, 3),
      parts: wireSheetParts(sheet, view),
      nothing: 'The sheet has no line.',
      signatures: [{ what: 'Wired and checked', by: '', at: '' }],
    };
    return this.papers.leave(paper, `${view.tag}_wires`, view.tag, format, account);
  }

  private async told(id: string): Promise<ReplacementRecord & { readonly ended: string }> {
    const view = await this.replacements.view(id);
    const { state, ended } = view;
    const text = ended ? `${paperTime(new Date(ended.at))} by ${ended.by}: ${ended.why}` : '';
    if (state === 'closed') return { ...(await this.replacements.record(id)), ended: `closed ${text}` };
    const sheet = await this.sheets.of(await this.replacements.load(id));
    return { sheet, view, ended: ended ? `given up ${text}` : `${openOf(sheet.open)} things are open` };
  }

  private async head({ view }: ReplacementRecord, { person }: Account) {
    return {
      about: `${view.tag}, ${view.duty}`,
      plant: await this.papers.plantName(),
      printed: `${paperTime(new Date())} by ${person}`,
    };
  }

  private facts({ view, sheet, ended }: ReplacementRecord & { readonly ended: string }): Paper['facts'] {
    const { old, source, cross, doing, fresh } = view;
    const at = (time: string | null) => (time === null ? '' : `, ${paperTime(new Date(time))}`);
    const came = doing.swap
      ? `${doing.swap.model} ${doing.swap.rating}, serial ${doing.swap.serial}, firmware ${doing.swap.firmware}; in ${paperTime(new Date(doing.swap.at))} by ${doing.swap.by}`
      : `${fresh.dictionary} ${sheet.rating}, ${fresh.region}; not in yet`;
    return [
      ['Position', `${view.tag}, ${view.duty}`],
      [
        'Old unit',
        `${old.model} ${old.rating}, ${old.region}, serial ${old.serial}, firmware ${old.firmware}`,
      ],
      ['New unit', came],
      ['Begun', `${paperTime(new Date(view.startedAt))} by ${view.startedBy}: ${view.why}`],
      ['State', ended],
      ['Old values', `${source.title}${at(source.at)}`],
      ['Wiring', view.wiringRevision === 0 ? 'none kept' : `revision ${view.wiringRevision}`],
      [
        'Cross-reference',
        cross.text === null
          ? 'none: by the bridge alone'
          : cross.revision === 0
            ? 'of the catalogue'
            : `revision ${cross.revision} of the plant`,
      ],
      ['Same behaviour', sheet.behaviour.summary],
      [
        'Read back',
        doing.readBack
          ? `${paperTime(new Date(doing.readBack.at))}: ${doing.readBack.codes.length === 0 ? 'as the sheet promises' : `differs at ${doing.readBack.codes.join(', ')}`}`
          : 'not yet',
      ],
    ];
  }
}
