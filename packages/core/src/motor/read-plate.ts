// A plate as somebody typed it, field by field as text, to the numbers that are kept. All faults are collected; an empty
// field is one that the plate does not tell.

import { said, type Finding, type Said } from '../findings/index.ts';
import { fail, ok, type Result } from '../values/index.ts';
import {
  BRAKE_FIELDS,
  CONNECTIONS,
  MOTOR_FIELDS,
  parsePlateValue,
  RATING_FIELDS,
  SENSORS,
  showPlateValue,
  type MotorPlate,
  type PlateFault,
  type PlateField,
  type PlateRating,
} from './plate.ts';

export interface PlateText {
  readonly ratings: readonly Readonly<Record<string, string>>[];
  readonly motor: Readonly<Record<string, string>>;
  readonly brake: Readonly<Record<string, string>>;
}

function plateSaid(fault: PlateFault): Said {
  const { text } = fault;
  switch (fault.code) {
    case 'comma':
      return said('has-a-comma', { text });
    case 'not-a-number':
      return said('plate-number', { text });
    case 'other-quantity':
      return said('plate-unit', { text, unit: fault.unit });
    case 'not-positive':
      return said('plate-not-positive', { text });
  }
}

/** Findings are at the field, by its name on the screen. */
export function readPlate(text: PlateText): Result<MotorPlate, readonly Finding[]> {
  const findings: Finding[] = [];
  const stop = (column: string, why: Said): void => void findings.push({ ...why, column, attention: 'stop' });
  const numbers = (fields: Readonly<Record<string, PlateField>>, from: Readonly<Record<string, string>>) => {
    const read: Record<string, number> = {};
    for (const [key, field] of Object.entries(fields)) {
      const given = from[key]?.trim() ?? '';
      if (given === '') continue;
      const value = parsePlateValue(field, given);
      if (value.ok) read[key] = value.value;
      else stop(field.name, plateSaid(value.fault));
    }
    return read;
  };
  const choice = <T extends string>(name: string, known: readonly T[], given = ''): T | undefined => {
    const found = known.find((each) => each === given.trim());
    if (!found && given.trim() !== '') stop(name, said('plate-choice', { text: given, known }));
    return found;
  };
  const ratings = text.ratings
    .map((rating): PlateRating => {
      const connection = choice('Connection', CONNECTIONS, rating['connection']);
      return { ...numbers(RATING_FIELDS, rating), ...(connection ? { connection } : {}) };
    })
    .filter((rating) => Object.keys(rating).length > 0);
  if (ratings.length === 0) stop('Ratings', said('plate-without-rating', {}));
  const voltages = ratings.map(({ voltage, frequency }) => `${voltage ?? ''} ${frequency ?? ''}`);
  if (new Set(voltages).size < voltages.length) stop('Ratings', said('ratings-of-one-supply', {}));
  const sensor = choice('Temperature sensor', SENSORS, text.motor['sensor']);
  const feedback = text.motor['feedback']?.trim() ?? '';
  const brake = numbers(BRAKE_FIELDS, text.brake);
  const motor = numbers(MOTOR_FIELDS, text.motor);
  if (findings.length > 0) return fail(findings);
  return ok({
    ratings,
    ...motor,
    ...(sensor ? { sensor } : {}),
    ...(feedback === '' ? {} : { feedback }),
    ...(Object.keys(brake).length > 0 ? { brake } : {}),
  });
}

/** The inverse: what stands in the fields for a kept plate. */
export function writePlate(plate: MotorPlate): PlateText {
  const texts = (fields: Readonly<Record<string, PlateField>>, from: object) =>
    Object.fromEntries(
      Object.entries(fields).flatMap(([key, field]) => {
        const value = (from as Readonly<Record<string, number | undefined>>)[key];
        return value === undefined ? [] : [[key, showPlateValue(field, value)]];
      }),
    );
  return {
    ratings: plate.ratings.map((rating) => ({
      ...texts(RATING_FIELDS, rating),
      ...(rating.connection ? { connection: rating.connection } : {}),
    })),
    motor: {
      ...texts(MOTOR_FIELDS, plate),
      ...(plate.sensor ? { sensor: plate.sensor } : {}),
      ...(plate.feedback ? { feedback: plate.feedback } : {}),
    },
    brake: texts(BRAKE_FIELDS, plate.brake ?? {}),
  };
}

/** Behind a name, without what the name says already: "Roller gear motor 1.5 kW" is not told twice of how much. */
export const plateLineBeside = (name: string, plate: MotorPlate): string =>
  plateLine(plate)
    .split(', ')
    .filter((part) => !name.includes(part))
    .join(', ');

/** One line as people say it: `1.5 kW, 400 V star, 3.6 A, 1410 rpm`. */
export function plateLine(plate: MotorPlate): string {
  const [rating = {}] = plate.ratings;
  const part = (key: keyof typeof RATING_FIELDS) => {
    const value = rating[key];
    return value === undefined ? [] : [showPlateValue(RATING_FIELDS[key], value)];
  };
  const supply = [...part('voltage'), ...(rating.connection ? [rating.connection] : [])].join(' ');
  const torque =
    plate.stallTorque === undefined ? [] : [showPlateValue(MOTOR_FIELDS.stallTorque, plate.stallTorque)];
  return [
    ...part('power'),
    ...(supply === '' ? [] : [supply]),
    ...part('current'),
    ...part('speed'),
    ...torque,
  ].join(', ');
}
