// Kiln roller section 7 with its four differences, standing, for tests that write to it.

import { expect } from '@jest/globals';
import type { WritePlanView } from '@drive-keep/api';
import type { SimUnit } from '@drive-keep/plant-sim';
import { RunningPlant, until, type Caller } from './running-plant.ts';

/** Requests of one backup of this model, and of one step: who it is, whether it stands, the write, the read-back. */
export const READS = 6;
export const PER_STEP = 4;

export class SectionSeven {
  static readonly tag = 'KL1-RD-07';
  static readonly changed = ['ramp.up', 'stop.mode', 'preset.contact.3', 'protect.overloadCurrent'];

  private constructor(
    readonly plant: RunningPlant,
    readonly technician: Caller,
    /** What the story has it hold. */
    readonly held: ReadonlyMap<string, number>,
  ) {}

  static async start(): Promise<SectionSeven> {
    const plant = await RunningPlant.start();
    const { memory } = plant.unit(SectionSeven.tag);
    const held = new Map(Object.keys(memory.snapshot()).map((code) => [code, memory.get(code)]));
    return new SectionSeven(plant, await plant.signIn('technician'), held);
  }

  stop = (): Promise<void> => this.plant.stop();

  get unit(): SimUnit {
    return this.plant.unit(SectionSeven.tag);
  }

  /** The unit as the story has it, standing, with a fresh backup. */
  async standAsInTheStory(): Promise<void> {
    this.setRight();
    this.unit.setMischief({ refuse: [], corrupt: null });
    for (const [code, raw] of this.held) this.unit.memory.force(code, raw);
    await this.plant.backUp(this.technician, SectionSeven.tag);
  }

  /** Mended, whatever had been wrong with the unit; what it holds stays. */
  async mend(): Promise<void> {
    this.setRight();
    // Up again and no longer at work with a procedure: a function code without the mark of an exception.
    const ready = () => this.unit.answer(Buffer.from([3, 16, 30, 0, 1]))?.readUInt8(0) === 3;
    await until(() => Promise.resolve(ready() || undefined));
    await until(() => Promise.resolve(this.unit.running ? undefined : true));
  }

  heldNow = (): Record<string, number> =>
    Object.fromEntries([...this.held.keys()].map((code) => [code, this.unit.memory.get(code)]));

  async plan(
    meanings: readonly string[] = SectionSeven.changed,
    target = 'baseline',
  ): Promise<WritePlanView> {
    const codes = meanings.map((meaning) => this.plant.code(meaning));
    const path = `positions/${SectionSeven.tag}/write-plans`;
    const { status, body } = await this.technician.post<WritePlanView>(path, { target, codes });
    expect(status).toBe(201);
    return body;
  }

  async carryOut(plan: WritePlanView, how: object = {}): Promise<WritePlanView> {
    await this.technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
    const begun = await this.technician.post<WritePlanView>(`write-plans/${plan.id}/carry-out`, how);
    expect(begun.status).toBe(202);
    return this.plant.planEnd(this.technician, plan.id);
  }

  async follow(id: string, kind: 'resume' | 'undo'): Promise<WritePlanView> {
    const { status, body } = await this.technician.post<WritePlanView>(`write-plans/${id}/follow-ups`, {
      kind,
    });
    expect([status, body.kind, body.follows]).toEqual([201, kind, id]);
    return this.carryOut(body);
  }

  private setRight(): void {
    this.unit.runContact = false;
    this.unit.serial = this.unit.description.serial;
    this.unit.setMischief({ silent: false, breakAfter: 0, swap: null, event: null });
  }
}
