// A plate against what a drive's set tells, and plates against each other: field by field, never merged silently.

import { PLATE_FIELDS, type PlateKey, type ToldValue } from './plate-from-set.ts';
import { BRAKE_FIELDS, MOTOR_FIELDS, RATING_FIELDS, type MotorPlate, type PlateRating } from './plate.ts';

export interface FieldClash {
  readonly key: PlateKey;
  readonly name: string;
  /** In base units; nothing where that side does not tell it. */
  readonly plate: number | null;
  readonly told: number | null;
  readonly clashes: boolean;
}

/** As for differences of measured values: copper between cold and warm makes 10 % (IEC 60228). */
const MEASURED_TOLERANCE = 0.1;
/** Numbers on two plates are the same number, but for how they were written. */
const SAME = 1e-6;

/**
 * Every field that either side tells, with whether they clash: beyond half of the step in which the drive tells it, or
 * beyond a tenth for what it measured. A field that one side does not tell never clashes.
 */
export function clashesOf(plate: MotorPlate, told: ReadonlyMap<PlateKey, ToldValue>): readonly FieldClash[] {
  const rating = ratingFor(plate, told.get('voltage')?.value);
  return (Object.keys(PLATE_FIELDS) as PlateKey[]).flatMap((key) => {
    const wanted = valueOf(plate, rating, key) ?? null;
    const found = told.get(key);
    if (wanted === null && !found) return [];
    const clashes = wanted !== null && found !== undefined && !agrees(wanted, found);
    return [{ key, name: PLATE_FIELDS[key].name, plate: wanted, told: found?.value ?? null, clashes }];
  });
}

function agrees(wanted: number, { value, step, measured }: ToldValue): boolean {
  const tolerance = Math.max(step / 2, measured ? MEASURED_TOLERANCE * Math.max(wanted, value) : 0);
  return Math.abs(wanted - value) <= tolerance * (1 + SAME);
}

/** The rating for this supply: that of the same voltage, or the only one. */
export function ratingFor({ ratings }: MotorPlate, voltage: number | undefined): PlateRating | undefined {
  const same = ratings.find((rating) => rating.voltage === voltage);
  return same ?? (ratings.length === 1 ? ratings[0] : undefined);
}

function valueOf(plate: MotorPlate, rating: PlateRating | undefined, key: PlateKey): number | undefined {
  if (key in RATING_FIELDS) return rating?.[key as keyof typeof RATING_FIELDS];
  if (key in BRAKE_FIELDS) return plate.brake?.[key as keyof typeof BRAKE_FIELDS];
  return plate[key as keyof typeof MOTOR_FIELDS];
}

/** True for plates with the same numbers in all that both tell, power and current among it. */
export function sameNumbers(a: MotorPlate, b: MotorPlate): boolean {
  const [one, other] = [numbersOf(a), numbersOf(b)];
  if (!one.has('power') || !other.has('power') || !one.has('current') || !other.has('current')) return false;
  return [...one].every(([key, value]) => {
    const same = other.get(key);
    return same === undefined || Math.abs(same - value) <= SAME * Math.max(same, value);
  });
}

/** Of the first rating. */
function numbersOf(plate: MotorPlate): ReadonlyMap<PlateKey, number> {
  const [rating] = plate.ratings;
  return new Map(
    (Object.keys(PLATE_FIELDS) as PlateKey[]).flatMap((key) => {
      const value = valueOf(plate, rating, key);
      return value === undefined ? [] : [[key, value] as const];
    }),
  );
}

/** What a set tells as a plate of its own. */
export function plateOf(told: ReadonlyMap<PlateKey, ToldValue>): MotorPlate {
  const part = (fields: object) =>
    Object.fromEntries(
      (Object.keys(fields) as PlateKey[]).flatMap((key) => {
        const found = told.get(key);
        return found ? [[key, found.value]] : [];
      }),
    );
  const brake = part(BRAKE_FIELDS);
  return {
    ratings: [part(RATING_FIELDS)],
    ...part(MOTOR_FIELDS),
    ...(Object.keys(brake).length > 0 ? { brake } : {}),
  };
}
