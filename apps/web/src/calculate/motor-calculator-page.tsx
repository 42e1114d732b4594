// The motor calculator: what follows from a plate, each line with its formula and the numbers put in. From a position, from the
// library, or typed; the address holds all of it.

import type { MotorView } from '@drive-keep/api';
import { motorInputOf } from '@drive-keep/core/checks';
import { deratedBy } from '@drive-keep/core/rules';
import {
  motorSheet,
  type MotorSheetField,
  type MotorSheetInput,
  type MotorSheetLine,
} from '@drive-keep/core/motor';
import { useMotors } from '../api/queries.ts';
import { Nothing, Unanswered } from '../ui/answer.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { PositionField } from '../ui/position-field.tsx';
import { NumberField, readTyped, typedOf } from './number-field.tsx';
import { useGround } from './use-ground.ts';
import { useTypedAddress, type ChangeAddress } from './use-typed-address.ts';

interface FieldAbout {
  readonly label: string;
  readonly unit: string;
  /** Of the unit on the screen in the base unit. */
  readonly scale: number;
}

const FIELDS: Readonly<Record<string, Readonly<Partial<Record<MotorSheetField, FieldAbout>>>>> = {
  Plate: {
    power: { label: 'Power', unit: 'kW', scale: 1000 },
    voltage: { label: 'Voltage', unit: 'V', scale: 1 },
    current: { label: 'Current', unit: 'A', scale: 1 },
    frequency: { label: 'Frequency', unit: 'Hz', scale: 1 },
    speed: { label: 'Speed', unit: 'rpm', scale: 1 },
    powerFactor: { label: 'cos φ', unit: '', scale: 1 },
    poles: { label: 'Poles', unit: '', scale: 1 },
  },
  Load: {
    inertia: { label: 'Rotor inertia', unit: 'kg·cm²', scale: 1e-4 },
    loadInertia: { label: 'Load inertia', unit: 'kg·cm²', scale: 1e-4 },
    loadTorque: { label: 'Load torque', unit: 'Nm', scale: 1 },
    rampDown: { label: 'Ramp down', unit: 's', scale: 1 },
  },
  'Drive and site': {
    unitCurrent: { label: 'Unit, at its duty', unit: 'A', scale: 1 },
    limitCurrent: { label: 'Current limit', unit: 'A', scale: 1 },
    carrier: { label: 'Carrier', unit: 'kHz', scale: 1 },
    byCarrier: { label: 'Carrier leaves', unit: '%', scale: 1 },
    ambient: { label: 'Cabinet', unit: '°C', scale: 1 },
    byHeat: { label: 'Heat leaves', unit: '%', scale: 1 },
    altitude: { label: 'Height', unit: 'm', scale: 1 },
    supply: { label: 'Supply', unit: 'V', scale: 1 },
  },
};

export function MotorCalculatorPage() {
  const [params, change] = useTypedAddress();
  const [tag, motor] = [params.get('position') ?? '', params.get('motor') ?? ''];
  const of = params.get('of') === 'set' ? 'set' : 'plate';
  const { ground, error } = useGround(tag, params.get('set') ?? 'newest');
  const { data: motors } = useMotors();
  const loaded: MotorSheetInput = ground ? motorInputOf(ground, of) : plateInput(motors ?? [], motor);
  const input = typedOver(loaded, params, ground);
  return (
    <Page title="Motor calculator">
      <div className="mb-3 flex flex-wrap items-end gap-x-6 gap-y-2">
        <h1 className="text-2xl font-semibold">Motor calculator</h1>
        <span className="contents print:hidden">
          <PositionField
            label="with the numbers of"
            tag={tag}
            choose={(position) => change({ ...NOTHING_TYPED, position, motor: '' })}
          />
          {tag === '' && (
            <Choice
              label="or a motor of the library"
              value={motor}
              onChange={({ target }) => change({ ...NOTHING_TYPED, motor: target.value })}
              options={[{ id: '', name: 'typed by hand' }, ...(motors ?? []).flatMap(ratingsOf)]}
            />
          )}
          {ground?.plate && (
            <Choice
              label="Motor as"
              value={of}
              onChange={({ target }) => change({ of: target.value === 'set' ? 'set' : '' })}
              options={[
                { id: 'plate', name: 'its plate says' },
                { id: 'set', name: 'the drive is set' },
              ]}
            />
          )}
          <span className="ml-auto">
            <Button onClick={() => window.print()}>Print</Button>
          </span>
        </span>
      </div>
      {tag !== '' && !ground && <Unanswered error={error} what={`the numbers of ${tag}`} />}
      {tag === '' && motors && motor !== '' && !plateOf(motors, motor) && (
        <Nothing>This motor is not in the library any more. Choose another one, or type its plate.</Nothing>
      )}
      <Parts {...{ loaded, params, change }} />
      <Lines lines={motorSheet(input)} />
    </Page>
  );
}

function Parts({
  loaded,
  params,
  change,
}: {
  loaded: MotorSheetInput;
  params: URLSearchParams;
  change: ChangeAddress;
}) {
  return (
    <>
      {Object.entries(FIELDS).map(([part, fields]) => (
        <SheetPart key={part} name={part}>
          <div className="flex flex-wrap gap-x-5 gap-y-2">
            {(Object.entries(fields) as [MotorSheetField, FieldAbout][]).map(
              ([name, { label, unit, scale }]) => {
                const typed = params.get(name);
                const from = loaded[name];
                return (
                  <NumberField
                    key={name}
                    {...{ label, unit }}
                    value={typed ?? typedOf(from === undefined ? undefined : from / scale)}
                    fault={typed === null ? '' : readTyped(typed).fault}
                    changed={typed !== null && from !== undefined}
                    change={(text) => change({ [name]: text })}
                  />
                );
              },
            )}
          </div>
        </SheetPart>
      ))}
    </>
  );
}

/** What is typed takes the place of what came along; what heat and carrier leave follows from what is typed of them. */
function typedOver(
  loaded: MotorSheetInput,
  params: URLSearchParams,
  ground: ReturnType<typeof useGround>['ground'],
): MotorSheetInput {
  const typed = Object.fromEntries(
    Object.values(FIELDS).flatMap((fields) =>
      (Object.entries(fields) as [MotorSheetField, FieldAbout][]).flatMap(([name, { scale }]) => {
        const text = params.get(name);
        const { value } = readTyped(text ?? '');
        return text === null ? [] : [[name, value === undefined ? undefined : value * scale]];
      }),
    ),
  ) as MotorSheetInput;
  const over = { ...loaded, ...typed };
  if (!ground) return over;
  const { byHeat, byCarrier } = deratedBy(
    ground.set.dictionary.derating,
    over.ambient ?? null,
    over.carrier ?? null,
  );
  return { ...over, byHeat: typed.byHeat ?? byHeat, byCarrier: typed.byCarrier ?? byCarrier };
}

/** One to choose for each rating of a plate: a motor for two voltages has the numbers of both. */
const ratingsOf = ({ id, name, plate }: MotorView) =>
  plate.ratings.map(({ voltage, connection }, at) => ({
    id: at === 0 ? id : `${id}:${at}`,
    name:
      plate.ratings.length === 1
        ? name
        : [name, voltage && `${voltage} V`, connection].filter(Boolean).join(', '),
  }));

const plateOf = (motors: readonly MotorView[], chosen: string) =>
  motors.find(({ id }) => id === chosen.split(':')[0])?.plate;

function plateInput(motors: readonly MotorView[], chosen: string): MotorSheetInput {
  const plate = plateOf(motors, chosen);
  const rating = plate?.ratings[Number(chosen.split(':')[1] ?? 0)];
  return { ...rating, poles: plate?.poles, inertia: plate?.inertia };
}

/** With other numbers to begin with, what was typed over the ones before is gone. */
const NOTHING_TYPED = Object.fromEntries(
  Object.values(FIELDS).flatMap((fields) => Object.keys(fields).map((name) => [name, ''])),
);

const NAMES = Object.fromEntries(
  Object.values(FIELDS).flatMap((fields) =>
    Object.entries(fields).map(([name, { label }]) => [name, label.toLowerCase()]),
  ),
) as Readonly<Record<string, string>>;

function Lines({ lines }: { lines: readonly MotorSheetLine[] }) {
  return (
    <div className="mt-2 overflow-x-auto border-t border-rule pt-3">
      <table className="w-full min-w-[52rem] text-sm">
        <thead className="text-left text-soft">
          <tr>
            <th className="py-1 font-normal">What follows</th>
            <th className="font-normal">Result</th>
            <th className="font-normal">Formula</th>
            <th className="font-normal">With the numbers</th>
          </tr>
        </thead>
        <tbody>
          {lines.map(({ id, name, formula, worked, result, missing, attention, remark }) => (
            <tr
              key={id}
              data-line={id}
              className={`border-t border-rule align-baseline ${attention === 'stop' ? 'bg-stop-wash' : attention === 'look' ? 'bg-look-wash' : ''}`}
            >
              <th scope="row" className="w-52 py-1.5 pr-3 text-left font-medium">
                {name}
              </th>
              <td className="w-80 pr-3">
                {attention === 'stop' && <strong className="mr-1 text-stop">!</strong>}
                {result === null ? (
                  <span className="text-soft">
                    {missing.length > 0 && `needs ${missing.map((each) => NAMES[each] ?? each).join(', ')}`}
                  </span>
                ) : (
                  <b className="font-mono text-base">{result}</b>
                )}{' '}
                <span className="text-soft">{remark}</span>
              </td>
              <td className="pr-3 font-mono">{formula}</td>
              <td className="font-mono text-soft">{worked}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
