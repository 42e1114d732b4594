// The simulated plant: lines and units from a description, and the memory of the units across restarts of the simulation,
// which are no power cuts.

import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { SimController, type ControllerDescription } from './controller.ts';
import type { Framing } from './frame.ts';
import { LineServer } from './line-server.ts';
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

/** Older files have the permanent values alone. */
const memoryIn = (kept: object): KeptMemory =>
  'values' in kept ? (kept as KeptMemory) : { values: kept as KeptMemory['values'], working: {} };

export class Plant {
  readonly units = new Map<number, SimUnit>();
  readonly lines = new Map<string, LineServer>();
  readonly controllers: SimController[] = [];
  private readonly description: PlantDescription;
  private readonly stateFile: string | undefined;

  constructor(description: PlantDescription, options: PlantOptions) {
    this.description = description;
    this.stateFile = options.stateFile;
    const state = this.readState();
    for (const line of description.lines) this.lines.set(line.id, new LineServer(line.delayMs, line.framing));
    for (const each of description.units) this.addUnit(each, state, options.dictionaries);
    for (const each of description.controllers ?? []) this.addController(each);
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
    writeFileSync(`${this.stateFile}.new`, JSON.stringify(state));
    renameSync(`${this.stateFile}.new`, this.stateFile);
  }

  private addUnit(each: UnitDescription, state: State, dictionaries: ReadonlyMap<string, Dictionary>): void {
    const dictionary = dictionaries.get(each.dictionary);
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

  private readState(): State {
    if (this.stateFile === undefined) return {};
    try {
      const kept = JSON.parse(readFileSync(this.stateFile, 'utf8')) as Record<string, object>;
      return Object.fromEntries(Object.entries(kept).map(([key, memory]) => [key, memoryIn(memory)]));
    } catch {
      return {};
    }
  }
}
