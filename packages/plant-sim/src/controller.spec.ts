import { join } from 'node:path';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { loadModels, SimController, SimUnit } from './index.ts';

const model = loadModels(join(import.meta.dirname, '../../catalogue/models')).get('quenby-s4@1');
if (!model) throw new Error('no servo');
const servo = model;
const told = {
  ...{ line: 'one', dictionary: servo.id, rating: 'S4-12', region: '400-v' },
  ...{ firmware: 421, values: {} },
};

let now = 0;
let axes: SimUnit[];
let controller: SimController;

beforeEach(() => {
  now = 0;
  axes = [1, 2].map((address) => new SimUnit({ ...told, address, serial: address }, servo, 400, () => now));
  controller = new SimController(axes, () => now);
  for (const axis of axes) axis.controller = controller;
});

const words = (answer: Buffer): number[] =>
  Array.from({ length: answer.readUInt8(1) / 2 }, (_, at) => answer.readUInt16BE(2 + at * 2));
const state = () => words(controller.answer(Buffer.from([3, 0, 1, 0, 2])));
const command = (value: number): Buffer => controller.answer(Buffer.from([6, 0, 3, 0, value]));

describe('the controller of a machine', () => {
  it('says what it is, and enables its axes while it runs', () => {
    expect(words(controller.answer(Buffer.from([3, 0, 0, 0, 1])))).toEqual([7001]);
    expect([state(), axes.map(({ running }) => running)]).toEqual([
      [1, 1],
      [true, true],
    ]);
    command(1);
    expect([state()[0], axes.map(({ running }) => running)]).toEqual([2, [false, false]]);
    command(2);
    expect(axes.every(({ running }) => running)).toBe(true);
  });

  it('is ready some time after its restart, when all axes answer', () => {
    command(3);
    expect(state()).toEqual([1, 0]);
    now += 600;
    expect(state()).toEqual([1, 1]);
    axes[1]?.setMischief({ silent: true });
    expect(state()).toEqual([1, 0]);
  });

  it('refuses what it does not know', () => {
    const exception = (answer: Buffer) => [answer.readUInt8(0) & 0x80, answer.readUInt8(1)];
    expect(exception(command(9))).toEqual([0x80, 3]);
    expect(exception(controller.answer(Buffer.from([6, 0, 1, 0, 1])))).toEqual([0x80, 2]);
    expect(exception(controller.answer(Buffer.from([3, 0, 0, 0, 9])))).toEqual([0x80, 2]);
    expect(exception(controller.answer(Buffer.from([1, 0, 0, 0, 1])))).toEqual([0x80, 1]);
    expect(controller.runs).toBe(true);
  });
});
