// One line of the plant: a gateway that listens for Modbus TCP, or passes RTU frames through, and serves one request after the other, as the serial
// line behind it does, however many connections there are.

import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import {
  EXCEPTION,
  exceptionPdu,
  joinFrame,
  joinRtuFrame,
  splitFrames,
  splitRtuFrames,
  type Frame,
  type Framing,
} from './frame.ts';
import { corruptAnswer, corruptRtuAnswer, type Mischief } from './mischief.ts';

/** What answers at an address of the line. */
export interface LineNode {
  readonly mischief: Mischief;
  countRequest(): 'answer' | 'break';
  answer(pdu: Buffer): Buffer | undefined;
}

export class LineServer {
  delayMs: number;
  private readonly units = new Map<number, LineNode>();
  private readonly sockets = new Set<Socket>();
  private readonly server: Server;
  private last: Promise<void> = Promise.resolve();

  constructor(
    delayMs: number,
    private readonly framing: Framing = 'tcp',
  ) {
    this.delayMs = delayMs;
    this.server = createServer((socket) => this.serve(socket));
  }

  add(address: number, unit: LineNode): void {
    this.units.set(address, unit);
  }

  async listen(port: number): Promise<number> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, '127.0.0.1', resolve);
    });
    return (this.server.address() as AddressInfo).port;
  }

  async close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy();
    await new Promise<void>((resolve) => this.server.close(() => resolve()));
  }

  private serve(socket: Socket): void {
    let received: Buffer = Buffer.alloc(0);
    this.sockets.add(socket);
    socket.setNoDelay(true);
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.sockets.delete(socket));
    socket.on('data', (chunk) => {
      const all = Buffer.concat([received, chunk]);
      const split = this.framing === 'tcp' ? splitFrames(all) : splitRtuFrames(all);
      if (split === 'not-modbus') {
        socket.destroy();
        return;
      }
      received = split.rest;
      for (const frame of split.frames) this.enqueue(frame, socket);
    });
  }

  private enqueue(frame: Frame, socket: Socket): void {
    this.last = this.last.then(() => this.handle(frame, socket));
  }

  private async handle(frame: Frame, socket: Socket): Promise<void> {
    const unit = this.units.get(frame.unit);
    await sleep(this.delayMs);
    if (!unit) {
      // On a serial line nobody answers for a unit that is not there.
      if (this.framing === 'rtu') return;
      send(socket, joinFrame({ ...frame, pdu: exceptionPdu(frame.pdu.readUInt8(0), EXCEPTION.noTarget) }));
      return;
    }
    if (unit.mischief.silent) return;
    // A late unit does not hold up the line: the gateway has given up on it and serves the next.
    if (unit.mischief.extraDelayMs > 0)
      setTimeout(() => reply(unit, frame, socket, this.framing), unit.mischief.extraDelayMs);
    else reply(unit, frame, socket, this.framing);
  }
}

function reply(unit: LineNode, frame: Frame, socket: Socket, framing: Framing): void {
  const verdict = unit.countRequest();
  const pdu = unit.answer(frame.pdu);
  if (!pdu) return;
  const answer = framing === 'tcp' ? joinFrame({ ...frame, pdu }) : joinRtuFrame({ ...frame, pdu });
  if (verdict === 'break') {
    socket.write(answer.subarray(0, Math.ceil(answer.length / 2)), () => socket.destroy());
    return;
  }
  const corrupt = framing === 'tcp' ? corruptAnswer : corruptRtuAnswer;
  send(socket, unit.mischief.corrupt ? corrupt(answer, unit.mischief.corrupt) : answer);
}

function send(socket: Socket, answer: Buffer): void {
  if (!socket.destroyed) socket.write(answer);
}

const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
