// A bare Modbus TCP client for tests of the simulated plant: it sends exactly the bytes it is given.

import { connect, type Socket } from 'node:net';

export class RawClient {
  private received: Buffer = Buffer.alloc(0);
  private waiting: (() => void) | undefined;
  closed = false;
  private readonly socket: Socket;

  private constructor(socket: Socket) {
    this.socket = socket;
    socket.on('data', (chunk) => {
      this.received = Buffer.concat([this.received, chunk]);
      this.waiting?.();
    });
    socket.on('close', () => {
      this.closed = true;
      this.waiting?.();
    });
    socket.on('error', () => undefined);
  }

  static open(port: number): Promise<RawClient> {
    return new Promise((resolve, reject) => {
      const socket = connect(port, '127.0.0.1', () => resolve(new RawClient(socket)));
      socket.once('error', reject);
    });
  }

  send(bytes: Buffer | readonly number[]): void {
    this.socket.write(Buffer.from(bytes));
  }

  /** What has come until `length` bytes are there, the connection has closed, or the time is over. */
  async take(length: number, ms = 500): Promise<Buffer> {
    const end = Date.now() + ms;
    while (this.received.length < length && !this.closed && Date.now() < end) {
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, 10);
        this.waiting = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    }
    const taken = this.received.subarray(0, length);
    this.received = this.received.subarray(length);
    return taken;
  }

  /** Sends a request and answers with the PDU that comes back. */
  async ask(unit: number, pdu: readonly number[], transaction = 1): Promise<Buffer> {
    this.send([transaction >> 8, transaction & 0xff, 0, 0, 0, pdu.length + 1, unit, ...pdu]);
    const header = await this.take(7);
    if (header.length < 7) return Buffer.alloc(0);
    return this.take(header.readUInt16BE(4) - 1);
  }

  close(): void {
    this.socket.destroy();
  }
}
