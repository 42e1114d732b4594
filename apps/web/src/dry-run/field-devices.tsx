// The machine's own devices, worked with mouse, finger or keys: what is momentary acts as long as it is held.

import type { Event, State } from '@drive-keep/core/behaviour';
import { sayPosition } from '@drive-keep/core/behaviour';
import type { FieldDevice } from '@drive-keep/core/wiring';
import { useRef, type KeyboardEvent } from 'react';

type Do = (...events: readonly Event[]) => void;

export function FieldDevices({
  devices,
  state,
  happen,
}: {
  devices: readonly FieldDevice[];
  state: State;
  happen: Do;
}) {
  const worked = devices.filter(({ kind }) => !['load', 'brake', 'relay', 'supply'].includes(kind));
  return (
    <ul className="flex flex-wrap gap-3" aria-label="Devices in the field">
      {worked.map((device) => (
        <li
          key={device.name}
          className="w-[calc(50%-0.375rem)] rounded sm:w-44 border border-rule bg-sheet p-2"
        >
          <p className="flex items-baseline justify-between gap-2">
            <b className="font-mono">{device.name}</b>
            <Symbol device={device} to={state.devices[device.name] ?? 0} />
          </p>
          <p className="mb-1 min-h-5 truncate text-sm text-soft" title={device.what}>
            {device.what}
          </p>
          <Control device={device} to={state.devices[device.name] ?? 0} happen={happen} />
        </li>
      ))}
    </ul>
  );
}

const BUTTON =
  'min-h-11 w-full touch-none select-none rounded border border-rule px-2 text-sm font-medium max-lg:min-h-12';
const pressed = (on: boolean): string =>
  on ? 'bg-plum text-on-plum border-plum' : 'bg-ground hover:border-plum';

function Control({ device, to, happen }: { device: FieldDevice; to: number; happen: Do }) {
  const turn = (place: number) => happen({ kind: 'device', name: device.name, to: place });
  if (device.kind === 'selector') return <Places device={device} to={to} turn={turn} />;
  if (device.kind === 'transmitter' || device.kind === 'potentiometer')
    return <Slider device={device} to={to} turn={turn} />;
  if (device.kind === 'contact' && device.momentary) return <Momentary device={device} to={to} turn={turn} />;
  return (
    <button
      type="button"
      aria-pressed={to !== 0}
      className={`${BUTTON} ${pressed(to !== 0)}`}
      onClick={() => turn(to === 0 ? 1 : 0)}
    >
      {sayPosition(device, to)}
    </button>
  );
}

interface Turned {
  readonly to: number;
  readonly turn: (place: number) => void;
}

function Places({ device, to, turn }: Turned & { device: FieldDevice & { kind: 'selector' } }) {
  return (
    <div role="group" aria-label={`${device.name}, place`} className="flex gap-1">
      {device.places.map(({ name }, place) => (
        <button
          key={name}
          type="button"
          aria-pressed={place === to}
          className={`${BUTTON} ${pressed(place === to)}`}
          onClick={() => turn(place)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

/** Held by the pointer or by the space bar. */
function Momentary({ device, to, turn }: Turned & { device: FieldDevice }) {
  const held = useRef(false);
  const press = () => {
    held.current = true;
    turn(1);
  };
  const letGo = () => {
    if (held.current || to !== 0) turn(0);
    held.current = false;
  };
  const isKey = ({ key, repeat }: KeyboardEvent) => (key === ' ' || key === 'Enter') && !repeat;
  return (
    <button
      type="button"
      aria-pressed={to !== 0}
      aria-label={`${device.name}, hold`}
      className={`${BUTTON} ${pressed(to !== 0)}`}
      onPointerDown={press}
      onPointerUp={letGo}
      onPointerLeave={letGo}
      onPointerCancel={letGo}
      onKeyDown={(event) => {
        if (!isKey(event)) return;
        event.preventDefault();
        press();
      }}
      onKeyUp={(event) => {
        if (!isKey(event)) return;
        event.preventDefault();
        letGo();
      }}
      onBlur={letGo}
    >
      {to === 0 ? 'hold' : 'pressed'}
    </button>
  );
}

const STEPS = 100;

function Slider({ device, to, turn }: Turned & { device: FieldDevice }) {
  return (
    <label className="block text-sm">
      <span className="font-mono">{sayPosition(device, to)}</span>
      <input
        type="range"
        min={0}
        max={STEPS}
        value={Math.round(to * STEPS)}
        aria-label={`${device.name}, value`}
        aria-valuetext={sayPosition(device, to)}
        className="h-8 w-full accent-plum max-lg:h-12"
        onChange={({ target }) => turn(Number(target.value) / STEPS)}
      />
    </label>
  );
}

/** A contact as the trade draws it: a lever that touches, or does not. */
function Symbol({ device, to }: { device: FieldDevice; to: number }) {
  const [first] = 'contacts' in device ? device.contacts : [];
  if (!first || device.kind === 'selector') return null;
  const rests = device.kind === 'safety-relay' ? !first.opens : first.opens;
  const closed = (to === 0) === rests;
  return (
    <svg
      viewBox="0 0 48 16"
      className="h-4 w-12 stroke-ink"
      role="img"
      aria-label={closed ? 'closed' : 'open'}
    >
      <path d="M0 12H14" strokeWidth="1.5" />
      <path d="M32 12H48" strokeWidth="1.5" />
      <path d={closed ? 'M14 12H32' : 'M14 12L31 4'} strokeWidth="2" />
      {first.opens && <path d="M32 12V5" strokeWidth="1.5" />}
    </svg>
  );
}
