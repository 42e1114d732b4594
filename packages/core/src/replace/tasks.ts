// The wire sheet: what hands do at the cabinet, in the order in which one works. What must be dead comes first; each conductor,
// link and switch has a line of its own. The name of a line holds what it says: a tick of a wire that went to another terminal
// is no tick of this line.

import { terminalsOf, type Dictionary, type Outfit } from '../dictionary/index.ts';
import type { Wiring } from '../wiring/index.ts';
import type { LinkMove, Move, WireMoves } from './wire-moves.ts';

export const PHASES = ['before', 'off', 'board', 'on', 'closing', 'proof'] as const;
export type Phase = (typeof PHASES)[number];

export interface Task {
  readonly id: string;
  readonly phase: Phase;
  readonly text: string;
  /** What to know about it. */
  readonly detail: string;
  /** A computation replaces no look: somebody stands for it with his name, and says how. */
  readonly named: boolean;
}

export interface TaskInput {
  readonly old: Dictionary;
  readonly oldOutfit: Outfit;
  readonly fresh: Dictionary;
  readonly outfit: Outfit;
  readonly wiring: Wiring;
  readonly wires: WireMoves;
  /** The wiring as it will hang on the successor, with all its switches. */
  readonly after: Wiring;
}

export const tasksOf = (input: TaskInput): readonly Task[] => [
  ...before(input),
  ...off(input),
  ...board(input),
  ...on(input),
  ...closing(input),
  ...proof(input),
];

const task = (phase: Phase, id: string, text: string, detail = '', named = false): Task => ({
  ...{ id: `${phase} ${id}`, phase, text, detail, named },
});

function before({ old, oldOutfit, wiring }: TaskInput): readonly Task[] {
  const minutes = old.ratings.find(({ id }) => id === oldOutfit.rating)?.fit?.dischargeMin ?? null;
  const foreign = wiring.devices.filter(
    ({ kind }) => kind === 'supply' || kind === 'controller' || kind === 'safety-relay',
  );
  const names = foreign.map(({ name }) => name).join(', ');
  const wait =
    minutes === null
      ? 'as long as the plate of the old unit says (its model does not tell it)'
      : `${minutes} min`;
  return [
    task(
      'before',
      'stop',
      'Stop the machine and hold what can move',
      'Hanging loads down or held, springs and pressure out.',
      true,
    ),
    task(
      'before',
      'lock',
      'Switch the supply off and lock it off',
      'Your own lock and name at the switch.',
      true,
    ),
    ...(foreign.length === 0
      ? []
      : [
          task(
            'before',
            `foreign ${names}`,
            `Switch off what comes from elsewhere: ${names}`,
            'They stay live when the drive is off.',
            true,
          ),
        ]),
    task(
      'before',
      `wait ${minutes ?? 'plate'}`,
      `Wait ${wait}`,
      'Until the bus of the old unit is discharged.',
    ),
    task(
      'before',
      'dead',
      'Prove dead at mains, motor, bus and control terminals',
      'Tester proved before and after.',
      true,
    ),
    task('before', 'photo', 'Photograph the old unit with its wires, links and switches'),
    task('before', 'number', 'Number every wire that has no number'),
  ];
}

const wireName = ({ number, colour }: Move): string =>
  [number === '' ? 'Wire without a number' : `Wire ${number}`, colour === '' ? '' : `(${colour})`]
    .filter(Boolean)
    .join(' ');

/** In the order in which terminals stand at the unit. */
function inOrder(
  moves: readonly Move[],
  { terminals }: Dictionary,
  end: (move: Move) => string | null,
): readonly Move[] {
  const places = new Map((terminals ? terminalsOf(terminals) : []).map(({ id }, at) => [id, at]));
  const placeOf = (move: Move) => places.get(end(move) ?? '') ?? Infinity;
  return [...moves].sort((a, b) => (placeOf(a) === placeOf(b) ? 0 : placeOf(a) - placeOf(b)));
}

function off({ old, wires: { moves, links } }: TaskInput): readonly Task[] {
  const wires = inOrder(moves, old, ({ from }) => from).map((move) =>
    task('off', `${move.wire} ${move.from}`, `${wireName(move)} off ${move.from}`, `comes from ${move.at}`),
  );
  const plugs = links
    .filter(({ does }) => does === 'out-of-plug')
    .map(({ between, why }) =>
      task(
        'off',
        `plug ${between.join('–')}`,
        `Link ${between.join('–')} out of the plug of the old unit`,
        why,
      ),
    );
  return [
    ...wires,
    ...plugs,
    task(
      'off',
      'power',
      'Mains, motor and earth off; old unit out of the cabinet',
      'Phases of the motor marked: they decide the direction.',
    ),
  ];
}

const LINKS: Readonly<Partial<Record<LinkMove['does'], readonly [id: string, text: string]>>> = {
  'stays-fitted': ['stays', 'stays fitted'],
  fit: ['fit', 'is fitted'],
  'take-out': ['out', 'comes out'],
  'made-anew': ['made', 'is made, as the old unit had it'],
};

function board({ fresh, after, wires: { links } }: TaskInput): readonly Task[] {
  const switches = (fresh.terminals?.switches ?? []).map(({ id, name, places, factory, agreesWith }) => {
    const place = after.switches[id] ?? factory;
    const does = places.find((each) => each.name === place)?.does ?? '';
    const stays = place === factory ? ' (as delivered: look)' : '';
    const with_ = agreesWith === null ? '' : ` Goes with setting ${agreesWith}.`;
    return task(
      'board',
      `switch ${id} ${place}`,
      `${name === '' ? id : `${id} (${name})`} to ${place}${stays}`,
      `${does}.${with_}`.replace(/^\./, ''),
    );
  });
  const own = links.flatMap((link) => {
    const known = LINKS[link.does];
    if (!known) return [];
    const between = link.between.join('–');
    return [task('board', `link ${known[0]} ${between}`, `Link ${between} ${known[1]}`, link.why)];
  });
  return [...switches, ...own];
}

function on({ fresh, wires: { moves } }: TaskInput): readonly Task[] {
  const wires = inOrder(moves, fresh, ({ to }) => to).map((move) =>
    move.to === null
      ? task(
          'on',
          `${move.wire} nowhere`,
          `${wireName(move)} has no place: insulate and mark it`,
          `was ${move.from}, ${move.place}; comes from ${move.at}`,
        )
      : task(
          'on',
          `${move.wire} ${move.to}`,
          `${wireName(move)} to ${move.to}`,
          `was ${move.from}, ${move.place}; comes from ${move.at}`,
        ),
  );
  return [task('on', 'mount', 'New unit in its place, with the room that it needs', roomOf(fresh)), ...wires];
}

function roomOf({ ratings }: Dictionary): string {
  const room = ratings.find(({ fit }) => fit?.clearanceMm)?.fit?.clearanceMm;
  return room ? `${room} mm free above and below.` : 'The model does not tell how much room it needs.';
}

const closing = ({ fresh }: TaskInput): readonly Task[] => [
  task('closing', 'power', 'Mains, motor and earth on', 'Phases of the motor as they were marked.'),
  task(
    'closing',
    'torque',
    'Terminals tightened to their torque',
    `As the plate or manual of the ${fresh.name} says.`,
  ),
  task('closing', 'shield', 'Shields clamped, none hanging free'),
  task('closing', 'earth', 'Protective earth measured', '', true),
  task('closing', 'pull', 'Every wire pulled once', 'A strand in the air is found now.'),
];

function proof({ fresh, wires }: TaskInput): readonly Task[] {
  const safe = (fresh.terminals ? terminalsOf(fresh.terminals) : []).filter(
    ({ kind }) => kind === 'safe-input',
  );
  const links = wires.links.filter(({ between }) =>
    between.some((id) => safe.some((each) => each.id === id)),
  );
  return [
    task(
      'proof',
      'direction',
      'First run uncoupled, or slow: direction as it was',
      'Where it cannot be uncoupled: a jerk at the lowest speed.',
      true,
    ),
    ...(safe.length === 0
      ? []
      : [
          task(
            'proof',
            `safety ${safe.map(({ id }) => id).join(' ')}`,
            'Safety function validated by a named person',
            links.length > 0
              ? 'Linked: nothing takes the torque off by these inputs. Is that what the risk assessment says?'
              : 'Every channel alone, with the drive running. No computation replaces it.',
            true,
          ),
        ]),
    task(
      'proof',
      'stop',
      'Every stop and every protection tried: contacts, thermistor, external fault',
      '',
      true,
    ),
  ];
}
