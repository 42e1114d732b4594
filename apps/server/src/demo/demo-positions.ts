import { bodyPreparation } from './body-preparation.ts';
import { drying } from './drying.ts';
import { glazing } from './glazing.ts';
import { kilnOne } from './kiln-one.ts';
import { packing } from './packing.ts';
import { pressing } from './pressing.ts';
import type { DemoPosition } from './story.ts';

/** All positions in the order of the plant, from raw material to packed tile. */
export const demoPositions = (): readonly DemoPosition[] => [
  ...bodyPreparation,
  ...pressing,
  ...drying,
  ...glazing,
  ...kilnOne(),
  ...packing,
];
