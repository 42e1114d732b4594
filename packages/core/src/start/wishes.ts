// What a draft is to say, meaning by meaning, with who wants it and why. Of two wishes for one meaning the stronger counts: what
// somebody typed over what he answered, that over what is proposed, that over what the wires and the starting point say.

import type { Bridge, Plain } from '../meanings/index.ts';
import { meaningOf, type Meaning } from '../values/index.ts';

export const WISH_FROM = ['base', 'point', 'wires', 'proposed', 'asked', 'plate', 'typed'] as const;
export type WishFrom = (typeof WISH_FROM)[number];

export interface Wish {
  readonly plain: Plain;
  readonly from: WishFrom;
  readonly why: string;
  /** A model that cannot say it takes the duty all the same. */
  readonly may: boolean;
}

type By = Pick<Wish, 'from' | 'why'> & { readonly may?: boolean };

export class Wishes {
  readonly of = new Map<Meaning, Wish>();
  private readonly bridge: Bridge;

  constructor(bridge: Bridge) {
    this.bridge = bridge;
  }

  plain(meaning: string, plain: Plain, { from, why, may = false }: By): void {
    const known = this.of.get(meaningOf(meaning));
    if (known && WISH_FROM.indexOf(known.from) > WISH_FROM.indexOf(from)) return;
    this.of.set(meaningOf(meaning), { plain, from, why, may });
  }

  number(meaning: string, value: number, by: By): void {
    const unit = this.bridge.vocabulary.of(meaningOf(meaning))?.unit ?? '';
    this.plain(meaning, { kind: 'number', value, unit, step: 0, codes: [], how: null }, by);
  }

  choice(meaning: string, option: string, by: By): void {
    this.plain(meaning, { kind: 'choice', option, codes: [], how: null }, by);
  }

  /** For `writePlain`. */
  get wanted(): ReadonlyMap<Meaning, Plain> {
    return new Map([...this.of].map(([meaning, { plain }]) => [meaning, plain]));
  }

  value(meaning: string): number | undefined {
    const plain = this.of.get(meaningOf(meaning))?.plain;
    return plain?.kind === 'number' ? plain.value : undefined;
  }
}
