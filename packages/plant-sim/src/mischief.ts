// What can be wrong with a unit on its line. Set in the plant description or through the control port.

export type Corruption = 'short' | 'transaction' | 'function' | 'noise';

export interface Mischief {
  /** The plug is pulled: no answer at all. */
  readonly silent: boolean;
  /** Added to the delay of the line, in ms. */
  readonly extraDelayMs: number;
  /** Closes the connection in the middle of the answer to this request, counted from now; 0 is off. */
  readonly breakAfter: number;
  /** Registers that are refused (exception 2), though the manual has them. */
  readonly refuse: readonly number[];
  readonly corrupt: Corruption | null;
  /** Another unit takes its place in the middle: after so many requests it reports another serial number. */
  readonly swap: { readonly after: number; readonly serial: number } | null;
  /** Something happens at the machine in the middle: after so many requests, once. */
  readonly event: { readonly after: number; readonly what: 'start' | 'power-cycle' | 'lock' } | null;
}

export const NO_MISCHIEF: Mischief = {
  silent: false,
  extraDelayMs: 0,
  breakAfter: 0,
  refuse: [],
  corrupt: null,
  swap: null,
  event: null,
};

/** Damages an answer in one of the ways that gateways and bad cables do. */
export function corruptAnswer(answer: Buffer, how: Corruption): Buffer {
  const damaged = Buffer.from(answer);
  switch (how) {
    case 'short': {
      // One register fewer than asked for, in a frame that is right in itself.
      const shorter = damaged.subarray(0, damaged.length - 2);
      shorter.writeUInt16BE(shorter.length - 6, 4);
      if (shorter.length > 8) shorter.writeUInt8(shorter.length - 9, 8);
      return shorter;
    }
    case 'transaction':
      damaged.writeUInt16BE((damaged.readUInt16BE(0) + 7) & 0xffff, 0);
      return damaged;
    case 'function':
      damaged.writeUInt8(0x14, 7);
      return damaged;
    case 'noise':
      return Buffer.from([0xff, 0x00, 0xaa, 0x55, 0x00, 0x03, 0x7f, 0x01, 0x02]);
  }
}

/** The same in frames that have no number of the request. */
export function corruptRtuAnswer(answer: Buffer, how: Corruption): Buffer {
  const damaged = Buffer.from(answer);
  switch (how) {
    case 'short':
      return damaged.subarray(0, damaged.length - 2);
    case 'transaction':
      // A bit was lost on the way: the check sum no longer fits.
      damaged.writeUInt8(damaged.readUInt8(damaged.length - 3) ^ 0x01, damaged.length - 3);
      return damaged;
    case 'function':
      damaged.writeUInt8(0x14, 1);
      return damaged;
    case 'noise':
      return Buffer.from([0xff, 0x00, 0xaa, 0x55, 0x00, 0x03, 0x7f, 0x01, 0x02]);
  }
}
