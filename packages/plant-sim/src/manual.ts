// What the manual says of a rule; for one that a setting decides, what that setting says.

import type { Dictionary } from '@drive-keep/core/dictionary';
import type { Settings } from './settings.ts';

type Fact =
  | { readonly kind: 'words'; readonly words: readonly string[] }
  | { readonly kind: 'by'; readonly meaning: string; readonly cases: Readonly<Record<string, string>> };

export class Manual {
  private readonly facts: Readonly<Record<string, Fact | undefined>>;
  private readonly settings: Settings;

  constructor(dictionary: Dictionary, settings: Settings) {
    this.facts = dictionary.behaviour;
    this.settings = settings;
  }

  rule(name: string): string | undefined {
    const fact = this.facts[name];
    if (fact?.kind !== 'by') return fact?.words[0];
    const said = this.settings.choice(fact.meaning);
    return said === undefined ? undefined : (fact.cases[said] ?? said);
  }

  names(name: string): readonly string[] {
    const fact = this.facts[name];
    return fact?.kind === 'words' ? fact.words : [];
  }
}
