import { endPoints, fullScale, gainAndBias, twoPoints } from './analog-curve.ts';
import { outputGain, outputShare } from './analog-output.ts';
import type { Conversion } from './conversion.ts';
import { band, derivativeGain, integralGain, loopUnit } from './loop-control.ts';
import { lowerOfTorque } from './lower-of-torque.ts';
import { asItIs, pairs } from './scale.ts';
import { edges, middleAndWidth } from './skip-band.ts';
import type { ConversionName } from '../vocabulary.ts';

export const conversions: Readonly<Record<ConversionName, Conversion>> = {
  'as-it-is': asItIs,
  pairs,
  'lower-of-torque': lowerOfTorque,
  'middle-and-width': middleAndWidth,
  edges,
  'end-points': endPoints,
  'gain-and-bias': gainAndBias,
  'two-points': twoPoints,
  'full-scale': fullScale,
  'output-gain': outputGain,
  'output-share': outputShare,
  band,
  'integral-gain': integralGain,
  'derivative-gain': derivativeGain,
  'loop-unit': loopUnit,
};
