// The published formats (docs/formats): the forms of a model are drawn from them.

import type { JsonSchema } from './schema-form.tsx';

const files = import.meta.glob<{ default: JsonSchema }>('../../../../docs/formats/*.schema.json', {
  eager: true,
});

function schema(name: string): JsonSchema {
  const found = Object.entries(files).find(([path]) => path.endsWith(`/${name}.schema.json`))?.[1];
  if (!found) throw new Error(`no schema ${name}`);
  return found.default;
}

export const MODEL_SCHEMA = schema('model');
export const TERMINALS_SCHEMA = schema('terminals');
