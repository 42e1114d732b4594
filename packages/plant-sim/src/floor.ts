// The hands at the machine: the devices that hang on a unit's terminals, as a list of conductors. A terminal is live when a way
// of closed contacts leads from it to a potential; ways are searched anew at every look.

export interface FloorDevice {
  readonly name: string;
  readonly kind: string;
  /** Contacts by their two connections; true where one opens when it is worked. */
  readonly contacts: readonly { readonly between: readonly [string, string]; readonly opens: boolean }[];
  /** Contacts that are closed in each place of a selector, by number. */
  readonly places?: readonly (readonly number[])[];
  /** All open on the way from place to place. */
  readonly gap?: boolean;
  /** Kind of signal that it sends. */
  readonly signal?: string;
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

export class Floor {
  /** 1 for worked, the place of a selector, the share of a signal. */
  readonly positions = new Map<string, number>();
  readonly broken = new Set<string>();
  /** Pairs that the drive's own relays join now. */
  relays: readonly (readonly [string, string])[] = [];
  private readonly plan: FloorPlan;
  private readonly strip: StripFacts;

  constructor(plan: FloorPlan, strip: StripFacts) {
    this.plan = plan;
    this.strip = strip;
  }

  /** Whether a digital terminal has the potential that its logic wants. */
  isLive(terminal: string): boolean {
    const ends = this.plan.logic === 'sourcing' ? this.strip.plus : this.strip.zero;
    return this.commonIsJoined && ends.some((end) => this.leads(terminal, end));
  }

  private get commonIsJoined(): boolean {
    const { common, plus, zero } = this.strip;
    const other = this.plan.logic === 'sourcing' ? zero : plus;
    return common === undefined || other.some((end) => this.leads(common, end));
  }

  leads(from: string, to: string): boolean {
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
    for (const { name, signal } of this.plan.devices) {
      if (signal === undefined || !this.leads(terminal, `${name}:out`)) continue;
      const [low, high] = ENDS[signal] ?? [0, 0];
      return { kind: signal, value: low + (high - low) * (this.positions.get(name) ?? 0) };
    }
    return undefined;
  }

  private nextTo(end: string): readonly string[] {
    const pairs = [
      ...Object.entries(this.plan.conductors)
        .filter(([name]) => !this.broken.has(name))
        .map(([, pair]) => pair),
      ...this.relays,
      ...this.plan.devices.flatMap((device) => this.closedIn(device)),
    ];
    return pairs.flatMap(([a, b]) => (a === end ? [b] : b === end ? [a] : []));
  }

  private closedIn({ name, kind, contacts, places }: FloorDevice): readonly (readonly [string, string])[] {
    const position = this.positions.get(name) ?? 0;
    return contacts
      .filter(({ opens }, at) => {
        if (kind === 'selector') return (places?.[position] ?? []).includes(at) !== opens;
        return (position !== 0) !== opens;
      })
      .map(({ between: [a, b] }) => [`${name}:${a}`, `${name}:${b}`] as const);
  }

  /** A selector that breaks before it makes is open between its places. */
  passesGap(name: string): boolean {
    return this.plan.devices.find((each) => each.name === name)?.gap === true;
  }
}
