// The simulated plant: lines and units from a description, and the memory of the units across restarts of the simulation,
// which are no power cuts.

import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { SimController, type ControllerDescription } from './controller.ts';
import type { FloorPlan } from './floor.ts';
import type { Framing } from './frame.ts';
import { LineServer } from './line-server.ts';
import type { LoadPlan } from './load.ts';
import { SimUnit, type UnitDescription } from './unit.ts';

export interface LineDescription {
  readonly id: string;
  /** 0 takes any free port. */
  readonly port: number;
  readonly delayMs: number;
  /** Modbus TCP where nothing is said. */
  readonly framing?: Framing;
}

export interface PlantDescription {
  /** Line voltage of the mains in V. */
  readonly mains: number;
  readonly lines: readonly LineDescription[];
  readonly units: readonly UnitDescription[];
  readonly controllers?: readonly ControllerDescription[];
}

export interface PlantOptions {
  readonly dictionaries: ReadonlyMap<string, Dictionary>;
  /** File for the memory of the units; nothing is kept without it. */
  readonly stateFile?: string;
}

interface KeptMemory {
  readonly values: Readonly<Record<string, number>>;
  readonly working: Readonly<Record<string, number>>;
}

type State = Readonly<Record<string, KeptMemory>>;

/** Another drive in the place of one, as it comes out of its box. */
export interface Spare {
  readonly dictionary: string;
  readonly rating: string;
  readonly serial: number;
  /** 207 is firmware 2.07. */
  readonly firmware: number;
  /** What it drives and what somebody has hung on its terminals; nothing hangs there where it is not told. */
  readonly load?: LoadPlan;
  readonly floor?: FloorPlan;
}

interface Swap {
  readonly out: number;
  readonly spare: Spare;
}

/** Beside the memories in the file. */
const SWAPS = 'swaps';

/** Older files have the permanent values alone. */
const memoryIn = (kept: object): KeptMemory =>
  'values' in kept ? (kept as KeptMemory) : { values: kept as KeptMemory['values'], working: {} };

export class Plant {
  readonly units = new Map<number, SimUnit>();
  readonly lines = new Map<string, LineServer>();
  readonly controllers: SimController[] = [];
  private readonly description: PlantDescription;
  private readonly stateFile: string | undefined;
  private readonly dictionaries: PlantOptions['dictionaries'];
  private readonly swaps: Swap[] = [];

  constructor(description: PlantDescription, options: PlantOptions) {
    this.description = description;
    this.stateFile = options.stateFile;
    this.dictionaries = options.dictionaries;
    const { state, swaps } = this.readState();
    for (const line of description.lines) this.lines.set(line.id, new LineServer(line.delayMs, line.framing));
    for (const each of description.units) this.addUnit(each, state);
    for (const each of description.controllers ?? []) this.addController(each);
    for (const { out, spare } of swaps) this.swap(out, spare, state);
  }

  /**
   * A drive goes out, and another one comes in at its place of the line. Somebody has set its address, and hung on its terminals
   * what is told. Throws where there is no such drive or model.
   */
  swap(out: number, spare: Spare, state: State = {}): SimUnit {
    const old = this.units.get(out);
    if (!old) throw new Error(`no unit ${out}`);
    if (this.units.has(spare.serial)) throw new Error(`there is a unit ${spare.serial} already`);
    const dictionary = this.dictionaries.get(spare.dictionary);
    if (!dictionary) throw new Error(`no dictionary ${spare.dictionary}`);
    const { tag, line, address, region } = old.description;
    const own = dictionary.parameters.find(({ meaning }) => meaning === 'network.address')?.code;
    const values = own === undefined ? {} : { [own]: address };
    const place = { ...(tag === undefined ? {} : { tag }), line, address, region };
    this.units.delete(out);
    this.addUnit({ ...place, ...spare, values, runContact: false }, state);
    this.swaps.push({ out, spare });
    this.keepState();
    const unit = this.units.get(spare.serial);
    if (!unit) throw new Error('not added');
    return unit;
  }

  /** Opens all lines; answers with their ports by line. */
  async listen(): Promise<ReadonlyMap<string, number>> {
    const ports = new Map<string, number>();
    for (const { id, port } of this.description.lines) {
      const line = this.lines.get(id);
      if (line) ports.set(id, await line.listen(port));
    }
    return ports;
  }

  async close(): Promise<void> {
    await Promise.all([...this.lines.values()].map((line) => line.close()));
  }

  /** Written beside and renamed, so that a crash leaves the old state or the new one. */
  keepState(): void {
    if (this.stateFile === undefined) return;
    const state: State = Object.fromEntries(
      [...this.units].map(([key, { memory }]) => [
        key,
        { values: memory.snapshot(), working: memory.unsaved() },
      ]),
    );
    writeFileSync(`${this.stateFile}.new`, JSON.stringify({ ...state, [SWAPS]: this.swaps }));
    renameSync(`${this.stateFile}.new`, this.stateFile);
  }

  private addUnit(each: UnitDescription, state: State): void {
    const dictionary = this.dictionaries.get(each.dictionary);
    const line = this.lines.get(each.line);
    if (!dictionary) throw new Error(`unit ${each.serial}: no dictionary ${each.dictionary}`);
    if (!line) throw new Error(`unit ${each.serial}: no line ${each.line}`);
    const unit = new SimUnit(
      { ...each, ...state[String(each.serial)] },
      dictionary,
      this.description.mains,
      () => Date.now(),
    );
    unit.onSaved = () => this.keepState();
    line.add(each.address, unit);
    this.units.set(each.serial, unit);
  }

  private addController({ line, address, axes }: ControllerDescription): void {
    const units = axes.flatMap((serial) => this.units.get(serial) ?? []);
    const controller = new SimController(units, () => Date.now());
    for (const unit of units) unit.controller = controller;
    this.lines.get(line)?.add(address, controller);
    this.controllers.push(controller);
  }

  private readState(): { readonly state: State; readonly swaps: readonly Swap[] } {
    if (this.stateFile === undefined) return { state: {}, swaps: [] };
    try {
      const kept = JSON.parse(readFileSync(this.stateFile, 'utf8')) as Record<string, object>;
      const { [SWAPS]: swaps = [], ...memories } = kept;
      const state = Object.fromEntries(
        Object.entries(memories).map(([key, memory]) => [key, memoryIn(memory)]),
      );
      return { state, swaps: swaps as Swap[] };
    } catch {
      return { state: {}, swaps: [] };
    }
  }
}
