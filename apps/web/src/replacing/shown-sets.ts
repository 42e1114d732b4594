import type { Dictionary } from '@drive-keep/core/dictionary';
import type { ShownValues } from '@drive-keep/core/replace';
import { formatRaw } from '@drive-keep/core/values';

/** Values of the successor as its keypad shows them. */
export const shownSets = (values: ReadonlyMap<string, number>, fresh: Dictionary): ShownValues =>
  Object.fromEntries(
    [...values].map(([code, raw]) => {
      const form = fresh.parameters.find((each) => each.code === code)?.form;
      return [code, form ? formatRaw(form, raw) : String(raw)];
    }),
  );
