import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { exceptionPdu, joinFrame, splitFrames, type Frame } from './frame.ts';

const frame: fc.Arbitrary<Frame> = fc.record({
  transaction: fc.nat({ max: 0xffff }),
  unit: fc.nat({ max: 247 }),
  pdu: fc.uint8Array({ minLength: 1, maxLength: 253 }).map((bytes) => Buffer.from(bytes)),
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
