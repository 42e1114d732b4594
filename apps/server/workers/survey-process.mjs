// One successor held against many positions, in a process of its own: dozens of sets through the bridge take seconds, in which a
// server would answer nobody. Plain JavaScript over the built core.

import { constants, setPriority } from 'node:os';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import { readCrossReference, survey } from '@drive-keep/core/replace';
import workerpool from 'workerpool';

// People who wait for a screen come first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

function work({ entries, functions, subjects }) {
  const words = new Vocabulary(entries, functions);
  const bridge = new Bridge(words);
  return subjects.map(
    ({ tag, old, fresh, outfit, readings, wiring, onLine, ambient, region, rating, cross, sayings }) => {
      const read = cross === null ? null : readCrossReference(cross, old, fresh);
      const told = survey(
        {
          ...{ bridge, words, fresh, region, rating, cross: read?.ok ? read.value : null },
          old: { set: bridge.read(old, outfit, readings), outfit, wiring, onLine, ambient },
        },
        sayings,
      );
      return { tag, ...told };
    },
  );
}

workerpool.worker({ work });
