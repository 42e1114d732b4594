// The motor library of the demo plant: each motor once, with the numbers of the position that had it first.

import { CONNECTIONS, plateFromSet, plateLineBeside, plateOf, type MotorPlate } from '@drive-keep/core/motor';
import type { Bridge } from '@drive-keep/core/meanings';
import type { EntityManager } from 'typeorm';
import { Motor } from '../motors/motor.entity.ts';
import { Position } from '../register/position.entity.ts';
import type { Placed } from './demo-history.ts';
import { setAt } from './position-history.ts';
import { ENGINEER, NIGHTS } from './story.ts';

export async function makeMotors(
  manager: EntityManager,
  bridge: Bridge,
  placed: readonly Placed[],
  at: Date,
): Promise<void> {
  const known = new Map<string, string>();
  for (const each of placed) {
    const name = nameOf(each.told.motor);
    const id = known.get(name) ?? (await makeMotor(manager, name, plateAt(bridge, each), at));
    known.set(name, id);
    await manager.update(Position, { id: each.position.id }, { motorId: id });
  }
}

async function makeMotor(manager: EntityManager, name: string, plate: MotorPlate, at: Date): Promise<string> {
  const { id } = await manager.save(Motor, {
    name,
    plate,
    line: plateLineBeside(name, plate),
    startedFrom: '',
    changedBy: ENGINEER,
    changedAt: at,
  });
  return id;
}

/** "Belt gear motor 0.75 kW, 400 V star, …" is called "Belt gear motor 0.75 kW". */
const nameOf = (motor: string): string => motor.split(',')[0] ?? motor;

function plateAt(bridge: Bridge, { told, dictionary }: Placed): MotorPlate {
  const plate = plateOf(plateFromSet(bridge, dictionary, setAt(dictionary, told, NIGHTS + 1)));
  const connection = CONNECTIONS.find((each) => told.motor.includes(each));
  const speed = /(\d+) rpm/.exec(told.motor)?.[1];
  const [rating = {}] = plate.ratings;
  const onPlate = { ...(connection ? { connection } : {}), ...(speed ? { speed: Number(speed) } : {}) };
  return { ...plate, ratings: [{ ...rating, ...onPlate }] };
}
