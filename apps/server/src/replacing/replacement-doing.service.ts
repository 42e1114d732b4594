// A replacement carried out: the new unit comes in with its wires, is reset and written or keyed in, read back, its baseline
// proposed, and the sheet closed. Until then all of it can be taken back. Each step is one transaction, so that whatever breaks
// leaves the step done or not begun; what the unit holds is never assumed.

import { Injectable } from '@nestjs/common';
import type { ReplacementView } from '@drive-keep/api';
import { openOf, type ReplacementSheet } from '@drive-keep/core/replace';
import { hashOf } from '@drive-keep/core/sets';
import { DataSource, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { factsOfUnit, RegisterChanges } from '../changes/register-changes.service.ts';
import { BaselineDrafts } from '../decisions/baseline-drafts.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { Baselines } from '../sets/baselines.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { ResetPlans } from '../writing/reset-plans.service.ts';
import { promiseOf, ReplacementGround } from './replacement-ground.service.ts';
import { ReplacementSheets } from './replacement-sheets.service.ts';
import { ReplacementViews } from './replacement-views.service.ts';
import { Replacement } from './replacement.entity.ts';
import { recordOf, refused, Replacements } from './replacements.service.ts';

export interface NewUnit {
  readonly serial: number;
  readonly firmware: string;
  readonly line?: string | undefined;
  readonly lineAddress?: number | undefined;
}

@Injectable()
export class ReplacementDoing {
  constructor(
    private readonly dataSource: DataSource,
    private readonly replacements: Replacements,
    private readonly ground: ReplacementGround,
    private readonly sheets: ReplacementSheets,
    private readonly views: ReplacementViews,
    private readonly changes: RegisterChanges,
    private readonly wirings: Wirings,
    private readonly backups: Backups,
    private readonly baselines: Baselines,
    private readonly contents: ContentStore,
    private readonly plans: ResetPlans,
    private readonly drafts: BaselineDrafts,
    private readonly logbook: Logbook,
  ) {}

  /** The new unit sits at the position from now on, with the wires as the sheet moves them. */
  async swap(id: string, fresh: NewUnit, version: number, account: Account): Promise<ReplacementView> {
    const { position } = await this.replacements.load(id);
    const { tag } = position;
    const sheet = await this.sheet(id);
    if (sheet.open.wires > 0)
      throw refused(
        `${sheet.open.wires} things about the wires of ${tag} are not decided. Decide them before a hand goes in.`,
      );
    await this.changes.change(async (manager) => {
      const replacement = await this.open(manager, id, version);
      if (replacement.newUnit) throw refused(`The new unit sits at ${tag} already.`);
      const ground = await this.ground.of(replacement, manager);
      const { rating, computed } = promiseOf(ground, replacement);
      const facts = { ...fresh, dictionary: ground.fresh.id, rating, region: replacement.region };
      const reason = `replacement of ${ground.old.name} by ${ground.fresh.name}`;
      const unitId = await this.changes.swapWithin(manager, tag, facts, reason, account);
      const told = { why: `Moved to the ${ground.fresh.name} by its replacement`, person: account.person };
      if (ground.wiring.revision > 0)
        await this.wirings.saveWithin(manager, position, ground.fresh.id, computed.wires.wiring, told);
      await manager.update(
        Replacement,
        { id },
        {
          ...{ newUnit: { id: unitId }, rating, oldWiringRevision: ground.wiring.revision },
          ...{ swappedBy: account.person, swappedAt: new Date(), version: version + 1 },
        },
      );
    });
    return this.replacements.view(id);
  }

  /** Plans the reset of the new unit and all that the sheet promises; over its line, or as a key-in sheet. */
  async plan(id: string, version: number, account: Account): Promise<ReplacementView> {
    const replacement = await this.replacements.load(id);
    const { tag } = replacement.position;
    if (!replacement.newUnit) throw refused(`The new unit does not sit at ${tag} yet. Swap it first.`);
    const ground = await this.ground.of(replacement);
    const { set, computed } = promiseOf(ground, replacement);
    if (computed.settings.open > 0)
      throw refused(`${computed.settings.open} lines of the settings are not decided. Decide them first.`);
    const { oldUnit } = replacement;
    const target = `the replacement of ${ground.old.name} serial ${oldUnit.serial}`;
    const keep = await this.plans.towards(tag, set, target, account);
    await this.dataSource.transaction(async (manager) => {
      const now = await this.open(manager, id, version);
      if (now.newUnit?.id !== replacement.newUnit?.id) throw refused(`Another unit sits at ${tag} since.`);
      const made = await keep(manager);
      await manager.update(
        Replacement,
        { id },
        {
          ...{ promisedHash: await this.contents.keep(set, manager), version: version + 1 },
          ...('planId' in made
            ? { writePlanId: made.planId, keyInSheetId: null }
            : { keyInSheetId: made.sheetId, writePlanId: null }),
        },
      );
    });
    return this.replacements.view(id);
  }

  /** What was read back of the new unit, where it is what the sheet promises, waits for an engineer's signature. */
  async propose(id: string, version: number, { person }: Account): Promise<ReplacementView> {
    const before = await this.replacements.load(id);
    const { tag } = before.position;
    const ground = await this.ground.of(before);
    const readBack = before.newUnit && (await this.views.readBack(before, before.newUnit, ground));
    if (!readBack)
      throw refused(
        `The new unit at ${tag} was not read back after it was written. Back it up, or read it off.`,
      );
    if (readBack.codes.length > 0)
      throw refused(
        `The unit at ${tag} differs from what the sheet promises: ${readBack.codes.join(', ')}. Write again, or take it into the sheet.`,
      );
    if (before.promisedHash !== hashOf(promiseOf(ground, before).set))
      throw refused('The sheet was changed after writing was planned. Plan again.');
    const backup = await this.backups.get(readBack.id);
    const set = await this.contents.get(backup.contentHash);
    await this.dataSource.transaction(async (manager) => {
      const now = await this.open(manager, id, version);
      if (now.promisedHash !== before.promisedHash) throw refused('The sheet was changed meanwhile.');
      const reason = `Replacement of ${ground.old.name} serial ${before.oldUnit.serial} by ${ground.fresh.name} serial ${before.newUnit?.serial ?? ''}`;
      const draftId = await this.drafts.proposeReplacement(manager, before.position.id, set, {
        ...{ reason, person, replacementId: id },
      });
      await manager.update(Replacement, { id }, { draftId, version: version + 1 });
      const text = `Proposed the baseline of the new unit: ${reason}.`;
      await this.logbook.write({ person, action: 'baseline-proposed', tag, text }, manager);
    });
    return this.replacements.view(id);
  }

  /** The old unit comes back with its wires, its line and its baseline; what was said of the settings stays. */
  async back(id: string, why: string, version: number, account: Account): Promise<ReplacementView> {
    const { position } = await this.replacements.load(id);
    const { tag } = position;
    await this.changes.change(async (manager) => {
      const replacement = await this.open(manager, id, version);
      if (!replacement.newUnit) throw refused(`The old unit sits at ${tag}: nothing is to be put back.`);
      const ground = await this.ground.of(replacement, manager);
      const { person } = account;
      await this.changes.swapWithin(
        manager,
        tag,
        factsOfUnit(replacement.oldUnit),
        `put back: ${why}`,
        account,
      );
      const told = { why: `Put back on the ${ground.old.name}: ${why}`, person };
      if (ground.wiring.revision > 0)
        await this.wirings.saveWithin(
          manager,
          position,
          replacement.oldUnit.dictionaryId,
          ground.wiring.wiring,
          told,
        );
      await this.baselineBack(manager, replacement, why, person);
      const [stay] = await this.units(manager, position.id);
      await manager.update(
        Replacement,
        { id },
        {
          ...{
            newUnit: null,
            swappedBy: null,
            swappedAt: null,
            oldWiringRevision: null,
            attemptFrom: new Date(),
            version: version + 1,
          },
          ...{ writePlanId: null, keyInSheetId: null, promisedHash: null, draftId: null },
          ...(stay && { oldUnit: { id: stay.id } }),
        },
      );
      const facts = { replacement: id };
      const text = `Put the old unit back, serial ${replacement.oldUnit.serial}: ${why}. The sheet stays open.`;
      await this.logbook.write({ person, action: 'replacement-back', tag, text, facts }, manager);
    });
    return this.replacements.view(id);
  }

  /** Everything was decided, done, read back and signed: the sheet is kept as it stands, for ever. */
  async close(id: string, version: number, { person }: Account): Promise<ReplacementView> {
    const before = await this.replacements.load(id);
    const { tag } = before.position;
    const sheet = await this.sheet(id);
    const view = await this.replacements.view(id);
    requireDone(tag, sheet, view);
    const record = JSON.stringify({ sheet, view });
    await this.dataSource.transaction(async (manager) => {
      const now = await this.open(manager, id, version);
      const [last]: { id: string }[] = await manager.query(
        'select max(id) as id from replacement_saying where replacement_id = $1',
        [id],
      );
      const seen = Math.max(0, ...view.sayings.map((each) => Number(each.id)));
      if (Number(last?.id ?? 0) !== seen || now.version !== view.version)
        throw refused('Somebody said something on the sheet meanwhile. Look at it, then close it.');
      const recordHash = recordOf(record);
      const ended = { endedBy: person, endedAt: new Date(), endedWhy: 'everything decided, done and signed' };
      await manager.update(Replacement, { id }, { state: 'closed', record, recordHash, ...ended });
      const facts = { replacement: id, record: recordHash };
      const text = `Closed the replacement: ${view.old.model} serial ${view.old.serial} by ${view.doing.swap?.model ?? ''} serial ${view.doing.swap?.serial ?? ''}.`;
      await this.logbook.write({ person, action: 'replacement-closed', tag, text, facts }, manager);
    });
    return this.replacements.view(id);
  }

  private async sheet(id: string): Promise<ReplacementSheet> {
    return this.sheets.of(await this.replacements.load(id));
  }

  private async open(manager: EntityManager, id: string, version: number): Promise<Replacement> {
    const replacement = await this.replacements.lock(manager, id);
    if (replacement.state !== 'open') throw refused('This replacement has ended: its sheet stays as it is.');
    requireSameVersion(replacement.version, version, `The replacement of ${replacement.position.tag}`);
    return replacement;
  }

  private units(manager: EntityManager, positionId: string): Promise<{ id: string }[]> {
    return manager.query('select id from unit where position_id = $1 and removed_at is null', [positionId]);
  }

  /** A baseline of the new unit that waits is closed; one that was signed is followed by the one before it, to be signed again. */
  private async baselineBack(
    manager: EntityManager,
    { draftId, position, startedAt }: Replacement,
    why: string,
    person: string,
  ): Promise<void> {
    if (draftId === null) return;
    await this.drafts.withdrawReplacement(manager, draftId, person);
    const newest = await this.baselines.newest(manager, position.id);
    if (!newest || newest.signedAt <= startedAt) return;
    const [old]: { hash: string }[] = await manager.query(
      `select content_hash as hash from baseline where position_id = $1 and signed_at <= $2
       order by revision desc limit 1`,
      [position.id, startedAt],
    );
    if (!old) return;
    const set = await this.contents.get(old.hash);
    const reason = `As before the replacement, which was taken back: ${why}`;
    await this.drafts.proposeReplacement(manager, position.id, set, { reason, person, replacementId: null });
  }
}

function requireDone(tag: string, sheet: ReplacementSheet, { doing, sayings }: ReplacementView): void {
  const open = openOf(sheet.open);
  if (open > 0) throw refused(`${open} things on the sheet are not decided.`);
  if (!doing.swap) throw refused(`The new unit does not sit at ${tag} yet.`);
  const done = new Set(
    sayings.filter(({ part, value }) => part === 'task' && value !== null).map(({ line }) => line),
  );
  const left = sheet.tasks.filter(({ id }) => !done.has(id));
  if (left.length > 0)
    throw refused(
      `${left.length} lines of the wire sheet are not ticked; the first is "${left[0]?.text ?? ''}".`,
    );
  if (doing.planOutdated) throw refused('The sheet was changed after writing was planned. Plan again.');
  if (!doing.readBack) throw refused(`The new unit at ${tag} was not read back.`);
  if (doing.readBack.codes.length > 0)
    throw refused(`The new unit differs from the sheet: ${doing.readBack.codes.join(', ')}.`);
  if (doing.draft === null || typeof doing.draft === 'string')
    throw new ProblemException(
      409,
      'not-signed',
      'The baseline of the new unit is not signed yet. Propose it, and have an engineer sign it. Nothing was changed.',
    );
}
