// What is joined by wires and links, and what a closed contact would join besides.

import { contactsOf, endsOf, type FieldDevice } from './device.ts';
import { showEnd, type Wiring } from './wiring.ts';

/** Ends by name: `12`, `S2:13`. */
export class Nets {
  private readonly parent = new Map<string, string>();
  private readonly across = new Map<string, Set<string>>();

  constructor({ devices, wires, links }: Wiring) {
    for (const { from, to } of wires) this.join(showEnd(from), showEnd(to));
    for (const { between } of links) this.join(...between);
    for (const device of devices) for (const [a, b] of pathsOf(device)) this.bridge(a, b);
  }

  /** A name for all that is joined to an end without any contact. */
  of(end: string): string {
    const parent = this.parent.get(end);
    return parent === undefined || parent === end ? end : this.of(parent);
  }

  same = (a: string, b: string): boolean => this.of(a) === this.of(b);

  /** All nets that can be reached from an end while every contact is closed, its own among them. */
  reach(end: string): ReadonlySet<string> {
    const found = new Set<string>();
    const waiting = [this.of(end)];
    for (let net = waiting.pop(); net !== undefined; net = waiting.pop()) {
      if (found.has(net)) continue;
      found.add(net);
      for (const [from, others] of this.across)
        if (this.of(from) === net) for (const other of others) waiting.push(this.of(other));
    }
    return found;
  }

  private join(a: string, b: string): void {
    const [one, other] = [this.of(a), this.of(b)];
    if (one !== other) this.parent.set(one, other);
  }

  private bridge(a: string, b: string): void {
    for (const [from, to] of [
      [a, b],
      [b, a],
    ] as const) {
      const others = this.across.get(from) ?? new Set();
      others.add(to);
      this.across.set(from, others);
    }
  }
}

/** Ways through a device that its contacts make. */
function pathsOf(device: FieldDevice): readonly (readonly [string, string])[] {
  const at = (connection: string) => `${device.name}:${connection}`;
  const contacts = contactsOf(device).map(({ name }) => {
    const [a, b] = endsOf(name);
    return [at(a), at(b)] as const;
  });
  return device.kind === 'sensor' ? [[at('T1'), at('T2')]] : contacts;
}
