// Framing by the Modbus Messaging on TCP/IP Implementation Guide V1.0b and the Application Protocol V1.1b3:
// header of transaction, protocol 0, length, unit identifier; then function and data, all big-endian.

//
// RTU frames on a socket, as a gateway passes them through: unit, function and data, check sum (CRC-16 of the Modbus over
// Serial Line Specification V1.02, section 2.5.1.2), low byte first. Their length follows from the function.

export type Framing = 'tcp' | 'rtu';

export interface Frame {
  /** 0 in RTU, which does not number its requests. */
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

/** Requests as they lie on a serial line; what does not add up is dropped without an answer, as units do. */
export function splitRtuFrames(received: Buffer): Split {
  const frames: Frame[] = [];
  let rest = received;
  while (rest.length >= 2) {
    const length = rtuLength(rest);
    if (length === undefined || rest.length < length) break;
    const frame = rest.subarray(0, length);
    rest = rest.subarray(length);
    if (crc16(frame.subarray(0, -2)) !== frame.readUInt16LE(length - 2))
      return { frames, rest: Buffer.alloc(0) };
    frames.push({ transaction: 0, unit: frame.readUInt8(0), pdu: frame.subarray(1, -2) });
  }
  return { frames, rest };
}

/** Of a request; nothing before it can be told. */
function rtuLength(received: Buffer): number | undefined {
  const several = received.readUInt8(1) === 16;
  if (several) return received.length > 6 ? 9 + received.readUInt8(6) : undefined;
  return 8;
}

export function joinRtuFrame({ unit, pdu }: Frame): Buffer {
  const body = Buffer.concat([Buffer.from([unit]), pdu]);
  const sum = Buffer.alloc(2);
  sum.writeUInt16LE(crc16(body));
  return Buffer.concat([body, sum]);
}

/** Polynomial 0xA001 (x^16 + x^15 + x^2 + 1 mirrored), begun with 0xFFFF. */
export function crc16(bytes: Buffer): number {
  let sum = 0xffff;
  for (const byte of bytes) {
    sum ^= byte;
    for (let bit = 0; bit < 8; bit += 1) sum = sum & 1 ? (sum >>> 1) ^ 0xa001 : sum >>> 1;
  }
  return sum;
}

/** Exception codes of the Application Protocol, section 7. */
export const EXCEPTION = { function: 1, address: 2, value: 3, failure: 4, busy: 6, noTarget: 11 } as const;
export type Exception = (typeof EXCEPTION)[keyof typeof EXCEPTION];

export const exceptionPdu = (functionCode: number, exception: number): Buffer =>
  Buffer.from([functionCode | 0x80, exception]);
