// Writes to one unit over its line: each value once it is certain that the right unit answers and stands, and read back
// afterwards; procedures until the unit answers again. Nothing is stored here.

import {
  findParameter,
  type Dictionary,
  type LineFacts,
  type Parameter,
  type RegisterPlace,
  type RegisterValue,
} from '@drive-keep/core/dictionary';
import { fail, ok, showRaw, type Result } from '@drive-keep/core/values';
import { lineFactsOf } from './line-facts.ts';
import type { DriveLine, LineFault } from './drive-line.ts';
import { readIdentity } from './identity.ts';
import { rawToWords, wordsToRaw } from './words.ts';

export interface WriterTarget {
  readonly line: DriveLine;
  readonly address: number;
  readonly serial: number;
  readonly dictionary: Dictionary;
}

export interface OneWrite {
  readonly code: string;
  readonly toRaw: number;
  /** How long the unit is busy afterwards, in ms; it then does not keep the value. */
  readonly busyMs: number;
}

/** Why a value is not in the unit, or may not be; `doubtful` where nobody knows. */
export interface WriteFault {
  readonly text: string;
  readonly doubtful: boolean;
  readonly readBack?: number;
}

/** How long a unit may be busy with its own procedures beyond what its manual says, in ms. */
const BUSY_PATIENCE_MS = 5000;
const BUSY_POLL_MS = 50;

export class UnitWriter {
  private readonly facts: LineFacts;
  /** As the unit gave its identity the last time. */
  private order: LineFacts['wordOrder'];

  constructor(private readonly at: WriterTarget) {
    this.facts = lineFactsOf(at.dictionary);
    this.order = this.facts.wordOrder;
  }

  /** Nothing where the unit that is meant answers and stands; what is wrong otherwise. */
  async objection(tag: string): Promise<string | undefined> {
    const { line, address, serial, dictionary } = this.at;
    const gap = noWrites(dictionary.name, this.facts);
    if (gap !== undefined) return gap;
    const who = await readIdentity(line, address, dictionary, this.facts, serial);
    if (!who.ok) return `The unit could not be asked who it is: ${faultWords(who.fault)}.`;
    const { model } = this.facts.identity;
    if (who.value.serial !== serial || (model && who.value.model !== model.value))
      return `Serial number ${who.value.serial} answers now and not ${serial}: another unit was put in.`;
    this.order = who.value.wordOrder;
    const status = await line.read(address, this.facts.status?.register ?? 0, 1);
    if (!status.ok) return `The state of the unit could not be read: ${faultWords(status.fault)}.`;
    const running = ((status.value[0] ?? 0) >> (this.facts.status?.running ?? 0)) & 1;
    return running ? `${tag} is running. Stop the machine, then release it again.` : undefined;
  }

  /** The value read back, or nothing for the start of a procedure that is over. */
  async write({ code, toRaw, busyMs }: OneWrite): Promise<Result<number | undefined, WriteFault>> {
    const { line, address, dictionary } = this.at;
    const parameter = findParameter(dictionary, code);
    const place = parameter?.register;
    if (!parameter || !place) throw new Error(`step without register: ${code}`);
    if (startsIt(this.facts, place.address, place.width / 16))
      return fail({ text: STARTS_NOTHING, doubtful: false });
    const written = await line.write(
      address,
      place.address,
      rawToWords(place, toRaw, this.order),
      this.facts.only16,
    );
    if (!written.ok)
      return fail({ text: refusedWrite(written.fault), doubtful: written.fault.code !== 'refused' });
    if (busyMs > 0) {
      const trouble = await this.patience(busyMs, 'The procedure');
      return trouble === undefined ? ok(undefined) : fail({ text: trouble, doubtful: true });
    }
    return this.readBack(parameter, place, toRaw);
  }

  private async readBack(
    parameter: Parameter,
    place: RegisterPlace,
    toRaw: number,
  ): Promise<Result<number, WriteFault>> {
    const { line, address } = this.at;
    const answer = await line.read(address, place.address, place.width === 32 ? 2 : 1);
    if (!answer.ok)
      return fail({ text: `could not be read back: ${faultWords(answer.fault)}`, doubtful: true });
    const readBack = wordsToRaw(place, answer.value, this.order);
    if (readBack === toRaw) return ok(readBack);
    const text = `was written but the unit holds ${showRaw(parameter.form, readBack)}`;
    return fail({ text, doubtful: false, readBack });
  }

  /** Saves permanently; what is wrong where it is not certain. A unit that keeps every write at once has nothing to save. */
  async save(): Promise<string | undefined> {
    return this.facts.save ? this.start(this.facts.save, 'The permanent save') : undefined;
  }

  /** Restarts the unit and waits until it answers again; what is wrong where it does not. */
  restart(): Promise<string | undefined> {
    const { restart } = this.facts;
    return restart ? this.start(restart, 'The restart') : Promise.resolve(NO_RESTART);
  }

  private async start(
    { register, value, busyMs }: RegisterValue & { readonly busyMs: number },
    name: string,
  ): Promise<string | undefined> {
    if (startsIt(this.facts, register, 1)) return `${name} was not begun: ${STARTS_NOTHING}.`;
    const begun = await this.at.line.write(this.at.address, register, [value], this.facts.only16);
    if (!begun.ok) return `${name} was not taken: ${faultWords(begun.fault)}.`;
    return this.patience(busyMs, name);
  }

  /** A unit that starts up does not answer at all; one at work says that it is busy. */
  private async patience(busyMs: number, name: string): Promise<string | undefined> {
    const { line, address } = this.at;
    const until = performance.now() + busyMs + BUSY_PATIENCE_MS;
    for (;;) {
      await new Promise((resolve) => setTimeout(resolve, BUSY_POLL_MS));
      const answer = await line.read(address, this.facts.status?.register ?? 0, 1);
      if (answer.ok) return undefined;
      const { code } = answer.fault;
      if (code !== 'busy' && code !== 'no-answer' && code !== 'late')
        return `${name} may not have come to its end: ${faultWords(answer.fault)}.`;
      if (performance.now() > until)
        return code === 'busy'
          ? `${name} has not come to its end: the unit stays busy. Look at the unit.`
          : `${name} may not have come to its end: the unit does not answer any more. Look at the unit.`;
    }
  }
}

const STARTS_NOTHING =
  'was not written: by this register a controller runs the drive, and Drive Keep starts nothing';

/** Whether a write of so many registers would touch those by which a controller commands the unit, whatever its model says. */
export function startsIt({ command }: LineFacts, address: number, count: number): boolean {
  const told = command ? [command.register, ...(command.speed ? [command.speed.register] : [])] : [];
  return told.some((register) => register >= address && register < address + count);
}

const NO_RESTART =
  'This model is restarted by its supply alone: switch it off and on, then read the unit again.';

/** Why nobody may write to a unit of this model over its line; nothing where one may. */
export function noWrites(name: string, { identity, status }: LineFacts): string | undefined {
  const what = [
    ...(identity.serial ? [] : ['in which register its serial number stands']),
    ...(status ? [] : ['which bit says that it is running']),
  ];
  if (what.length === 0) return undefined;
  return `The dictionary of ${name} does not tell ${what.join(', nor ')}: nothing is written over the line. Complete it under Models, or use a key-in sheet.`;
}

function refusedWrite(fault: LineFault): string {
  if (fault.code !== 'refused') return `was not written: ${faultWords(fault)}`;
  switch (fault.exception) {
    case 'value':
      return 'was refused: the unit does not take this value';
    case 'failure':
      return 'was refused: the unit is locked or running';
    default:
      return 'was refused: the unit does not let it be written';
  }
}

function faultWords(fault: LineFault): string {
  switch (fault.code) {
    case 'no-connection':
      return 'the gateway does not accept a connection';
    case 'no-answer':
    case 'late':
      return 'the unit does not answer in time';
    case 'copy':
      return 'this is a restored copy, which talks to no unit';
    case 'broke-off':
      return 'the connection broke off';
    case 'wrong-answer':
      return 'the answer does not belong to the request';
    case 'refused':
      return 'the unit refuses';
    case 'busy':
      return 'the unit is busy';
  }
}
