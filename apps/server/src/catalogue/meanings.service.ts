// The vocabulary of meanings that comes with the catalogue; read once when the server starts.

import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Injectable } from '@nestjs/common';
import { readVocabulary, Vocabulary } from '@drive-keep/core/meanings';

@Injectable()
export class Meanings {
  vocabulary = new Vocabulary([]);

  /** `modelsFolder` is beside it in the catalogue; a folder of models alone has none. */
  load(modelsFolder: string): void {
    const file = join(modelsFolder, '../meanings.yaml');
    if (existsSync(file)) this.vocabulary = readVocabulary(readFileSync(file, 'utf8'));
  }
}
