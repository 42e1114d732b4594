// The rules of a model as answered for one set: a rule that a setting decides is answered by that setting.

import { type Answer, type Behaviour, type RuleName } from '../dictionary/index.ts';
import type { PlainSet } from '../meanings/index.ts';

export class Rules {
  private readonly behaviour: Behaviour;
  private readonly set: PlainSet;

  constructor(set: PlainSet) {
    this.behaviour = set.dictionary.behaviour;
    this.set = set;
  }

  /** Nothing where the model does not state it, or the setting that decides it cannot be told. */
  answer<R extends RuleName>(rule: R): Answer<R> | undefined {
    const fact = this.behaviour[rule];
    if (!fact) return undefined;
    if (fact.kind === 'words') return fact.words[0] as Answer<R> | undefined;
    const said = this.set.choice(fact.meaning);
    return said === undefined ? undefined : ((fact.cases[said] ?? said) as Answer<R>);
  }

  list<R extends RuleName>(rule: R): readonly Answer<R>[] {
    const fact = this.behaviour[rule];
    return fact?.kind === 'words' ? (fact.words as readonly Answer<R>[]) : [];
  }

  /** Whether `one` is named, and before `other` where that is named, too. */
  before(one: Answer<'priority'>, other: Answer<'priority'>): boolean {
    const order = this.list('priority');
    const [at, against] = [order.indexOf(one), order.indexOf(other)];
    return at !== -1 && (against === -1 || at < against);
  }
}
