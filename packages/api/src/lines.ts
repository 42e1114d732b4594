/** A way to the units behind one gateway. */
export interface LineView {
  readonly id: string;
  readonly name: string;
  readonly host: string;
  readonly port: number;
  /** `tcp`: Modbus TCP; `rtu`: RTU frames with check sums through a socket. */
  readonly framing: 'tcp' | 'rtu';
  readonly timeoutMs: number;
  readonly retries: number;
  readonly pauseMs: number;
  /** Registers in one request at the most. */
  readonly largestRead: number;
  /** Units that are registered on it now. */
  readonly units: number;
  readonly retiredAt: string | null;
  readonly version: number;
}

/** What was found when a line was tried; nothing is kept of it. */
export interface LineTrial {
  readonly connects: boolean;
  /** The middle of the times in which units answered, in ms. */
  readonly answerMs: number | null;
  readonly asked: readonly number[];
  readonly answering: readonly number[];
  readonly attention: 'plain' | 'look' | 'stop';
  readonly text: string;
}
