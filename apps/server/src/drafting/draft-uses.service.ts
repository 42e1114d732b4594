// What is made of a draft at a position: a key-in sheet, a write plan, a baseline that waits for its signature, its wiring. The
// draft is kept as it stands first, so that what was made points to what was chosen.

import { Injectable } from '@nestjs/common';
import type { DraftUse as UseKind, SettingsDraftView } from '@drive-keep/api';
import { wiringFromText } from '@drive-keep/core/wiring';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { BaselineDrafts } from '../decisions/baseline-drafts.service.ts';
import { DraftRevisions, type KeptRevision } from '../drafts/draft-revisions.service.ts';
import { DraftUse } from '../drafts/draft-use.entity.ts';
import { KeyInSheets } from '../key-in/key-in-sheets.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { WritePlans } from '../writing/write-plans.service.ts';
import { Drafts, refused, type WorkedOut } from './drafts.service.ts';

export interface WantedUse {
  readonly kind: UseKind;
  readonly tag: string;
  readonly why: string;
  /** Why it is right although checks or the table of the duty say otherwise. */
  readonly accepted: string | null;
}

/** A second click within this time is the same click. */
const SAME_CLICK_S = 10;

@Injectable()
export class DraftUses {
  constructor(
    private readonly dataSource: DataSource,
    private readonly drafts: Drafts,
    private readonly revisions: DraftRevisions,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly sets: ReferencedSets,
    private readonly sheets: KeyInSheets,
    private readonly plans: WritePlans,
    private readonly baselines: BaselineDrafts,
    private readonly wirings: Wirings,
    private readonly logbook: Logbook,
  ) {}

  async make(id: string, wanted: WantedUse, account: Account): Promise<SettingsDraftView> {
    const { kind, tag, why, accepted } = wanted;
    const at = await this.register.unitAt(tag);
    const worked = await this.drafts.work(id);
    await this.requireFits(at, worked);
    requireDecided(worked, accepted);
    const kept = await this.revisions.get(await this.drafts.keep(id, why, account, worked));
    const make = await this.maker(wanted, at, kept, account);
    await this.dataSource.transaction(async (manager) => {
      await manager.query('select pg_advisory_xact_lock(hashtextextended($1, 0))', [
        `draft use ${id} ${kind} ${tag}`,
      ]);
      if (await this.isSameClick(manager, kept.revision.id, wanted, at.position.id, account)) return;
      const madeId = await make(manager);
      await manager.insert(DraftUse, {
        ...{ revisionId: kept.revision.id, kind, positionId: at.position.id, madeId, usedBy: account.person },
      });
      const beside = accepted === null ? '' : ` In spite of what was found: ${accepted}.`;
      const text = `Made ${USES[kind]} of ${kept.title}: ${why}.${beside}`;
      const facts = { draft: id };
      await this.logbook.write({ person: account.person, action: 'draft-used', tag, text, facts }, manager);
    });
    return this.drafts.view(id);
  }

  private async maker(
    { kind, tag, why }: WantedUse,
    at: PositionWithUnit,
    { revision, title }: KeptRevision,
    account: Account,
  ): Promise<(manager: EntityManager) => Promise<string | null>> {
    const target = `drafted:${revision.id}`;
    switch (kind) {
      case 'key-in':
        return this.sheets.prepare(tag, target, undefined, account);
      case 'write-plan':
        return this.plans.prepare(tag, target, undefined, account);
      case 'baseline': {
        const { set } = await this.sets.whole(at, target);
        const told = { reason: `${title}: ${why}`, person: account.person, replacementId: null };
        return (manager) => this.baselines.proposeReplacement(manager, at.position.id, set, told);
      }
      case 'wiring': {
        const wiring = wiringFromText(revision.wiring);
        if (!wiring) throw refused(`${title} has no wires.`);
        const told = { why: `${title}: ${why}`, person: account.person };
        return async (manager) => {
          await this.wirings.saveWithin(manager, at.position, revision.dictionaryId, wiring, told);
          return null;
        };
      }
    }
  }

  /** A set for another model or size is no set for this unit. */
  private async requireFits(
    { position, unit }: PositionWithUnit,
    { draft, sheet }: WorkedOut,
  ): Promise<void> {
    const [own, wanted] = await Promise.all([
      this.dictionaries.get(unit.dictionaryId),
      this.dictionaries.get(draft.dictionaryId),
    ]);
    const title = `The draft "${draft.name}"`;
    if (own.id !== wanted.id)
      throw refused(
        `${title} is for a ${wanted.name}, version ${wanted.version}; a ${own.name}, version ${own.version}, sits at ${position.tag}. Carry the draft over to it.`,
      );
    if (unit.rating !== sheet.rating || unit.region !== draft.region)
      throw refused(
        `${title} is for ${sheet.rating}, ${draft.region}; ${unit.rating}, ${unit.region}, sits at ${position.tag}. Choose that rating, or carry the draft over.`,
      );
  }

  private async isSameClick(
    manager: EntityManager,
    revisionId: string,
    { kind }: WantedUse,
    positionId: string,
    { person }: Account,
  ): Promise<boolean> {
    const [row]: { n: number }[] = await manager.query(
      `select count(*)::int as n from draft_use where revision_id = $1 and kind = $2 and used_by = $3 and position_id = $4
         and used_at > now() - make_interval(secs => ${SAME_CLICK_S})`,
      [revisionId, kind, person, positionId],
    );
    return (row?.n ?? 0) > 0;
  }
}

const USES: Readonly<Record<UseKind, string>> = {
  'key-in': 'a key-in sheet',
  'write-plan': 'a write plan',
  baseline: 'a baseline to be signed',
  wiring: 'the wiring',
};

/** What is not told cannot be set, and what is found to be wrong is said to be right by somebody, or mended. */
function requireDecided({ sheet }: WorkedOut, accepted: string | null): void {
  if (sheet.open > 0) {
    const first =
      sheet.refusals[0] ?? sheet.faults[0]?.text ?? sheet.fields.find(({ open }) => open)?.name ?? '';
    const are = sheet.open === 1 ? 'One thing on the sheet is' : `${sheet.open} things on the sheet are`;
    throw refused(`${are} not told or not possible; the first: ${first.replace(/\.$/, '')}.`);
  }
  const stops = sheet.findings.filter(({ attention }) => attention === 'stop');
  const rows = sheet.table.filter(({ passed }) => !passed);
  if (accepted !== null || stops.length + rows.length === 0) return;
  const first =
    stops[0]?.text ?? `${rows[0]?.act ?? ''}: must ${rows[0]?.must ?? ''}, does ${rows[0]?.does ?? ''}`;
  throw refused(
    `What the checks and the table of the duty find stops: ${stops.length + rows.length}; the first: ${first} Mend it, or say why it is right.`,
  );
}
