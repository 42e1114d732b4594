// Modbus TCP framing by the Modbus Messaging on TCP/IP Implementation Guide V1.0b and the Application Protocol V1.1b3:
// header of transaction, protocol 0, length, unit identifier; then function and data, all big-endian.

export interface Frame {
  readonly transaction: number;
  readonly unit: number;
  /** Function code and data. */
  readonly pdu: Buffer;
}

const HEADER = 7;
/** A PDU has at most 253 bytes, so the length field (unit and PDU) is at most 254. */
const MOST_LENGTH = 254;

export type Split = { readonly frames: readonly Frame[]; readonly rest: Buffer } | 'not-modbus';

/** Takes the complete frames off the front of what has been received. */
export function splitFrames(received: Buffer): Split {
  const frames: Frame[] = [];
  let rest = received;
  while (rest.length >= HEADER) {
    const length = rest.readUInt16BE(4);
    if (rest.readUInt16BE(2) !== 0 || length < 2 || length > MOST_LENGTH) return 'not-modbus';
    if (rest.length < 6 + length) break;
    frames.push({
      transaction: rest.readUInt16BE(0),
      unit: rest.readUInt8(6),
      pdu: rest.subarray(HEADER, 6 + length),
    });
    rest = rest.subarray(6 + length);
  }
  return { frames, rest };
}

export function joinFrame({ transaction, unit, pdu }: Frame): Buffer {
  const header = Buffer.alloc(HEADER);
  header.writeUInt16BE(transaction, 0);
  header.writeUInt16BE(pdu.length + 1, 4);
  header.writeUInt8(unit, 6);
  return Buffer.concat([header, pdu]);
}

/** Exception codes of the Application Protocol, section 7. */
export const EXCEPTION = { function: 1, address: 2, value: 3, failure: 4, busy: 6, noTarget: 11 } as const;
export type Exception = (typeof EXCEPTION)[keyof typeof EXCEPTION];

export const exceptionPdu = (functionCode: number, exception: number): Buffer =>
  Buffer.from([functionCode | 0x80, exception]);
