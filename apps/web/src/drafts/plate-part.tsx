// The plate: typed, from the library, or of a position; and what follows from it, each line with its formula.

import type { MotorView } from '@drive-keep/api';
import type { MotorPlate } from '@drive-keep/core/motor';
import { PLATE_LINES, type DraftSheet } from '@drive-keep/core/start';
import { useMotors } from '../api/queries.ts';
import { Choice } from '../ui/choice.tsx';
import { FieldsPart } from './sections.tsx';
import type { Typing } from './use-typing.ts';

export function PlatePart({ sheet, typing }: { sheet: DraftSheet; typing: Typing }) {
  const { data: motors } = useMotors();
  return (
    <FieldsPart section="plate" sheet={sheet} typing={typing} after={<Follows sheet={sheet} />}>
      {typing.may && motors && motors.length > 0 && (
        <div className="pb-2">
          <Choice
            label="Take the plate of"
            wide
            value=""
            options={[{ id: '', name: 'a motor of the library …' }, ...motors.flatMap(choicesOf)]}
            onChange={({ target }) => {
              const [id, at] = target.value.split(' ');
              const motor = motors.find((each) => each.id === id);
              if (motor) typing.type(fieldsOf(motor.plate, Number(at)));
            }}
          />
        </div>
      )}
    </FieldsPart>
  );
}

/** A plate may have several ratings: star and delta, 50 and 60 Hz. */
const choicesOf = ({ id, name, plate }: MotorView) =>
  plate.ratings.map(({ voltage, frequency }, at) => ({
    id: `${id} ${at}`,
    name: plate.ratings.length === 1 ? name : `${name}: ${voltage ?? '?'} V, ${frequency ?? '?'} Hz`,
  }));

/** What is not on the plate stays as it was typed. */
export function fieldsOf({ ratings, inertia }: MotorPlate, at: number): Readonly<Record<string, string>> {
  const told: Readonly<Record<string, unknown>> = { ...ratings[at], inertia };
  return Object.fromEntries(
    PLATE_LINES.flatMap(({ key, times }) => {
      const value = told[key.replace('plate.', '')];
      return key.startsWith('plate.') && typeof value === 'number'
        ? [[key, String(Number((value / times).toPrecision(6)))]]
        : [];
    }),
  );
}

function Follows({ sheet: { motor } }: { sheet: DraftSheet }) {
  const told = motor.filter(({ result, attention }) => result !== null || attention === 'stop');
  const odd = told.filter(({ attention }) => attention !== null);
  if (told.length === 0) return null;
  return (
    <>
      {odd.map(({ id, name, result, remark, attention }) => (
        <p
          key={id}
          className={`my-1 border-l-4 px-2 py-0.5 text-sm ${attention === 'stop' ? 'border-stop bg-stop-wash' : 'border-look bg-look-wash'}`}
        >
          {name}: {result} {remark}
        </p>
      ))}
      <details className="mt-1 text-sm">
        <summary className="cursor-pointer py-1 max-lg:min-h-12">
          What follows from the plate <span className="text-soft">{told.length}</span>
        </summary>
        {told.map(({ id, name, formula, worked, result, remark }) => (
          <p key={id} className="border-b border-rule py-1">
            {name} <b className="font-medium">{result}</b>{' '}
            <span className="text-soft">
              {formula} = {worked}. {remark}
            </span>
          </p>
        ))}
      </details>
    </>
  );
}
