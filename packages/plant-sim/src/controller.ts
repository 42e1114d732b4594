// The controller of a machine of several axes, as a Modbus unit of its own: while it runs, its axes are enabled. Holding
// registers: 0 kind of device, 1 state, 2 ready, 3 command.

import { EXCEPTION, exceptionPdu } from './frame.ts';
import { NO_MISCHIEF, type Mischief } from './mischief.ts';
import type { SimUnit } from './unit.ts';

export interface ControllerDescription {
  readonly line: string;
  readonly address: number;
  /** Serial numbers of the axes. */
  readonly axes: readonly number[];
}

const KIND = 7001;
const RUNS = 1;
const HELD = 2;
const HOLD = 1;
const GO_ON = 2;
const RESTART = 3;
const RESTART_MS = 600;
const REGISTERS = 4;
const COMMAND = 3;
const READ_HOLDING = 3;
const WRITE_SINGLE = 6;

export class SimController {
  readonly mischief: Mischief = { ...NO_MISCHIEF };
  state: typeof RUNS | typeof HELD = RUNS;
  /** Stays not ready after its next restart, whatever the axes do. */
  stuck = false;
  private readonly axes: readonly SimUnit[];
  private readonly now: () => number;
  private startsUntil = 0;

  constructor(axes: readonly SimUnit[], now: () => number) {
    this.axes = axes;
    this.now = now;
  }

  get runs(): boolean {
    return this.state === RUNS;
  }

  countRequest(): 'answer' {
    return 'answer';
  }

  answer(pdu: Buffer): Buffer {
    const code = pdu.readUInt8(0);
    const result =
      code === READ_HOLDING ? this.read(pdu) : code === WRITE_SINGLE ? this.write(pdu) : EXCEPTION.function;
    return typeof result === 'number' ? exceptionPdu(code, result) : result;
  }

  private read(pdu: Buffer): Buffer | number {
    const [from, count] = [pdu.readUInt16BE(1), pdu.readUInt16BE(3)];
    if (count < 1 || from + count > REGISTERS) return EXCEPTION.address;
    const words = [KIND, this.state, this.ready ? 1 : 0, 0].slice(from, from + count);
    const answer = Buffer.alloc(2 + count * 2);
    answer.writeUInt8(3, 0);
    answer.writeUInt8(count * 2, 1);
    words.forEach((word, at) => answer.writeUInt16BE(word, 2 + at * 2));
    return answer;
  }

  private write(pdu: Buffer): Buffer | number {
    if (pdu.readUInt16BE(1) !== COMMAND) return EXCEPTION.address;
    const command = pdu.readUInt16BE(3);
    if (command === RESTART) this.startsUntil = this.now() + RESTART_MS;
    else if (command !== HOLD && command !== GO_ON) return EXCEPTION.value;
    this.state = command === HOLD ? HELD : RUNS;
    return pdu;
  }

  /** Started, and every axis answers. */
  private get ready(): boolean {
    const answers = this.axes.every(({ mischief }) => !mischief.silent);
    return this.now() >= this.startsUntil && answers && !this.stuck;
  }
}
