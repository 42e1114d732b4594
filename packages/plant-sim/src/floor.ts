// The hands at the machine: the devices that hang on a unit's terminals, as a list of conductors. A terminal is live when a way
// of closed contacts leads from it to a potential; ways are searched anew at every look.

export interface FloorDevice {
  readonly name: string;
  readonly kind: string;
  /** In words, for the hands. */
  readonly what?: string;
  /** It goes back by itself. */
  readonly momentary?: boolean;
  /** Contacts by their two connections; true where one opens when it is worked. */
  readonly contacts: readonly { readonly between: readonly [string, string]; readonly opens: boolean }[];
  /** Contacts that are closed in each place of a selector, by number. */
  readonly places?: readonly (readonly number[])[];
  /** All open on the way from place to place. */
  readonly gap?: boolean;
  /** Kind of signal that it sends, and where: `out`, or `-` of one with two wires. */
  readonly signal?: string;
  readonly sendsAt?: string;
}

export interface FloorPlan {
  readonly devices: readonly FloorDevice[];
  /** Wires and links by name, with the two ends that each joins: `12`, `S2:13`. */
  readonly conductors: Readonly<Record<string, readonly [string, string]>>;
  readonly logic: 'sourcing' | 'sinking';
}

/** What a strip offers: which of its terminals are potentials. */
export interface StripFacts {
  readonly plus: readonly string[];
  readonly zero: readonly string[];
  /** What a potentiometer can be fed by. */
  readonly supplies: readonly { readonly id: string; readonly volts: number }[];
  /** Common of the inputs that has to be joined to the other side by its link; nothing where the unit has it inside. */
  readonly common?: string;
}

const ENDS: Readonly<Record<string, readonly [number, number]>> = {
  '0-10-v': [0, 10],
  '2-10-v': [2, 10],
  '0-20-ma': [0, 20],
  '4-20-ma': [4, 20],
  'bipolar-10-v': [-10, 10],
};

/** Looks after which a relay that feeds itself through its own contact counts as chattering. */
const CHATTER = 8;

export class Floor {
  /** 1 for worked, the place of a selector, the share of a signal. */
  private readonly stands = new Map<string, number>();
  /** Conductors by name, or all of one end: `at S1:13`. */
  private readonly torn = new Set<string>();
  private gives = false;
  /** Field relays whose coils have voltage. */
  private pulled: ReadonlySet<string> = new Set();
  /** Ways that were searched since something last switched: a signal that moves switches nothing. */
  private ways = new Map<string, boolean>();
  readonly plan: FloorPlan;
  /** Conductors that somebody has taken to the other's terminal. */
  private readonly crossed = new Map<string, readonly [string, string]>();
  private readonly strip: StripFacts;

  constructor(plan: FloorPlan, strip: StripFacts) {
    this.plan = plan;
    this.strip = strip;
  }

  get positions(): ReadonlyMap<string, number> {
    return this.stands;
  }

  get broken(): ReadonlySet<string> {
    return this.torn;
  }

  put(name: string, to: number): void {
    this.stands.set(name, to);
    const device = this.plan.devices.find((each) => each.name === name);
    if (device?.signal === undefined && device?.kind !== 'potentiometer') this.ways.clear();
  }

  cut(conductor: string, broken: boolean): void {
    if (broken) this.torn.add(conductor);
    else this.torn.delete(conductor);
    this.ways.clear();
  }

  /** Whether the unit gives its own supplies. */
  set supplied(on: boolean) {
    this.gives = on;
    this.ways.clear();
  }

  get supplied(): boolean {
    return this.gives;
  }

  /** Whether a digital terminal has the potential that its logic wants. */
  isLive(terminal: string): boolean {
    const ends = this.plan.logic === 'sourcing' ? this.plus : this.zero;
    return this.commonIsJoined && ends.some((end) => this.leads(terminal, end));
  }

  private get commonIsJoined(): boolean {
    const { common } = this.strip;
    const other = this.plan.logic === 'sourcing' ? this.zero : this.plus;
    return common === undefined || other.some((end) => this.leads(common, end));
  }

  private get plus(): readonly string[] {
    return [...(this.supplied ? this.strip.plus : []), ...this.fedBy('+')];
  }

  private get zero(): readonly string[] {
    return [...this.strip.zero, ...this.fedBy('-')];
  }

  /** Supplies of the cabinet, and outputs of controllers that are on. */
  private fedBy(side: '+' | '-'): readonly string[] {
    return this.plan.devices
      .filter(({ kind, name }) => kind === 'supply' || (kind === 'controller' && this.isWorked(name)))
      .map(({ name }) => `${name}:${side}`);
  }

  private isWorked = (name: string): boolean => (this.stands.get(name) ?? 0) !== 0;

  /** Lets field relays pull in or drop, until they stay or have chattered long enough. */
  pull(): void {
    const relays = this.plan.devices.filter(({ kind }) => kind === 'relay');
    for (let round = 0; round < CHATTER; round += 1) {
      const fed = (end: string, ends: readonly string[]) => ends.some((each) => this.leads(end, each));
      const isFed = ({ name }: FloorDevice) =>
        [['A1', 'A2'] as const, ['A2', 'A1'] as const].some(
          ([a, b]) => fed(`${name}:${a}`, this.plus) && fed(`${name}:${b}`, this.zero),
        );
      const next = new Set(relays.filter(isFed).map(({ name }) => name));
      const stays = next.size === this.pulled.size && [...next].every((name) => this.pulled.has(name));
      if (stays) return;
      this.pulled = next;
      this.ways.clear();
    }
  }

  leads(from: string, to: string): boolean {
    const way = `${from} ${to}`;
    const known = this.ways.get(way);
    if (known !== undefined) return known;
    const found = this.search(from, to);
    this.ways.set(way, found);
    return found;
  }

  private search(from: string, to: string): boolean {
    const seen = new Set([from]);
    const ahead = [from];
    while (ahead.length > 0) {
      const at = ahead.shift() ?? '';
      if (at === to) return true;
      for (const next of this.nextTo(at))
        if (!seen.has(next)) {
          seen.add(next);
          ahead.push(next);
        }
    }
    return false;
  }

  /** V or mA at an analog terminal, with the kind of its sender; nothing where none is connected. */
  signalAt(terminal: string): { readonly kind: string; readonly value: number } | undefined {
    for (const { name, kind, signal, sendsAt = 'out' } of this.plan.devices) {
      if (kind === 'potentiometer' && this.leads(terminal, `${name}:2`)) {
        const feed = this.strip.supplies.find(({ id }) => this.leads(id, `${name}:1`));
        return { kind: '0-10-v', value: (feed?.volts ?? 0) * (this.stands.get(name) ?? 0) };
      }
      if (signal === undefined || !this.leads(terminal, `${name}:${sendsAt}`)) continue;
      const [low, high] = ENDS[signal] ?? [0, 0];
      return { kind: signal, value: low + (high - low) * (this.stands.get(name) ?? 0) };
    }
    return undefined;
  }

  /** Two conductors change their places at the strip; a second time puts them right. Throws where one of them has no place there. */
  cross(one: string, other: string): void {
    const [a, b] = [this.endsOf(one), this.endsOf(other)];
    const [atA, atB] = [a, b].map((ends) => ends.findIndex((end) => !end.includes(':')));
    if (atA === undefined || atB === undefined || atA < 0 || atB < 0)
      throw new Error(`${one} and ${other} do not both end at a terminal of the unit`);
    this.ways.clear();
    this.crossed.set(one, a.map((end, at) => (at === atA ? (b[atB] ?? end) : end)) as [string, string]);
    this.crossed.set(other, b.map((end, at) => (at === atB ? (a[atA] ?? end) : end)) as [string, string]);
  }

  private endsOf(name: string): readonly [string, string] {
    const ends = this.crossed.get(name) ?? this.plan.conductors[name];
    if (!ends) throw new Error(`no conductor ${name}`);
    return ends;
  }

  /** Where each conductor is joined now, by name. */
  get joined(): Readonly<Record<string, readonly [string, string]>> {
    return Object.fromEntries(Object.keys(this.plan.conductors).map((name) => [name, this.endsOf(name)]));
  }

  private nextTo(end: string): readonly string[] {
    const pairs = [
      ...Object.keys(this.plan.conductors)
        .map((name) => [name, this.endsOf(name)] as const)
        .filter(([name, pair]) => !this.torn.has(name) && !pair.some((end) => this.torn.has(`at ${end}`)))
        .map(([, pair]) => pair),
      ...this.plan.devices.flatMap((device) => this.closedIn(device)),
    ];
    return pairs.flatMap(([a, b]) => (a === end ? [b] : b === end ? [a] : []));
  }

  private closedIn({ name, kind, contacts, places }: FloorDevice): readonly (readonly [string, string])[] {
    const position = this.stands.get(name) ?? 0;
    // A winding that is not warm conducts; a safety relay lets its contacts go when somebody trips it.
    if (kind === 'sensor') return position === 0 ? [[`${name}:T1`, `${name}:T2`]] : [];
    const acts = kind === 'relay' ? this.pulled.has(name) : (position !== 0) !== (kind === 'safety-relay');
    return contacts
      .filter(({ opens }, at) => {
        if (kind === 'selector') return (places?.[position] ?? []).includes(at) !== opens;
        return acts !== opens;
      })
      .map(({ between: [a, b] }) => [`${name}:${a}`, `${name}:${b}`] as const);
  }

  /** A selector that breaks before it makes is open between its places. */
  passesGap(name: string): boolean {
    return this.plan.devices.find((each) => each.name === name)?.gap === true;
  }
}
