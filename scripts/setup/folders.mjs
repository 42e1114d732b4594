import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
export const modelsFolder = join(root, 'packages/catalogue/models');
export const webFolder = join(root, 'apps/web/dist');
export const cacheFolder = join(root, '.cache');
