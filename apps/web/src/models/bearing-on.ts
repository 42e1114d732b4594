import { findParameter, type Dictionary, type Fault } from '@drive-keep/core/dictionary';

/** The parameters that bear on a fault, with their names. */
export const bearingOn = (dictionary: Dictionary, { parameters }: Fault) =>
  parameters.map((code) => ({ code, name: findParameter(dictionary, code)?.name ?? '' }));
