// What the answers of a circuit depend on: of each question the devices, outputs and conductors on any way from its terminal
// to a potential. What lies beyond a potential decides nothing, as long as no two potentials can ever be joined.

import type { Machine } from './machine.ts';

export type Asked = 'closed' | 'safe' | 'signals';
export type Question = readonly [of: Asked, terminal: string];

/** `device S1`, `output 1`, `wire 3`. */
export type Cone = ReadonlySet<string>;

/** Everything that a turn may ask of a circuit. */
export const questionsOf = ({ inputs, safeInputs, analogs }: Machine): readonly Question[] => [
  ...inputs.map(({ terminal }) => ['closed', terminal] as const),
  ...safeInputs.map((id) => ['safe', id] as const),
  ...analogs.map(({ terminal }) => ['signals', terminal] as const),
];

/** One for each question; nothing where field relays take part, or where two potentials can be joined. */
export function conesOf(machine: Machine): readonly Cone[] | undefined {
  const { conductors, wiring } = machine;
  if (wiring.devices.some(({ kind }) => kind === 'relay')) return undefined;
  const sources = [...conductors.sources()];
  const next = new Map<number, { readonly to: number; readonly by: readonly string[] }[]>();
  const lead = (from: number, to: number, by: readonly string[]) =>
    next.set(from, [...(next.get(from) ?? []), { to, by }]);
  for (const { a, b, by } of conductors.bridges) {
    lead(a, b, by);
    lead(b, a, by);
  }
  const potentials = new Map<number, readonly string[]>();
  for (const { end, of } of sources) potentials.set(end, [...(potentials.get(end) ?? []), of]);
  const lasting = new Set(sources.flatMap(({ end, by }) => (by.length === 0 ? [end] : [])));
  /** Ends that can be come to, through lasting potentials or as far as them. */
  const reach = (
    from: readonly number[],
    through: boolean,
    pass: (by: readonly string[]) => void = () => {},
  ) => {
    const [reached, waiting] = [new Set(from), [...from]];
    for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
      if (!through && lasting.has(at)) continue;
      for (const { to, by } of next.get(at) ?? []) {
        pass(by);
        if (reached.has(to)) continue;
        reached.add(to);
        waiting.push(to);
      }
    }
    return reached;
  };
  for (const { end, of } of sources)
    for (const each of reach([end], true))
      if (potentials.get(each)?.some((other) => other !== of)) return undefined;
  return questionsOf(machine).map(([of, terminal]) => {
    const cone = new Set<string>();
    const take = (ends: readonly number[]) => {
      for (const end of reach(ends, false, (by) => by.forEach((each) => cone.add(each)))) {
        for (const { end: own, by } of sources) if (own === end) by.forEach((each) => cone.add(each));
        const sender = of === 'signals' ? conductors.senderAt(end) : undefined;
        if (sender === undefined || cone.has(`signal ${sender}`)) continue;
        cone.add(`signal ${sender}`);
        cone.add(`device ${sender}`);
        take([conductors.feedOf(sender)]);
      }
    };
    take(conductors.endsOf(of, terminal));
    return cone;
  });
}
