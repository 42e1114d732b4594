// Which terminal each connection of the field devices goes to: one that the model lets do it. Whoever can go to one place only
// goes there; the others find another (augmenting paths, Kuhn). Where no arrangement of them all is possible, it is said which
// of them has no place.

import { findParameter, terminalsOf, type Dictionary, type Terminal } from '../dictionary/index.ts';
import type { PlainSet } from '../meanings/index.ts';
import { meaningOf } from '../values/index.ts';

export interface WantedRole {
  /** `S1:13-14`. */
  readonly id: string;
  /** What the place has to be able to do: function of an input or an output, or use of an analog input. */
  readonly does: string;
  readonly on: 'input' | 'analog' | 'output';
  /** The function of the input acts while its circuit is open. */
  readonly opens: boolean;
  /** Kind of the analog signal. */
  readonly signal: string;
}

export interface PlacedRole {
  readonly role: WantedRole;
  /** Nothing where the model has no place for it. */
  readonly terminal: Terminal | null;
  readonly number: string;
  /** Terminals that could do it, in the order in which they sit. */
  readonly could: readonly string[];
  /** Why it has no place, or not the one that was chosen. */
  readonly fault: string | null;
}

interface Place {
  readonly terminal: Terminal;
  readonly number: string;
  /** Places of one output have one name. */
  readonly key: string;
}

/** `set` holds the defaults of the model; `chosen` names a terminal for a role. */
export function placeRoles(
  set: PlainSet,
  roles: readonly WantedRole[],
  chosen: ReadonlyMap<string, string>,
): readonly PlacedRole[] {
  const places = placesOf(set.dictionary);
  const term = set.bridge.vocabulary.termOf;
  const candidates = new Map(
    roles.map((role) => [role.id, places[role.on].filter((place) => canDo(set, role, place))] as const),
  );
  const faults = new Map<string, string>();
  const fixed = new Map<string, Place>();
  for (const role of roles) {
    const wanted = chosen.get(role.id);
    if (wanted === undefined) continue;
    const place = candidates.get(role.id)?.find(({ terminal }) => terminal.id === wanted);
    const holder = place && [...fixed].find(([, each]) => each.key === place.key)?.[0];
    if (place && holder === undefined) fixed.set(role.id, place);
    else faults.set(role.id, refusal(set, role, wanted, holder, term));
  }
  const matched = match(roles, candidates, fixed);
  return roles.map((role): PlacedRole => {
    const own = candidates.get(role.id) ?? [];
    const place = matched.get(role.id);
    const none = place
      ? null
      : own.length === 0
        ? `No ${KINDS[role.on]} of the ${set.dictionary.name} can be ${sayRole(role, term)}.`
        : `The ${set.dictionary.name} has too few terminals: nothing is left for ${sayRole(role, term)}.`;
    return {
      ...{ role, terminal: place?.terminal ?? null, number: place?.number ?? '' },
      ...{ could: own.map(({ terminal }) => terminal.id), fault: faults.get(role.id) ?? none },
    };
  });
}

const KINDS = { input: 'input', analog: 'analog input', output: 'output' } as const;

const sayRole = ({ does, on, opens, signal }: WantedRole, term: (name: string) => string): string =>
  on === 'analog'
    ? `${USES[does] ?? term(does)} by ${signal.replace(/-/g, ' ').replace('ma', 'mA').replace(/ v$/, ' V')}`
    : `"${term(does)}"${opens ? ' while its contact is open' : ''}`;

const USES: Readonly<Record<string, string>> = {
  speed: 'the set-point',
  loop: 'the actual value of the loop',
  trim: 'the trim',
};

function refusal(
  set: PlainSet,
  role: WantedRole,
  terminal: string,
  holder: string | undefined,
  term: (name: string) => string,
): string {
  const { name, terminals } = set.dictionary;
  const known = terminals ? terminalsOf(terminals).some(({ id }) => id === terminal) : false;
  if (!known) return `The ${name} has no terminal ${terminal}. It went to another one.`;
  if (holder !== undefined) return `${holder} goes to ${terminal} already. It went to another one.`;
  return `Terminal ${terminal} of the ${name} cannot be ${sayRole(role, term)}. It went to another one.`;
}

/** One place for each role, as many as there can be. */
function match(
  roles: readonly WantedRole[],
  candidates: ReadonlyMap<string, readonly Place[]>,
  fixed: ReadonlyMap<string, Place>,
): ReadonlyMap<string, Place> {
  const held = new Map<string, string>([...fixed].map(([role, { key }]) => [key, role]));
  const placed = new Map<string, Place>(fixed);
  const take = (role: string, place: Place): void => {
    held.set(place.key, role);
    placed.set(role, place);
  };
  const seat = (role: string, seen: Set<string>): boolean => {
    const own = candidates.get(role) ?? [];
    // Nobody moves for whoever finds a free place.
    const free = own.find(({ key }) => !held.has(key));
    if (free) take(role, free);
    if (free) return true;
    for (const place of own) {
      const holder = held.get(place.key) ?? '';
      if (seen.has(place.key) || fixed.has(holder)) continue;
      seen.add(place.key);
      if (!seat(holder, seen)) continue;
      take(role, place);
      return true;
    }
    return false;
  };
  for (const { id } of roles) if (!fixed.has(id)) seat(id, new Set());
  return placed;
}

function canDo(set: PlainSet, { does, on, opens, signal }: WantedRole, { terminal, number }: Place): boolean {
  if (on === 'input') {
    if (terminal.owner === 'program') return false;
    return (
      takes(set, `input.${number}.function`, does) &&
      takes(set, `input.${number}.sense`, opens ? 'open' : 'closed')
    );
  }
  if (on === 'output') return takes(set, `output.${number}.function`, does);
  if (!takesSignal(set, number, signal)) return false;
  if (does === 'loop') return takes(set, 'loop.feedback', `analog-${number}`);
  if (does === 'trim') return takes(set, 'trim.source', `analog-${number}`);
  return (
    takes(set, 'speed.source', `source.analog.${number}`) ||
    set.choice(meaningOf('analog.1.use')) !== undefined
  );
}

/** A live zero may be told by an option of its own. */
function takesSignal(set: PlainSet, number: string, signal: string): boolean {
  if (takes(set, `analog.${number}.signal`, signal)) return true;
  const plain = { '4-20-ma': '0-20-ma', '2-10-v': '0-10-v' }[signal];
  const live = set.carrierOf(meaningOf(`analog.${number}.liveZero`));
  return plain !== undefined && live !== undefined && takes(set, `analog.${number}.signal`, plain);
}

/** Whether the model can say this option of this meaning. */
export function takes(set: PlainSet, meaning: string, option: string): boolean {
  const carrier = set.carrierOf(meaningOf(meaning));
  if (!carrier) return false;
  switch (carrier.kind) {
    case 'fixed':
      return carrier.fixed.kind === 'choice' && carrier.fixed.is === option;
    case 'said':
      return carrier.sayers.some(({ saying }) => saying.is === option || saying.else === option);
    case 'parameter': {
      const { form, named } = carrier.parameter;
      if (form.kind !== 'option') return named.some((each) => each.meaning === option);
      return form.options.some(({ meaning: own, instead }) => own === option || instead?.meaning === option);
    }
    case 'poles-from-plate':
      return false;
  }
}

function placesOf(dictionary: Dictionary): Readonly<Record<WantedRole['on'], readonly Place[]>> {
  const found: Record<WantedRole['on'], Place[]> = { input: [], analog: [], output: [] };
  for (const terminal of dictionary.terminals ? terminalsOf(dictionary.terminals) : []) {
    const meaning = terminal.setBy === null ? null : findParameter(dictionary, terminal.setBy)?.meaning;
    const number = /\d+/.exec(meaning ?? '')?.[0];
    if (number === undefined) continue;
    const on =
      terminal.kind === 'digital-input' ? 'input' : terminal.kind === 'analog-input' ? 'analog' : 'output';
    if (on === 'output' && terminal.kind !== 'relay' && terminal.kind !== 'digital-output') continue;
    // A relay is one place, at the side that closes.
    if (terminal.contact !== null && terminal.contact.side !== 'closes') continue;
    found[on].push({ terminal, number, key: `${on} ${number}` });
  }
  found.output.sort((a, b) => Number(a.terminal.kind !== 'relay') - Number(b.terminal.kind !== 'relay'));
  return found;
}
