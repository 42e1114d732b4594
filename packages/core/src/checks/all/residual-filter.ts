// A filter against disturbances leads a current to earth that a sensitive residual-current device takes for a fault.

import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

/** A device for people trips at 30 mA; a filter of a three-phase unit alone leads away more (IEC 61800-5-1). */
const SENSITIVE = 30;

export const residualFilter: Check = {
  id: 'residual-filter',
  look(look) {
    const { set, outfit, site } = look.ground;
    const filter = set.dictionary.ratings.find(({ id }) => id === outfit.rating)?.fit?.filter ?? null;
    if (filter === null || site.residualMilliamps === null) {
      if (filter !== 'none') look.untold.add('whether a residual-current device stands before the unit');
      return;
    }
    look.sees();
    if (filter !== 'built-in' || site.residualMilliamps === 0 || site.residualMilliamps > SENSITIVE) return;
    look.find(said('residual-filter', { trips: look.text(site.residualMilliamps, 'mA', 1) }), {});
  },
};
