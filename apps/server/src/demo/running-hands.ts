// What hands do at a machine of the demo plant so that it runs as it does in production: found by trying what hangs on its
// terminals, so that it holds for every wiring.

import { begin, step, type Event, type Machine, type Stepped } from '@drive-keep/core/behaviour';

/** Contacts, places and keys that somebody works one after the other, at most. */
const MOST_DEEDS = 3;
/** Share of their signal that transmitters and potentiometers send in production. */
const SHARE = 0.62;

/** Events from a supply that is on; nothing where no contact and no key makes the machine run. */
export function handsThatRun(machine: Machine): readonly Event[] | undefined {
  const signals = machine.wiring.devices.flatMap(({ kind, name }): Event[] =>
    kind === 'transmitter' || kind === 'potentiometer' ? [{ kind: 'device', name, to: SHARE }] : [],
  );
  const start = after(machine, begin(machine), [{ kind: 'supply', on: true }, ...signals]);
  const deeds = deedsOf(machine);
  let ways: readonly { readonly done: readonly Event[]; readonly at: Stepped }[] = [{ done: [], at: start }];
  for (let many = 0; many <= MOST_DEEDS; many += 1) {
    const found = ways.find(({ at }) => runsOn(machine, at));
    if (found) return [...signals, ...found.done];
    ways = ways.flatMap(({ done, at }) =>
      deeds.map((deed) => ({ done: [...done, ...deed], at: after(machine, at, deed) })),
    );
  }
  return undefined;
}

/** It goes on running when everything has had its time, and by what production asks for. */
function runsOn(machine: Machine, { state }: Stepped): boolean {
  const { outcome } = step(machine, state, { kind: 'settle' });
  if (outcome.kind !== 'runs' || outcome.direction !== 'forward') return false;
  const { setPoint } = outcome;
  return !['jog', 'fire', 'minimum'].includes(setPoint?.from.kind ?? '') && setPoint?.hertz !== 0;
}

function deedsOf({ wiring }: Machine): readonly (readonly Event[])[] {
  const devices = wiring.devices.flatMap((device): readonly (readonly Event[])[] => {
    const work = (to: number): Event => ({ kind: 'device', name: device.name, to });
    if (device.kind === 'selector') return device.places.slice(1).map((_, at) => [work(at + 1)]);
    if (device.kind === 'controller') return [[work(1)]];
    if (device.kind !== 'contact' || device.what === 'external fault') return [];
    return [device.momentary ? [work(1), work(0)] : [work(1)]];
  });
  return [...devices, [{ kind: 'key', key: 'run' }], [{ kind: 'key', key: 'automatic' }]];
}

const after = (machine: Machine, from: Stepped, events: readonly Event[]): Stepped =>
  events.reduce((at, event) => step(machine, at.state, event), from);
