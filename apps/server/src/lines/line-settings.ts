// What a line is and how it is used: its address, the frames on it, and how patient one is with what is on it.

/** `tcp`: Modbus TCP; `rtu`: the frames of a serial line with their check sums, passed on through a socket. */
export const FRAMINGS = ['tcp', 'rtu'] as const;
export type Framing = (typeof FRAMINGS)[number];

export interface LineSettings {
  readonly host: string;
  readonly port: number;
  readonly framing: Framing;
  /** How long a unit may take to answer, in ms. */
  readonly timeoutMs: number;
  /** How often a request is sent again before a unit counts as not answering. */
  readonly retries: number;
  /** Between an answer and the next request, in ms. */
  readonly pauseMs: number;
  /** Registers in one request at the most. */
  readonly largestRead: number;
}

export type LineTiming = Pick<LineSettings, 'timeoutMs' | 'retries'>;

/** Gateways commonly give up after one second themselves; a unit that needs longer is not well. */
export const USUAL_SETTINGS = {
  framing: 'tcp',
  timeoutMs: 1000,
  retries: 1,
  pauseMs: 0,
  largestRead: 125,
} as const;

/** What may be set, both ends included. A long time-out holds the line for everybody. */
export const SETTING_LIMITS = {
  port: [1, 65_535],
  timeoutMs: [50, 10_000],
  retries: [0, 5],
  pauseMs: [0, 1000],
  largestRead: [1, 125],
} as const;
