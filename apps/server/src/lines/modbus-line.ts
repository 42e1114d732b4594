// Modbus through the modbus-serial client, as Modbus TCP or as RTU frames on a socket. The socket is our own, so that a
// connection that closes in the middle of a request, and answers that come too late, are seen at once instead of ending as
// just another time-out.

import { Socket } from 'node:net';
import { fail, INPUT_REGISTERS, ok } from '@drive-keep/core/values';
import ModbusSerial from 'modbus-serial';
import type { DriveLine, LineAnswer, LineFault } from './drive-line.ts';
import { USUAL_SETTINGS, type LineSettings } from './line-settings.ts';
import { LiveTimeout } from './live-timeout.ts';

const { default: ModbusRTU } = ModbusSerial;
type Client = InstanceType<typeof ModbusRTU>;

const EXCEPTIONS: Readonly<Record<number, LineFault>> = {
  1: { code: 'refused', exception: 'function' },
  2: { code: 'refused', exception: 'address' },
  3: { code: 'refused', exception: 'value' },
  4: { code: 'refused', exception: 'failure' },
  5: { code: 'busy' },
  6: { code: 'busy' },
};
/** The gateway answers for a unit that it cannot reach. */
const GATEWAY_EXCEPTIONS = [10, 11];

/** The library counts its transactions from 1 and starts again at 0 after so many. */
const LIBRARY_TRANSACTIONS = 256;

type Stray = 'late' | 'foreign';

export class ModbusLine implements DriveLine {
  requests = 0;
  private socket: Socket | undefined;
  private client: Client | undefined;
  private onClosed: () => void = () => undefined;
  private stray: Stray | undefined;
  private sentOnSocket = 0;
  private openTransaction = 0;
  private readonly givenUp = new Set<number>();
  private answeredAt = Number.NEGATIVE_INFINITY;
  private inFlight = false;
  /** The gateway has said that the unit does not answer: nothing of it will come late. */
  private told = false;
  /** Something came while an answer was waited for, though it was none. */
  private heard = false;
  private readonly settings: LineSettings;

  constructor(settings: Pick<LineSettings, 'host' | 'port'> & Partial<LineSettings>) {
    this.settings = { ...USUAL_SETTINGS, ...settings };
  }

  get largestRead(): number {
    return this.settings.largestRead;
  }

  read(unit: number, address: number, count: number): Promise<LineAnswer<readonly number[]>> {
    return this.request(unit, async (client) => {
      const { data } =
        address < INPUT_REGISTERS
          ? await client.readHoldingRegisters(address, count)
          : await client.readInputRegisters(address - INPUT_REGISTERS, count);
      return data.length === count ? ok(data) : fail({ code: 'wrong-answer' });
    });
  }

  write(unit: number, address: number, words: readonly number[], only16 = false): Promise<LineAnswer<void>> {
    return this.request(unit, async (client) => {
      if (words.length === 1 && !only16) await client.writeRegister(address, words[0] ?? 0);
      else await client.writeRegisters(address, [...words]);
      return ok(undefined);
    });
  }

  close(): void {
    this.socket?.destroy();
    this.socket = undefined;
    this.client = undefined;
  }

  private async request<T>(
    unit: number,
    send: (client: Client) => Promise<LineAnswer<T>>,
  ): Promise<LineAnswer<T>> {
    this.stray = undefined;
    for (let left = this.settings.retries; ; left -= 1) {
      const answer = await this.once(unit, send);
      if (answer.ok || !this.isWorthARetry(answer.fault)) return answer;
      if (this.told && left === 0) return answer;
      this.givenUp.add(this.openTransaction);
      if (left > 0 && this.settings.framing === 'tcp') continue;
      // Nothing in an RTU frame says to which request it belongs: the connection is given up, so that an answer that comes
      // late is never taken for that to the next request.
      const fault = answer.fault.code === 'no-answer' ? await this.faultOfSilence() : answer.fault;
      if (left === 0 || fault.code === 'late') return fail(fault);
    }
  }

  /** A serial line loses a frame now and then. */
  private isWorthARetry({ code }: LineFault): boolean {
    return code === 'no-answer' || (code === 'wrong-answer' && this.settings.framing === 'rtu');
  }

  /** Waits once more, to tell a unit that is slow from one that is dead: they are mended in different places. */
  private async faultOfSilence(): Promise<LineFault> {
    const { timeoutMs } = this.settings;
    await new LiveTimeout(timeoutMs, () => this.stray !== undefined).over;
    this.close();
    if (this.stray === 'foreign' || this.heard) return { code: 'wrong-answer' };
    return { code: this.stray === 'late' ? 'late' : 'no-answer', afterMs: timeoutMs };
  }

  private async once<T>(
    unit: number,
    send: (client: Client) => Promise<LineAnswer<T>>,
  ): Promise<LineAnswer<T>> {
    await this.pause();
    const client = await this.connected();
    if (!client) return fail({ code: 'no-connection', where: `${this.settings.host}:${this.settings.port}` });
    client.setID(unit);
    this.requests += 1;
    this.sentOnSocket += 1;
    this.openTransaction = this.sentOnSocket % LIBRARY_TRANSACTIONS;
    const closed = new Promise<LineAnswer<T>>((resolve) => {
      this.onClosed = () => resolve(fail({ code: 'broke-off' }));
    });
    const silence = new LiveTimeout(this.settings.timeoutMs);
    const sent = send(client).catch((error: unknown) => fail(this.faultOf(error)));
    const late = silence.over.then((): LineAnswer<T> =>
      fail({ code: 'no-answer', afterMs: this.settings.timeoutMs }),
    );
    this.inFlight = true;
    this.heard = false;
    this.told = false;
    const answer = await Promise.race([sent, closed, late]);
    this.inFlight = false;
    this.answeredAt = performance.now();
    silence.cancel();
    if (!answer.ok && ['broke-off', 'wrong-answer'].includes(answer.fault.code)) this.close();
    return answer;
  }

  private faultOf(error: unknown): LineFault {
    const { modbusCode } = error as { modbusCode?: number };
    if (modbusCode !== undefined && GATEWAY_EXCEPTIONS.includes(modbusCode)) {
      this.told = true;
      return { code: 'no-answer', afterMs: this.settings.timeoutMs };
    }
    if (modbusCode === undefined) return { code: 'wrong-answer' };
    return EXCEPTIONS[modbusCode] ?? { code: 'refused', exception: 'failure' };
  }

  private async connected(): Promise<Client | undefined> {
    if (this.client && this.socket && !this.socket.destroyed) return this.client;
    const { host, port, timeoutMs, framing } = this.settings;
    const socket = await openSocket(host, port, timeoutMs);
    if (!socket) return undefined;
    this.socket = socket;
    this.sentOnSocket = 0;
    this.givenUp.clear();
    // A socket that was given up closes later: that is no news for the request on its successor.
    socket.on('close', () => this.socket === socket && this.onClosed());
    socket.on('data', (chunk) => this.watch(chunk));
    const client = new ModbusRTU();
    client.on('error', () => socket.destroy());
    if (framing === 'tcp') await client.linkTCP(socket, { port });
    else await client.linkTelnet(socket, { port });
    this.client = client;
    return client;
  }

  /** Some units need a moment of rest after an answer. */
  private async pause(): Promise<void> {
    const rest = this.answeredAt + this.settings.pauseMs - performance.now();
    if (rest > 0) await new Promise((resolve) => setTimeout(resolve, rest));
  }

  /** Looks at what arrives beside the library: answers to requests already given up, and such to no request at all. */
  private watch(chunk: Buffer): void {
    if (this.settings.framing === 'rtu') {
      if (this.inFlight) this.heard = true;
      else this.strayFrame();
      return;
    }
    if (chunk.length < 4) return;
    const transaction = chunk.readUInt16BE(0);
    const open = transaction === this.openTransaction && !this.givenUp.has(transaction);
    if (open && chunk.readUInt16BE(2) === 0) return;
    const late = this.givenUp.has(transaction) && chunk.readUInt16BE(2) === 0;
    this.stray = late ? 'late' : 'foreign';
  }

  /** Where nothing is asked for, nothing may come: what follows on this connection could be anybody's. */
  private strayFrame(): void {
    this.stray = 'late';
    this.close();
  }
}

function openSocket(host: string, port: number, timeoutMs: number): Promise<Socket | undefined> {
  return new Promise((resolve) => {
    const socket = new Socket();
    const patience = new LiveTimeout(timeoutMs);
    void patience.over.then(() => socket.destroy());
    socket.setNoDelay(true);
    socket.once('connect', () => {
      patience.cancel();
      resolve(socket);
    });
    socket.on('error', () => socket.destroy());
    socket.once('close', () => {
      patience.cancel();
      resolve(undefined);
    });
    socket.connect(port, host);
  });
}
