// The vocabulary of meanings that comes with the catalogue; read once when the server starts.

import { meaningOf } from '@drive-keep/core/values';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Injectable } from '@nestjs/common';
import { Bridge, readVocabulary, REFERENCE_TERMS, Vocabulary } from '@drive-keep/core/meanings';

@Injectable()
export class Meanings {
  bridge = new Bridge(new Vocabulary([]));

  get vocabulary(): Vocabulary {
    return this.bridge.vocabulary;
  }

  /** `modelsFolder` is beside it in the catalogue; a folder of models alone has none. */
  load(modelsFolder: string): void {
    const file = join(modelsFolder, '../meanings.yaml');
    if (existsSync(file)) this.bridge = new Bridge(readVocabulary(readFileSync(file, 'utf8')));
  }

  /** The trade's words for all meanings and references that something names, wherever it stands in it. */
  termsOf(content: unknown): Readonly<Record<string, string>> {
    const terms: Record<string, string> = {};
    const visit = (value: unknown): void => {
      if (typeof value === 'string') {
        const term = REFERENCE_TERMS[value] ?? this.vocabulary.of(meaningOf(value))?.term;
        if (term !== undefined) terms[value] = term;
      } else if (Array.isArray(value)) value.forEach(visit);
      else if (typeof value === 'object' && value !== null) Object.values(value).forEach(visit);
    };
    visit(content);
    return terms;
  }
}
