import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  crc16,
  exceptionPdu,
  joinFrame,
  joinRtuFrame,
  splitFrames,
  splitRtuFrames,
  type Frame,
} from './frame.ts';

const frame: fc.Arbitrary<Frame> = fc.record({
  transaction: fc.nat({ max: 0xffff }),
  unit: fc.nat({ max: 247 }),
  pdu: fc.uint8Array({ minLength: 1, maxLength: 253 }).map((bytes) => Buffer.from(bytes)),
});

describe('RTU frames', () => {
  // Requests whose length follows from their function.
  const request: fc.Arbitrary<Frame> = fc
    .record({ unit: fc.nat({ max: 247 }), rest: fc.uint8Array({ minLength: 4, maxLength: 4 }) })
    .map(({ unit, rest }) => ({ transaction: 0, unit, pdu: Buffer.from([3, ...rest]) }));

  it('come out as they went in, however the stream is cut, with the check sum of the standard', () => {
    fc.assert(
      fc.property(
        fc.array(request, { maxLength: 5 }),
        fc.array(fc.integer({ min: 1, max: 20 })),
        (frames, cuts) => {
          const stream = Buffer.concat(frames.map(joinRtuFrame));
          const got: Frame[] = [];
          let rest: Buffer = Buffer.alloc(0);
          let at = 0;
          for (const size of [...cuts, stream.length]) {
            const split = splitRtuFrames(Buffer.concat([rest, stream.subarray(at, at + size)]));
            if (split === 'not-modbus') throw new Error('dropped');
            got.push(...split.frames);
            rest = split.rest;
            at += size;
          }
          expect(got.map((each) => ({ ...each, pdu: Buffer.from(each.pdu) }))).toEqual(frames);
        },
      ),
      { seed: 640_713 },
    );
    // The example that every description of the protocol has: unit 1, function 3, one register from 0.
    expect(crc16(Buffer.from([0x01, 0x03, 0x00, 0x00, 0x00, 0x01]))).toBe(0x0a84);
  });

  it('with a bit that was lost are dropped', () => {
    const whole = joinRtuFrame({ transaction: 0, unit: 1, pdu: Buffer.from([3, 0, 1, 0, 2]) });
    for (let bit = 0; bit < whole.length * 8; bit += 1) {
      const damaged = Buffer.from(whole);
      damaged[bit >> 3] = (damaged[bit >> 3] ?? 0) ^ (1 << (bit & 7));
      const split = splitRtuFrames(damaged);
      expect(split !== 'not-modbus' && split.frames).toEqual([]);
    }
  });
});

describe('Modbus TCP frames', () => {
  it('come out as they went in, however the stream is cut', () => {
    fc.assert(
      fc.property(
        fc.array(frame, { maxLength: 5 }),
        fc.array(fc.integer({ min: 1, max: 300 })),
        (frames, cuts) => {
          const stream = Buffer.concat(frames.map(joinFrame));
          const got: Frame[] = [];
          let rest: Buffer = Buffer.alloc(0);
          let at = 0;
          for (const size of [...cuts, stream.length]) {
            const split = splitFrames(Buffer.concat([rest, stream.subarray(at, at + size)]));
            if (split === 'not-modbus') throw new Error('not taken as Modbus');
            got.push(...split.frames);
            rest = split.rest;
            at += size;
          }
          expect(got.map((each) => ({ ...each, pdu: Buffer.from(each.pdu) }))).toEqual(frames);
          expect(rest).toHaveLength(0);
        },
      ),
      { seed: 640_712 },
    );
  });

  it.each([
    ['another protocol', [0, 1, 0, 1, 0, 6, 1, 3, 0, 0, 0, 1]],
    ['a length of one', [0, 1, 0, 0, 0, 1, 1]],
    ['a length beyond the specification', [0, 1, 0, 0, 1, 0, 1, 3]],
  ])('are not recognised in %s', (_, bytes) => {
    expect(splitFrames(Buffer.from(bytes))).toBe('not-modbus');
  });

  it('mark an exception in the function code', () => {
    expect([...exceptionPdu(3, 2)]).toEqual([0x83, 2]);
  });
});
