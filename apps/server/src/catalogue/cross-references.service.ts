// Cross-references between two models that come with the catalogue, as they stand in their files.

import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Injectable } from '@nestjs/common';

/** A model by its name alone: a cross-reference holds for all its versions. */
const NAME = /^[a-z0-9][a-z0-9-]*$/;

@Injectable()
export class CrossReferences {
  private folder = '';

  /** `modelsFolder` is beside it in the catalogue. */
  load(modelsFolder: string): void {
    this.folder = join(modelsFolder, '../cross-references');
  }

  /** Nothing where nobody has written one for this pair. */
  textOf(old: string, fresh: string): string | null {
    if (!NAME.test(old) || !NAME.test(fresh)) return null;
    const file = join(this.folder, `${old}--${fresh}.yaml`);
    return existsSync(file) ? readFileSync(file, 'utf8') : null;
  }
}
