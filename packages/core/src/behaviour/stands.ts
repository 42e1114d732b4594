// All ways in which the devices of a machine can stand, each by a number: places are digits, one for each device.

import type { FieldDevice } from '../wiring/index.ts';
import type { State } from './state.ts';
import { BETWEEN } from './step.ts';

interface Digit {
  readonly device: FieldDevice;
  /** As in `State.devices`; the first is how it rests. */
  readonly positions: readonly number[];
  readonly weight: number;
}

export class Stands {
  readonly count: number;
  private readonly digits: readonly Digit[];
  private readonly indexes: ReadonlyMap<string, number>;

  /** `positionsOf` begins with 0. What a selector makes of the gap between its places is added. */
  constructor(
    devices: readonly FieldDevice[],
    positionsOf: (device: FieldDevice) => readonly number[] = positionsIn,
  ) {
    let weight = 1;
    const digits: Digit[] = [];
    for (const device of devices) {
      const gap = device.kind === 'selector' && device.between === 'open' ? [BETWEEN] : [];
      const positions = [...positionsOf(device), ...gap];
      digits.push({ device, positions, weight });
      weight *= positions.length;
    }
    this.count = weight;
    this.digits = digits;
    this.indexes = new Map(devices.map(({ name }, at) => [name, at]));
  }

  /** Number of a device; nothing for one that always rests. */
  indexOf(name: string): number | undefined {
    return this.indexes.get(name);
  }

  /** Number of a position of a device. */
  placeOf(index: number, position: number): number {
    const place = (this.digits[index] as Digit).positions.indexOf(position);
    if (place === -1) throw new Error(`device ${index} has no position ${position}`);
    return place;
  }

  placesOf = (index: number): number => (this.digits[index] as Digit).positions.length;

  placeIn(stand: number, index: number): number {
    const { weight, positions } = this.digits[index] as Digit;
    return Math.floor(stand / weight) % positions.length;
  }

  moved(stand: number, index: number, place: number): number {
    return stand + (place - this.placeIn(stand, index)) * (this.digits[index] as Digit).weight;
  }

  devices(stand: number): State['devices'] {
    const standing: Record<string, number> = {};
    for (const [index, { device, positions }] of this.digits.entries()) {
      const position = positions[this.placeIn(stand, index)] ?? 0;
      if (position !== 0) standing[device.name] = position;
    }
    return standing;
  }

  numberOf(devices: State['devices']): number {
    let stand = 0;
    for (const [name, position] of Object.entries(devices)) {
      const index = this.indexOf(name);
      if (index === undefined) throw new Error(`no such device: ${name}`);
      stand = this.moved(stand, index, this.placeOf(index, position));
    }
    return stand;
  }
}

/** Where a signal is looked at in a walk: at its ends and between; its corners are looked at where it counts. */
const SHARES = [0, 0.5, 1];

/** Positions that somebody, or the process, can bring a device to. */
export function positionsIn(device: FieldDevice): readonly number[] {
  switch (device.kind) {
    case 'selector':
      return device.places.map((_, at) => at);
    case 'potentiometer':
    case 'transmitter':
      return SHARES;
    case 'load':
    case 'brake':
    case 'relay':
    case 'supply':
      return [0];
    default:
      return [0, 1];
  }
}
