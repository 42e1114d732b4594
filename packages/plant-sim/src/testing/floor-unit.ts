// A unit on the floor with a clock of its own, its settings told by meaning, and its registers read as the line reads them.

import { join } from 'node:path';
import type { Dictionary, FaultKind } from '@drive-keep/core/dictionary';
import type { LoadPlan } from '../load.ts';
import { loadModels } from '../shipped-models.ts';
import { SimUnit } from '../unit.ts';

export const MODELS = loadModels(join(import.meta.dirname, '../../../catalogue/models'));

const READ_HOLDING = 3;
const READ_INPUT = 4;
const INPUT_AREA = 0x1_0000;

export class FloorUnit {
  readonly unit: SimUnit;
  private readonly model: Dictionary;
  private now = 0;

  constructor(
    id: string,
    settings: Readonly<Record<string, number | string>>,
    load?: LoadPlan,
    wired?: object,
  ) {
    const model = MODELS.get(id);
    if (!model) throw new Error(`no model ${id}`);
    this.model = model;
    const outfit = {
      rating: model.ratings.at(1)?.id ?? model.ratings[0]?.id ?? '',
      region: model.regions[0]?.id ?? '',
    };
    const place = { line: 'L', address: 1, dictionary: id, firmware: 207, serial: 1, values: {} };
    this.unit = new SimUnit(
      { ...place, ...outfit, ...(load ? { load } : {}), ...wired },
      model,
      400,
      () => this.now,
    );
    this.set({ 'command.powerUp': 'automatic', 'command.source': 'source.terminals', ...settings });
    this.unit.powerCycle();
    this.wait(5);
  }

  /** Numbers in their units, choices by what they mean; meanings that the model has not are left out. */
  set(settings: Readonly<Record<string, number | string>>): void {
    for (const [meaning, value] of Object.entries(settings)) {
      const parameter = this.unit.memory.byMeaning.get(meaning);
      if (!parameter) continue;
      const { form, code } = parameter;
      const raw =
        form.kind === 'option'
          ? form.options.find((each) => each.meaning === value)?.raw
          : form.kind === 'number'
            ? Math.round((Number(value) * 10 ** form.resolution.places) / form.resolution.step)
            : undefined;
      if (raw === undefined) throw new Error(`${meaning} cannot be ${value}`);
      this.unit.memory.force(code, raw);
    }
  }

  /** Lets so many seconds pass; the unit is looked at now and then, as by somebody on the line. */
  wait(seconds: number): void {
    for (let left = seconds; left > 0; left -= 0.05) {
      this.now += Math.min(50, left * 1000);
      void this.unit.running;
    }
  }

  run(on: boolean): void {
    void this.unit.running;
    this.unit.runContact = on;
  }

  /** In the unit in which the model shows it. */
  see(meaning: string): number {
    const parameter = this.unit.memory.byMeaning.get(meaning);
    if (!parameter?.register) throw new Error(`${meaning} has no register`);
    const { address, width, signed } = parameter.register;
    const input = address >= INPUT_AREA;
    const request = Buffer.alloc(5);
    request.writeUInt8(input ? READ_INPUT : READ_HOLDING, 0);
    request.writeUInt16BE(address % INPUT_AREA, 1);
    request.writeUInt16BE(width === 32 ? 2 : 1, 3);
    const answer = this.unit.answer(request);
    if (!answer || answer.readUInt8(0) > 0x80) throw new Error(`${meaning} is not answered`);
    const raw =
      width === 32 ? answer.readInt32BE(2) : signed ? answer.readInt16BE(2) : answer.readUInt16BE(2);
    const { form } = parameter;
    return form.kind === 'number' ? (raw * form.resolution.step) / 10 ** form.resolution.places : raw;
  }

  /** What kind of fault its fault register tells, by the manual; nothing where it tells none. */
  get fault(): FaultKind | null {
    const number = this.see('monitor.fault');
    return number === 0 ? null : (this.model.faults.find((each) => each.number === number)?.kind ?? null);
  }

  /** Seconds until something is so, at most so many. */
  until(is: () => boolean, most = 200): number {
    const from = this.now;
    while (!is() && this.now - from < most * 1000) this.wait(0.05);
    return (this.now - from) / 1000;
  }
}
